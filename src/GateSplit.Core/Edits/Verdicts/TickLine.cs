using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Ticks a line as heard and right, or takes the tick away.</summary>
/// <param name="Element">Whose line.</param>
/// <param name="Way">Its way as it is now; null to take the tick away.</param>
public sealed record TickLine(ElementRef Element, string? Way) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => Way is null ? $"Take the tick off {split.NameOf(Element)}" : $"Tick {split.NameOf(Element)}";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split)
    {
        if (!split.HasElement(Element))
        {
            return new Refusal($"There is no element {Element} in this split any more.");
        }

        var others = split.Ticked.RemoveAll(t => t.Element == Element);
        return split with { Ticked = Way is null ? others : others.Add(new TickedLine(Element, Way)) };
    }
}
