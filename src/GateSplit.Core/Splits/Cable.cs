namespace GateSplit.Core.Splits;

/// <summary>A cable, or a routing inside the computer, from one channel of a source's gate to one input.</summary>
/// <param name="UnitId">The source.</param>
/// <param name="Channel">Channel of its gate, from 1.</param>
/// <param name="Input">Where it is plugged in.</param>
/// <param name="Pass">The only pass in which it is plugged in; null for all.</param>
public sealed record Cable(string UnitId, int Channel, InputRef Input, int? Pass = null);
