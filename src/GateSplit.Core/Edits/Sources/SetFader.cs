using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Moves an element's fader on the source.</summary>
/// <param name="Element">Which.</param>
/// <param name="FaderDb">-120 to +12 dB.</param>
public sealed record SetFader(ElementRef Element, double FaderDb) : ElementEdit(Element)
{
    /// <inheritdoc/>
    protected override string Name(string element) =>
        FaderDb == 0 ? $"Set {element}'s fader to unity" : $"Set {element}'s fader to {new Decibels(FaderDb)}";

    /// <inheritdoc/>
    protected override Result<UnitElement> Change(Unit unit, ChartElement chart, UnitElement element) =>
        FaderDb is >= -120 and <= 12
            ? element with { FaderDb = FaderDb }
            : new Refusal("A fader goes from -120 to +12 dB.");
}
