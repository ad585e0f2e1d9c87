using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>A place where a recorder lost its input for a moment.</summary>
/// <param name="Start">Its first frame.</param>
/// <param name="Length">How many frames.</param>
/// <param name="Repeats">True if what came before stands there again; false for zeros.</param>
public sealed record Dropout(Frames Start, Frames Length, bool Repeats);
