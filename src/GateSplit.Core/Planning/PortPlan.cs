using System.Collections.Immutable;
using GateSplit.Core.Charts;

namespace GateSplit.Core.Planning;

/// <summary>
/// Gives lines ports and passes, in the fewest passes there can be: a line that can leave by one port only takes it in
/// the first pass in which it is free; then, pass by pass, stereo lines take pairs and mono lines what is left. Since
/// every stereo line needs one pair somewhere, no other order leaves more space for the mono ones.
/// </summary>
internal static class PortPlan
{
    /// <summary>One line that needs a port.</summary>
    /// <param name="Width">Its width.</param>
    /// <param name="Only">The only port it can leave by; null for any that fits.</param>
    /// <param name="Side">On a pair: 1 if it is to have the right side; null if it does not matter.</param>
    /// <param name="Set">What it has in common with lines that belong into the same pass; null for nothing.</param>
    public sealed record Need(Width Width, int? Only, int? Side, string? Set = null);

    /// <summary>Where a line goes.</summary>
    public sealed record Seat(ChartPort Port, int Side, int Pass);

    /// <summary>Works it out.</summary>
    /// <param name="needs">The lines, in order.</param>
    /// <param name="ports">The ports that may be used, in order.</param>
    /// <param name="taken">Ports that are in use in every pass.</param>
    /// <param name="hardPan">True if two mono lines may share a pair.</param>
    /// <returns>A seat for each line, null for one that fits on no port at all.</returns>
    public static ImmutableArray<Seat?> Of(
        IReadOnlyList<Need> needs, IReadOnlyList<ChartPort> ports, IReadOnlySet<int> taken, bool hardPan)
    {
        var seats = new Seat?[needs.Count];
        var used = new HashSet<(int Pass, int Port, int Side)>();
        var open = ports.Where(p => !taken.Contains(p.Number)).ToList();
        SeatFixed(needs, ports, taken, seats, used);
        var waiting = Enumerable.Range(0, needs.Count).Where(i => needs[i].Only is null && open.Any(p => p.Width >= needs[i].Width)).ToList();
        for (var pass = 1; waiting.Count > 0; pass++)
        {
            Fill(needs, open, seats, used, waiting, pass, hardPan);
        }

        Straighten(needs, seats);

        return [.. seats];
    }

    /// <summary>Lines that could as well change places take them in order, so that they do not cross.</summary>
    private static void Straighten(IReadOnlyList<Need> needs, Seat?[] seats)
    {
        var alike = Enumerable.Range(0, needs.Count)
            .Where(i => needs[i].Only is null && seats[i] is not null)
            .GroupBy(i => (seats[i]!.Pass, needs[i].Width));
        foreach (var lines in alike)
        {
            var places = lines.Select(i => seats[i]).OrderBy(s => (s!.Port.Number, s.Side)).ToList();
            foreach (var (line, place) in lines.Zip(places))
            {
                seats[line] = place;
            }
        }
    }

    private static void SeatFixed(
        IReadOnlyList<Need> needs, IReadOnlyList<ChartPort> ports, IReadOnlySet<int> taken, Seat?[] seats, HashSet<(int Pass, int Port, int Side)> used)
    {
        for (var i = 0; i < needs.Count; i++)
        {
            if (needs[i].Only is not { } only || ports.FirstOrDefault(p => p.Number == only) is not { } port || taken.Contains(only) || port.Width < needs[i].Width)
            {
                continue;
            }

            // Two mono lines that can leave by one pair only share it without being asked.
            var apart = needs[i].Width == Width.Mono && port.Width == Width.Stereo;
            for (var pass = 1; seats[i] is null; pass++)
            {
                var sides = !apart ? [0, 1] : needs[i].Side is { } wish ? [wish, 1 - wish] : new[] { 0, 1 };
                if (apart)
                {
                    var free = sides.Where(s => !used.Contains((pass, only, s))).ToList();
                    if (free.Count > 0)
                    {
                        used.Add((pass, only, free[0]));
                        seats[i] = new Seat(port, free[0], pass);
                    }
                }
                else if (sides.All(s => !used.Contains((pass, only, s))))
                {
                    used.UnionWith([(pass, only, 0), (pass, only, 1)]);
                    seats[i] = new Seat(port, 0, pass);
                }
            }
        }
    }

    private static void Fill(
        IReadOnlyList<Need> needs, List<ChartPort> open, Seat?[] seats, HashSet<(int Pass, int Port, int Side)> used, List<int> waiting, int pass, bool hardPan)
    {
        var free = open.Where(p => !used.Contains((pass, p.Number, 0)) && !used.Contains((pass, p.Number, 1))).ToList();
        var pairs = free.Count(p => p.Width == Width.Stereo);
        var seated = Enumerable.Range(0, needs.Count).Where(i => seats[i]?.Pass == pass).ToList();
        var stereo = Together.Choose([.. waiting.Where(i => needs[i].Width == Width.Stereo)], pairs, i => needs[i].Set, seated);
        var singles = free.Count(p => p.Width == Width.Mono);
        var sparePairs = pairs - stereo.Count;
        var mono = waiting.Where(i => needs[i].Width == Width.Mono).ToList();

        // Pairs are shared only as far as it takes to seat everybody that would otherwise wait for another pass.
        var space = singles + sparePairs;
        var halves = hardPan ? open.Where(p => HalfOf(p, used, pass) is not null).ToList() : [];
        var halfSeats = Math.Clamp(mono.Count - space, 0, halves.Count);
        var shared = hardPan ? Math.Clamp(mono.Count - space - halfSeats, 0, sparePairs) : 0;
        var now = stereo.Concat(Together.Choose(mono, space + halfSeats + shared, i => needs[i].Set, [.. seated, .. stereo])).Order().ToList();
        ChartPort? half = null;
        foreach (var i in now)
        {
            if (needs[i].Width == Width.Stereo)
            {
                var pair = free.First(p => p.Width == Width.Stereo);
                free.Remove(pair);
                seats[i] = new Seat(pair, 0, pass);
            }
            else if (half is not null)
            {
                seats[i] = new Seat(half, 1, pass);
                half = null;
            }
            else if (halfSeats > 0)
            {
                halfSeats--;
                seats[i] = new Seat(halves[0], HalfOf(halves[0], used, pass)!.Value, pass);
                halves.RemoveAt(0);
            }
            else
            {
                var port = MonoPort(free, now.Count(k => k > i && needs[k].Width == Width.Stereo));
                free.Remove(port);
                seats[i] = new Seat(port, 0, pass);
                if (port.Width == Width.Stereo && shared > 0)
                {
                    half = port;
                    shared--;
                }
            }
        }

        waiting.RemoveAll(now.Contains);
    }

    /// <summary>The free side of a pair of which one side is taken; null for any other port.</summary>
    private static int? HalfOf(ChartPort port, HashSet<(int Pass, int Port, int Side)> used, int pass) =>
        port.Width == Width.Mono ? null : (used.Contains((pass, port.Number, 0)), used.Contains((pass, port.Number, 1))) switch
        {
            (true, false) => 1,
            (false, true) => 0,
            _ => null,
        };

    /// <summary>The first port, unless it is a pair that a stereo line further on needs.</summary>
    private static ChartPort MonoPort(List<ChartPort> free, int stereoToCome) =>
        free.Count(p => p.Width == Width.Stereo) > stereoToCome ? free[0] : free.First(p => p.Width == Width.Mono);
}
