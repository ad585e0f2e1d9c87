using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Planning;

/// <summary>
/// Gives lines that come in over cables their inputs, in the fewest passes there can be: in each, stereo lines take
/// pairs and mono lines what is left, counting upward. Between passes cables are moved.
/// </summary>
internal static class InputPlan
{
    /// <summary>The free inputs that cables reach: each pair of neighbours from an odd one on, and what is left over.</summary>
    public sealed record Sockets(ImmutableArray<InputRef> Free)
    {
        /// <summary>How many pairs there are.</summary>
        public int Pairs => Free.Count(i => i.Channel % 2 == 1 && Free.Contains(i with { Channel = i.Channel + 1 }));

        /// <summary>Those of a split that are switched on and into which no cable that stays is plugged.</summary>
        /// <param name="split">The split.</param>
        /// <param name="laid">The units that are laid anew: their own cables are in nobody's way.</param>
        public static Sockets Of(Split split, IReadOnlySet<UnitId> laid)
        {
            var taken = split.Cables.Where(c => !laid.Contains(c.UnitId)).Select(c => c.Input).ToHashSet();
            return new Sockets(
            [
                .. from bank in split.Banks
                   where bank.Kind == BankKind.Analog
                   from channel in Enumerable.Range(1, bank.Count)
                   let input = new InputRef(bank.Id, channel)
                   where !bank.Off.Contains(channel) && !taken.Contains(input)
                   select input,
            ]);
        }
    }

    /// <summary>Works it out.</summary>
    /// <param name="lines">The lines in order, with the passes that their ports take.</param>
    /// <param name="sockets">The inputs.</param>
    /// <returns>The lines with inputs and passes; without an input where none fits.</returns>
    public static ImmutableArray<LaidLine> Of(IReadOnlyList<LaidLine> lines, Sockets sockets)
    {
        var seated = new LaidLine[lines.Count];
        var pass = 0;
        foreach (var together in Enumerable.Range(0, lines.Count).GroupBy(i => lines[i].Pass).OrderBy(g => g.Key))
        {
            var waiting = together.ToList();
            do
            {
                pass++;
                foreach (var (line, input) in Round(lines, [.. waiting], sockets))
                {
                    seated[line] = lines[line] with { Input = input, Pass = pass };
                    waiting.Remove(line);
                }
            }
            while (waiting.Any(i => lines[i].Width == Width.Mono ? sockets.Free.Length > 0 : sockets.Pairs > 0));

            foreach (var i in waiting)
            {
                seated[i] = lines[i] with { Input = null, Pass = pass };
            }
        }

        return [.. seated];
    }

    private static IEnumerable<(int Line, InputRef Input)> Round(IReadOnlyList<LaidLine> lines, IReadOnlyList<int> waiting, Sockets sockets)
    {
        var stereo = Together.Choose([.. waiting.Where(i => lines[i].Width == Width.Stereo)], sockets.Pairs, i => lines[i].Set, []);
        var mono = Together.Choose(
            [.. waiting.Where(i => lines[i].Width == Width.Mono)], sockets.Free.Length - 2 * stereo.Count, i => lines[i].Set, stereo);
        var free = sockets;
        var pairsToCome = stereo.Count;
        foreach (var line in stereo.Concat(mono).Order())
        {
            InputRef input;
            if (lines[line].Width == Width.Stereo)
            {
                pairsToCome--;
                input = free.Free.First(i => i.Channel % 2 == 1 && free.Free.Contains(i with { Channel = i.Channel + 1 }));
                free = new Sockets(free.Free.Remove(input).Remove(input with { Channel = input.Channel + 1 }));
            }
            else
            {
                input = free.Free.First(i => new Sockets(free.Free.Remove(i)).Pairs >= pairsToCome);
                free = new Sockets(free.Free.Remove(input));
            }

            yield return (line, input);
        }
    }
}
