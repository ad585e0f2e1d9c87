using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Sets how the simulated interface really behaves.</summary>
/// <param name="Interface">How.</param>
public sealed record SetSimulatedInterface(SimulatedInterface Interface) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => "Set how the simulated interface behaves";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split) => split with { Interface = Interface };
}
