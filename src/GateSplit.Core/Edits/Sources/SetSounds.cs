using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Tells whether an element sounds in this song, where its notes do not tell it rightly.</summary>
/// <param name="Element">Which.</param>
/// <param name="Sounds">True or false; null to go by the notes.</param>
public sealed record SetSounds(ElementRef Element, bool? Sounds) : ElementEdit(Element)
{
    /// <inheritdoc/>
    protected override string Name(string element) => Sounds switch
    {
        true => $"Count {element} as sounding",
        false => $"Count {element} as silent",
        null => $"Go by the notes for {element}",
    };

    /// <inheritdoc/>
    protected override Result<UnitElement> Change(Unit unit, ChartElement chart, UnitElement element) => element with { Sounds = Sounds };
}
