using GateSplit.Core.Quantities;

namespace GateSplit.Core.Proofing;

/// <summary>A channel on which an element should arrive.</summary>
/// <param name="Channel">The channel of a recording of all inputs, from 1.</param>
/// <param name="Gain">At what gain, against other channels.</param>
/// <param name="Direct">True if it is there by itself; false if something else that hears it is.</param>
public sealed record PlannedInput(int Channel, Decibels Gain, bool Direct);
