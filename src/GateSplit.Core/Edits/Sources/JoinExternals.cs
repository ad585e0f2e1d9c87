using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>
/// Makes the two sides of an external input one stereo element, or a stereo one two mono elements, panned apart. The tracks that were made for
/// them go along: none is left over, and none keeps a name that is not so any more.
/// </summary>
/// <param name="UnitId">The source.</param>
/// <param name="Stereo">True for one stereo element.</param>
public sealed record JoinExternals(UnitId UnitId, bool Stereo) : Edit
{
    private const string Left = " left";
    private const string Right = " right";

    /// <inheritdoc/>
    public override string Name(Split split) => Stereo
        ? $"Take the external input of {split.Unit(UnitId)?.Name ?? "a source"} as one stereo element"
        : $"Take the external input of {split.Unit(UnitId)?.Name ?? "a source"} as two mono elements";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split)
    {
        if (split.Unit(UnitId) is not { } unit)
        {
            return new Refusal("This source is not in the split any more.");
        }

        var externals = unit.Chart.Elements.Where(e => e.Kind == ElementKind.External).ToList();
        switch (Stereo, externals)
        {
            case (true, [{ Width: Width.Mono } a, { Width: Width.Mono } b]):
                var joined = Joined(a, b);
                return WithTrackOfBoth(split.With(Replace(unit, [a, b], [joined])), a, b, joined).Tidied();
            case (false, [{ Width: Width.Stereo } both]):
                var apart = Apart(both);
                return WithTracksOfEach(split.With(Replace(unit, [both], apart)), both, apart).Tidied();
            default:
                return new Refusal(Stereo ? $"{unit.Name} has no two mono external elements." : $"{unit.Name} has no stereo external element.");
        }
    }

    private static ChartElement Joined(ChartElement a, ChartElement b) => a with
    {
        Name = a.Name.EndsWith(Left, StringComparison.Ordinal) ? a.Name[..^Left.Length] : a.Name,
        Width = Width.Stereo,
        Pan = new Pan(0),
        Hears = [.. a.Hears.Select(h => h with { Pan = Pan.HardLeft }), .. b.Hears.Select(h => h with { Pan = Pan.HardRight })],
    };

    /// <summary>What is heard on the left, and what on the right: each an element of its own again.</summary>
    private static ImmutableArray<ChartElement> Apart(ChartElement both) =>
    [
        both with { Name = both.Name + Left, Width = Width.Mono, Pan = Pan.HardLeft, Hears = Side(both, h => h.Pan < Pan.Centre) },
        both with { Id = new ElementId(both.Id + "-2"), Name = both.Name + Right, Width = Width.Mono, Pan = Pan.HardRight, Hears = Side(both, h => h.Pan >= Pan.Centre) },
    ];

    private static ImmutableArray<Hearing> Side(ChartElement both, Func<Hearing, bool> which) => [.. both.Hears.Where(which).Select(h => h with { Pan = new Pan(0) })];

    private static Unit Replace(Unit unit, IReadOnlyList<ChartElement> old, ImmutableArray<ChartElement> fresh)
    {
        var ids = old.Select(e => e.Id).ToHashSet();
        var at = unit.Chart.Elements.IndexOf(old[0]);
        var set = unit.Element(old[0].Id);
        return unit with
        {
            Chart = unit.Chart with { Elements = unit.Chart.Elements.RemoveAll(e => ids.Contains(e.Id)).InsertRange(at, fresh) },
            Elements = unit.Elements.RemoveAll(e => ids.Contains(e.ElementId))
                .InsertRange(at, fresh.Select(e => set with { ElementId = e.Id, Pan = e.Pan, MusicalPan = null })),
        };
    }

    /// <summary>The track of the left side becomes a stereo one from its input on; that of the right side goes.</summary>
    private Split WithTrackOfBoth(Split split, ChartElement a, ChartElement b, ChartElement joined)
    {
        var left = TrackFor(split, a);
        var right = TrackFor(split, b);
        if (left is null || right is null)
        {
            return split;
        }

        var input = left.Input is { } at && split.Fits(at, Width.Stereo) ? at : null;
        var both = left with { Width = Width.Stereo, Input = input, Pan = Pan.Centre, Name = left.Name == a.Name ? joined.Name : left.Name, MeantFor = [MeantFor(joined)] };
        return split with { Tracks = [.. split.Tracks.Remove(right).Select(t => t.Id == both.Id ? both : t)] };
    }

    /// <summary>The stereo track becomes that of the left side, and one for the right side follows it, an input further on.</summary>
    private Split WithTracksOfEach(Split split, ChartElement both, ImmutableArray<ChartElement> apart)
    {
        if (TrackFor(split, both) is not { } track)
        {
            return split;
        }

        var name = track.Name == both.Name ? apart[0].Name : track.Name + Left;
        var left = track with { Width = Width.Mono, Name = name, MeantFor = [MeantFor(apart[0])] };
        var right = left with
        {
            Id = split.NewTrackId(),
            Name = track.Name == both.Name ? apart[1].Name : track.Name + Right,
            Input = track.Input is { } at ? at with { Channel = at.Channel + 1 } : null,
            MeantFor = [MeantFor(apart[1])],
        };
        return split with { Tracks = [.. split.Tracks.SelectMany(t => t.Id == track.Id ? new[] { left, right } : [t])] };
    }

    private Meant MeantFor(ChartElement element) => Meant.For(new ElementRef(UnitId, element.Id));

    private Track? TrackFor(Split split, ChartElement element) =>
        split.Tracks.FirstOrDefault(t => t.MeantFor is [var only] && only == MeantFor(element)) ?? split.Tracks.FirstOrDefault(t => t.MeantFor.IsEmpty && t.Name == element.Name);
}
