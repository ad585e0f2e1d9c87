using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Makes the two sides of an external input one stereo element, or a stereo one two mono elements, panned apart.</summary>
/// <param name="UnitId">The source.</param>
/// <param name="Stereo">True for one stereo element.</param>
public sealed record JoinExternals(UnitId UnitId, bool Stereo) : UnitEdit(UnitId)
{
    private const string Left = " left";
    private const string Right = " right";

    /// <inheritdoc/>
    protected override string Name(Unit unit) => Stereo
        ? $"Take the external input of {unit.Name} as one stereo element"
        : $"Take the external input of {unit.Name} as two mono elements";

    /// <inheritdoc/>
    protected override Result<Unit> Change(Unit unit)
    {
        var externals = unit.Chart.Elements.Where(e => e.Kind == ElementKind.External).ToList();
        return (Stereo, externals) switch
        {
            (true, [{ Width: Width.Mono } a, { Width: Width.Mono } b]) => Replace(unit, [a, b], [Joined(a, b)]),
            (false, [{ Width: Width.Stereo } both]) => Replace(unit, [both], Apart(both)),
            _ => new Refusal(Stereo ? $"{unit.Name} has no two mono external elements." : $"{unit.Name} has no stereo external element."),
        };
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
}
