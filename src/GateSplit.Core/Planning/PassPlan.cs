using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Planning;

/// <summary>
/// Gives lines passes, ports and inputs, in the fewest passes there can be. Pass by pass it takes as much as fits, the sources first that would
/// need the most passes; where that takes more passes than must be, it searches for a way that takes fewer.
/// </summary>
internal static class PassPlan
{
    /// <summary>How many ways the search tries before it takes what filling pass by pass has found.</summary>
    private const int MostTries = 20_000;

    /// <summary>One line that needs a port, and an input if its source comes in over cables.</summary>
    /// <param name="UnitId">The source.</param>
    /// <param name="Width">Its width.</param>
    public sealed record Need(UnitId UnitId, Width Width)
    {
        /// <summary>The only ports it can leave by; empty for any that fits.</summary>
        public ImmutableArray<int> Ports { get; init; } = [];

        /// <summary>On a pair: the side it is to have; null if it does not matter.</summary>
        public int? Side { get; init; }

        /// <summary>What it has in common with lines that belong into the same pass; null for nothing.</summary>
        public string? Set { get; init; }

        /// <summary>What it shares with lines that must not be in the same pass; null for nothing.</summary>
        public string? Voice { get; init; }

        /// <summary>True if it comes in over cables.</summary>
        public bool Cabled { get; init; }
    }

    /// <summary>Where a line goes.</summary>
    /// <param name="Pass">From 1.</param>
    /// <param name="Port">Its port.</param>
    /// <param name="Side">0 for the whole port or its left side, 1 for its right side.</param>
    public sealed record Seat(int Pass, ChartPort Port, int Side)
    {
        /// <summary>The first input of a line that comes in over cables.</summary>
        public InputRef? Input { get; init; }
    }

    /// <summary>Works it out.</summary>
    /// <param name="needs">The lines, in order.</param>
    /// <param name="gates">The ports that may be used, of each source in order.</param>
    /// <param name="sockets">The inputs for cables; null to leave inputs aside.</param>
    /// <param name="hardPan">True if two mono lines may share a pair.</param>
    /// <returns>A seat for each line, null for one that fits nowhere.</returns>
    public static ImmutableArray<Seat?> Of(
        IReadOnlyList<Need> needs, IReadOnlyDictionary<UnitId, IReadOnlyList<ChartPort>> gates, Sockets? sockets, bool hardPan)
    {
        var room = new Room(gates, sockets, hardPan);
        var fitting = Enumerable.Range(0, needs.Count).Where(i => new PassLoad(room).TryAdd(needs[i])).ToList();
        var seats = new Seat?[needs.Count];
        if (fitting.Count == 0)
        {
            return [.. seats];
        }

        var passes = Filled(needs, fitting, room);
        for (var fewer = Fewest(needs, fitting, room); fewer < passes.Count; fewer++)
        {
            if (Searched(needs, fitting, room, fewer) is { } found)
            {
                passes = found;
                break;
            }
        }

        for (var pass = 0; pass < passes.Count; pass++)
        {
            passes[pass].Sort();
            foreach (var unit in passes[pass].GroupBy(i => needs[i].UnitId))
            {
                PortSeats.Of(needs, [.. unit], gates[unit.Key], hardPan, pass + 1, seats);
            }

            if (sockets is not null)
            {
                var cabled = passes[pass].Where(i => needs[i].Cabled).ToList();
                foreach (var (line, input) in cabled.Zip(sockets.For([.. cabled.Select(i => needs[i].Width)])))
                {
                    seats[line] = seats[line]! with { Input = input };
                }
            }
        }

        return [.. seats];
    }

    /// <summary>Fills pass after pass: lines that belong together first, if all of them fit, then whatever does.</summary>
    private static List<List<int>> Filled(IReadOnlyList<Need> needs, IReadOnlyList<int> lines, Room room)
    {
        var passes = new List<List<int>>();
        var waiting = lines.ToList();
        while (waiting.Count > 0)
        {
            var load = new PassLoad(room);
            var here = new List<int>();
            var late = new List<int>();
            var order = Ordered(needs, waiting, room).ToList();
            foreach (var line in order.Where(i => !needs[i].Ports.IsEmpty && load.TryAdd(needs[i])))
            {
                here.Add(line);
            }

            var begun = here.Select(i => needs[i].Set).OfType<string>().ToHashSet();
            var sets = order.Except(here)
                .GroupBy(i => (needs[i].Width, Set: needs[i].Set ?? $"alone {i}"))
                .OrderByDescending(g => begun.Contains(g.Key.Set));
            foreach (var set in sets.Select(g => g.ToList()))
            {
                var with = load.Copy();
                if (set.TrueForAll(i => with.TryAdd(needs[i])))
                {
                    load = with;
                    here.AddRange(set);
                }
                else
                {
                    late.AddRange(set);
                }
            }

            here.AddRange(late.Where(i => load.TryAdd(needs[i])));
            waiting.RemoveAll(here.Contains);
            passes.Add(here);
        }

        return passes;
    }

    /// <summary>Lines in the order in which they are seated: those of sources that need the most passes, with a port of their own, and stereo ones first.</summary>
    private static IEnumerable<int> Ordered(IReadOnlyList<Need> needs, IReadOnlyList<int> lines, Room room)
    {
        var urgency = lines.GroupBy(i => needs[i].UnitId).ToDictionary(g => g.Key, g => room.FewestOf(g.Key, [.. g.Select(i => needs[i])]));
        var voices = lines.Where(i => needs[i].Voice is not null).GroupBy(i => needs[i].Voice!).ToDictionary(g => g.Key, g => g.Count());
        return lines
            .OrderByDescending(i => needs[i].Width)
            .ThenByDescending(i => urgency[needs[i].UnitId])
            .ThenBy(i => needs[i].Ports.IsEmpty)
            .ThenByDescending(i => needs[i].Voice is { } voice ? voices[voice] : 1);
    }

    /// <summary>No way takes fewer passes than this.</summary>
    private static int Fewest(IReadOnlyList<Need> needs, IReadOnlyList<int> lines, Room room) =>
        lines.GroupBy(i => needs[i].UnitId).Select(g => room.FewestOf(g.Key, [.. g.Select(i => needs[i])]))
            .Append(room.FewestOverCables([.. lines.Select(i => needs[i]).Where(n => n.Cabled)]))
            .Max();

    /// <summary>Tries every way to share lines out among so many passes, as long as there are not too many; null if none was found.</summary>
    private static List<List<int>>? Searched(IReadOnlyList<Need> needs, IReadOnlyList<int> lines, Room room, int count)
    {
        var order = Ordered(needs, lines, room).ToList();
        var passes = Enumerable.Range(0, count).Select(_ => new List<int>()).ToList();
        var tries = 0;
        return Place(0, [.. passes.Select(_ => new PassLoad(room))]) ? passes : null;

        bool Place(int at, ImmutableArray<PassLoad> loads)
        {
            if (at == order.Count)
            {
                return true;
            }

            for (var pass = 0; pass < count && tries < MostTries; pass++)
            {
                tries++;
                var with = loads[pass].Copy();
                if (with.TryAdd(needs[order[at]]))
                {
                    passes[pass].Add(order[at]);
                    if (Place(at + 1, loads.SetItem(pass, with)))
                    {
                        return true;
                    }

                    passes[pass].Remove(order[at]);
                }

                // Passes in which nothing is yet are all alike.
                if (passes[pass].Count == 0)
                {
                    return false;
                }
            }

            return false;
        }
    }
}
