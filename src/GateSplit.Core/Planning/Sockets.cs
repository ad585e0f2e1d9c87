using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Planning;

/// <summary>
/// The free inputs that cables reach: the sockets of interfaces first, then looped-back pairs into which nothing plays. Two neighbours from an
/// odd one on are a pair.
/// </summary>
/// <param name="Free">In the order in which they are taken.</param>
internal sealed record Sockets(ImmutableArray<InputRef> Free)
{
    /// <summary>How many pairs there are.</summary>
    public int Pairs => Free.Count(IsPair);

    /// <summary>Those of a split that are switched on and into which no cable that stays is plugged.</summary>
    /// <param name="split">The split.</param>
    /// <param name="laid">The units that are laid anew: their own cables are in nobody's way.</param>
    public static Sockets Of(Split split, IReadOnlySet<UnitId> laid)
    {
        var taken = split.Cables.Where(c => !laid.Contains(c.UnitId)).Select(c => c.Input).ToHashSet();
        taken.UnionWith(split.Tracks.SelectMany(t => Both(t.Bus)).Concat(split.TrackGroups.SelectMany(g => Both(g.Bus))));
        return new Sockets(
        [
            .. from bank in split.Banks.Where(b => b.TakesCables).OrderBy(b => b.Kind == BankKind.Loopback)
               from channel in Enumerable.Range(1, bank.Count)
               let input = new InputRef(bank.Id, channel)
               where !bank.Off.Contains(channel) && !taken.Contains(input)
               select input,
        ]);
    }

    /// <summary>The inputs of lines of one pass, in their order: stereo lines take pairs, mono lines what none of these needs.</summary>
    /// <param name="widths">The widths of the lines; there is space for all of them.</param>
    public IEnumerable<InputRef> For(IReadOnlyList<Width> widths)
    {
        var left = this;
        var pairsToCome = widths.Count(w => w == Width.Stereo);
        foreach (var width in widths)
        {
            InputRef input;
            if (width == Width.Stereo)
            {
                pairsToCome--;
                input = left.Free.First(left.IsPair);
                left = new Sockets(left.Free.Remove(input).Remove(input with { Channel = input.Channel + 1 }));
            }
            else
            {
                input = left.Free.First(i => new Sockets(left.Free.Remove(i)).Pairs >= pairsToCome);
                left = new Sockets(left.Free.Remove(input));
            }

            yield return input;
        }
    }

    private static IEnumerable<InputRef> Both(InputRef? bus) => bus is null ? [] : [bus, bus with { Channel = bus.Channel + 1 }];

    private bool IsPair(InputRef input) => input.Channel % 2 == 1 && Free.Contains(input with { Channel = input.Channel + 1 });
}
