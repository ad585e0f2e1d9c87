using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Turns a port of a source up or down.</summary>
/// <param name="UnitId">The source.</param>
/// <param name="Port">The port's number.</param>
/// <param name="LevelDb">In dB.</param>
public sealed record SetPortLevel(UnitId UnitId, int Port, Decibels LevelDb) : UnitEdit(UnitId)
{
    /// <inheritdoc/>
    protected override string Name(Unit unit) => $"Set port {Port} of {unit.Name} to {LevelDb}";

    /// <inheritdoc/>
    protected override Result<Unit> Change(Unit unit)
    {
        var others = unit.PortLevels.RemoveAll(p => p.Port == Port);
        return unit with { PortLevels = LevelDb == Decibels.Unity ? others : others.Add(new PortLevel(Port, LevelDb)) };
    }
}
