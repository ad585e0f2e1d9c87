using GateSplit.Core.Quantities;

namespace GateSplit.Core.Notes;

/// <summary>One note of a song.</summary>
/// <param name="Channel">1 to 16.</param>
/// <param name="Key">0 to 127; 60 is middle C.</param>
/// <param name="Velocity">1 to 127.</param>
/// <param name="StartTick">Where it begins.</param>
/// <param name="EndTick">Where it ends; never before it begins.</param>
public readonly record struct Note(int Channel, int Key, int Velocity, Ticks StartTick, Ticks EndTick);
