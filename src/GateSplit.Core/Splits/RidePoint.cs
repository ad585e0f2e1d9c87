namespace GateSplit.Core.Splits;

/// <summary>Where a control stands at a place of the music.</summary>
/// <param name="Bar">From 1; 3.5 is the middle of the third bar.</param>
/// <param name="Value">In the unit of the control.</param>
public sealed record RidePoint(double Bar, double Value);
