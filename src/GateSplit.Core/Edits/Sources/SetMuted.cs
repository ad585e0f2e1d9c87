using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Mutes an element on the source or lets it sound.</summary>
/// <param name="Element">Which.</param>
/// <param name="Muted">True to mute.</param>
public sealed record SetMuted(ElementRef Element, bool Muted) : ElementEdit(Element)
{
    /// <inheritdoc/>
    protected override string Name(string element) => Muted ? $"Mute {element}" : $"Let {element} sound";

    /// <inheritdoc/>
    protected override Result<UnitElement> Change(Unit unit, ChartElement chart, UnitElement element) => element with { Muted = Muted };
}
