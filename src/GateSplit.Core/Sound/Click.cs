using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>A place where a sound leaps.</summary>
/// <param name="At">The frame.</param>
/// <param name="Spike">True if it is back where it was a moment later, as no sound does; false for a step, with which something may begin.</param>
public readonly record struct Click(Frames At, bool Spike);
