using GateSplit.Core.Charts;

namespace GateSplit.Core.Planning;

/// <summary>Seats the lines of one source in one pass on its ports, counting upward, so that they do not cross.</summary>
internal static class PortSeats
{
    /// <summary>The left side of a port.</summary>
    public const int Left = 1;

    /// <summary>The right side of a port.</summary>
    public const int Right = 2;

    /// <summary>The ports a line with ports of its own could take, with the sides it would hold: single ports before pairs for a mono one.</summary>
    /// <param name="need">The line.</param>
    /// <param name="ports">The ports of its source.</param>
    /// <param name="held">The sides that are taken.</param>
    public static IEnumerable<(ChartPort Port, int Sides)> Possible(PassPlan.Need need, IReadOnlyList<ChartPort> ports, IReadOnlyDictionary<int, int> held)
    {
        foreach (var port in ports.Where(p => need.Ports.Contains(p.Number) && p.Width >= need.Width).OrderBy(p => p.Width))
        {
            var taken = held.GetValueOrDefault(port.Number);

            // Two mono lines that can leave by one pair only share it without being asked.
            int[] wishes = need.Width == Width.Stereo || port.Width == Width.Mono ? [Left | Right] : need.Side == 1 ? [Right, Left] : [Left, Right];
            foreach (var sides in wishes.Where(w => (taken & w) == 0))
            {
                yield return (port, sides);
            }
        }
    }

    /// <summary>Seats them.</summary>
    /// <param name="needs">All lines.</param>
    /// <param name="lines">Those of this source in this pass, in order: there is space for them.</param>
    /// <param name="ports">Its ports, in order.</param>
    /// <param name="hardPan">True if two mono lines may share a pair.</param>
    /// <param name="pass">The pass.</param>
    /// <param name="seats">Told where each goes.</param>
    public static void Of(IReadOnlyList<PassPlan.Need> needs, IReadOnlyList<int> lines, IReadOnlyList<ChartPort> ports, bool hardPan, int pass, PassPlan.Seat?[] seats)
    {
        var held = new Dictionary<int, int>();
        SeatHeld(needs, [.. lines.Where(i => !needs[i].Ports.IsEmpty)], 0, ports, held, pass, seats);
        var anywhere = lines.Where(i => needs[i].Ports.IsEmpty).ToList();
        SeatAnywhere(needs, anywhere, ports, held, hardPan, pass, seats);
        Straighten(needs, anywhere, seats);
    }

    /// <summary>Lines with ports of their own, each on the first of them that leaves one for those that follow.</summary>
    private static bool SeatHeld(
        IReadOnlyList<PassPlan.Need> needs, List<int> lines, int at, IReadOnlyList<ChartPort> ports, Dictionary<int, int> held, int pass, PassPlan.Seat?[] seats)
    {
        if (at == lines.Count)
        {
            return true;
        }

        foreach (var (port, sides) in Possible(needs[lines[at]], ports, held).ToList())
        {
            var before = held.GetValueOrDefault(port.Number);
            held[port.Number] = before | sides;
            seats[lines[at]] = new PassPlan.Seat(pass, port, sides == Right ? 1 : 0);
            if (SeatHeld(needs, lines, at + 1, ports, held, pass, seats))
            {
                return true;
            }

            held[port.Number] = before;
        }

        return false;
    }

    private static void SeatAnywhere(
        IReadOnlyList<PassPlan.Need> needs, List<int> lines, IReadOnlyList<ChartPort> ports, Dictionary<int, int> held, bool hardPan, int pass, PassPlan.Seat?[] seats)
    {
        var free = ports.Where(p => !held.ContainsKey(p.Number)).ToList();
        var stereoToCome = lines.Count(i => needs[i].Width == Width.Stereo);
        var mono = lines.Count - stereoToCome;
        var sparePairs = free.Count(p => p.Width == Width.Stereo) - stereoToCome;

        // Pairs are shared only as far as it takes to seat everybody.
        var space = free.Count(p => p.Width == Width.Mono) + sparePairs;
        var halves = hardPan ? ports.Where(p => p.Width == Width.Stereo && held.GetValueOrDefault(p.Number) is Left or Right).ToList() : [];
        var halfSeats = Math.Clamp(mono - space, 0, halves.Count);
        var shared = hardPan ? Math.Clamp(mono - space - halfSeats, 0, sparePairs) : 0;
        ChartPort? half = null;
        foreach (var i in lines)
        {
            if (needs[i].Width == Width.Stereo)
            {
                stereoToCome--;
                var pair = free.First(p => p.Width == Width.Stereo);
                free.Remove(pair);
                seats[i] = new PassPlan.Seat(pass, pair, 0);
            }
            else if (half is not null)
            {
                seats[i] = new PassPlan.Seat(pass, half, 1);
                half = null;
            }
            else if (halfSeats > 0)
            {
                halfSeats--;
                seats[i] = new PassPlan.Seat(pass, halves[0], held[halves[0].Number] == Left ? 1 : 0);
                halves.RemoveAt(0);
            }
            else
            {
                var port = MonoPort(free, stereoToCome);
                free.Remove(port);
                seats[i] = new PassPlan.Seat(pass, port, 0);
                if (port.Width == Width.Stereo && shared > 0)
                {
                    half = port;
                    shared--;
                }
            }
        }
    }

    /// <summary>Lines that could as well change places take them in order.</summary>
    private static void Straighten(IReadOnlyList<PassPlan.Need> needs, List<int> lines, PassPlan.Seat?[] seats)
    {
        foreach (var alike in lines.GroupBy(i => needs[i].Width))
        {
            var places = alike.Select(i => seats[i]).OrderBy(s => (s!.Port.Number, s.Side)).ToList();
            foreach (var (line, place) in alike.Zip(places))
            {
                seats[line] = place;
            }
        }
    }

    /// <summary>The first port, unless it is a pair that a stereo line further on needs.</summary>
    private static ChartPort MonoPort(List<ChartPort> free, int stereoToCome) =>
        free.Count(p => p.Width == Width.Stereo) > stereoToCome ? free[0] : free.First(p => p.Width == Width.Mono);
}
