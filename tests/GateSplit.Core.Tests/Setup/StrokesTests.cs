using GateSplit.Core.Setup;

namespace GateSplit.Core.Tests.Setup;

public sealed class StrokesTests
{
    private const int Values = 5; // what a row can hold: 0 to 4, and counting cannot go further

    [Fact]
    public void A_regular_run_is_one_action_and_its_exceptions_come_after()
    {
        // Nine tracks on inputs 3 to 11, but the fourth on 20 and the sixth on 21.
        int?[] wanted = [3, 4, 5, 20, 7, 21, 9, 10, 11];
        var strokes = Strokes.Fewest([.. wanted.Select(_ => (int?)null)], wanted, (a, b, counts) => counts ? wanted[a] is { } from ? new(from + b - a) : null : new(wanted[a]));
        Assert.Equal([new(0, 8, 3, true), new(3, 3, 20, false), new Stroke<int?>(5, 5, 21, false)], strokes);
    }

    [Fact]
    public void What_is_right_already_is_left_alone_and_nothing_is_done_where_all_is()
    {
        Assert.Empty(Strokes.Fewest<bool>([true, false, true], [true, false, true]));
        Assert.Equal([new Stroke<bool>(1, 2, true, false)], Strokes.Fewest<bool>([true, false, false, true], [true, true, true, true]));
        Assert.Empty(Strokes.Fewest<bool>([], []));
    }

    [Fact]
    public void An_action_does_not_go_over_a_row_that_it_cannot_reach()
    {
        // Between two rows that would count on there is one that counting does not reach: two actions, though it is set by itself afterwards.
        int?[] wanted = [1, 9, 3];
        var free = Strokes.Fewest([null, null, null], wanted, (a, b, counts) => counts ? new(wanted[a] + b - a) : new(wanted[a]));
        Assert.Equal([new(0, 2, 1, true), new Stroke<int?>(1, 1, 9, false)], free);
        var fenced = Strokes.Fewest([null, null, null], wanted, (a, b, counts) => counts && wanted[a] + b - a != 2 ? new(wanted[a] + b - a) : counts ? null : new(wanted[a]));
        Assert.Equal(3, fenced.Length);
    }

    [Fact]
    public void They_are_as_few_as_trying_everything_finds_and_lead_there()
    {
        var random = new Random(18);
        for (var trial = 0; trial < 400; trial++)
        {
            var n = 1 + random.Next(5);
            int[] now = [.. Enumerable.Range(0, n).Select(_ => random.Next(Values))], wanted = [.. Enumerable.Range(0, n).Select(_ => random.Next(Values))];

            // A row may refuse a value; never the one that it shall hold.
            var refused = Enumerable.Range(0, n).Select(i => random.Next(3) == 0 ? (wanted[i] + 1 + random.Next(Values - 1)) % Values : -1).ToArray();
            bool Takes(int row, int value) => value < Values && value != refused[row];
            var strokes = Strokes.Fewest(now, wanted, (a, b, counts) => Takes(b, counts ? wanted[a] + b - a : wanted[a]) ? new(counts ? wanted[a] + b - a : wanted[a]) : null);
            var rows = now.ToArray();
            foreach (var stroke in strokes)
            {
                for (var i = stroke.First; i <= stroke.Last; i++)
                {
                    rows[i] = stroke.Counts ? stroke.Value + i - stroke.First : stroke.Value;
                    Assert.True(Takes(i, rows[i]));
                }
            }

            Assert.Equal(wanted, rows);
            Assert.Equal(ByTrying(now, wanted, Takes), strokes.Length);
        }
    }

    /// <summary>Breadth first over all that the rows can hold, with every action on every stretch.</summary>
    private static int ByTrying(int[] now, int[] wanted, Func<int, int, bool> takes)
    {
        int Key(IEnumerable<int> rows) => rows.Aggregate(0, (key, value) => Values * key + value);
        var seen = new HashSet<int> { Key(now) };
        var ring = new List<int[]> { now };
        for (var steps = 0; ; steps++)
        {
            if (ring.Any(r => r.SequenceEqual(wanted)))
            {
                return steps;
            }

            var next = new List<int[]>();
            foreach (var rows in ring)
            {
                for (var first = 0; first < now.Length; first++)
                {
                    for (var value = 0; value < Values; value++)
                    {
                        foreach (var step in new[] { 0, 1 })
                        {
                            var changed = rows.ToArray();
                            for (var last = first; last < now.Length && takes(last, value + step * (last - first)); last++)
                            {
                                changed[last] = value + step * (last - first);
                                if (seen.Add(Key(changed)))
                                {
                                    next.Add([.. changed]);
                                }
                            }
                        }
                    }
                }
            }

            ring = next;
        }
    }
}
