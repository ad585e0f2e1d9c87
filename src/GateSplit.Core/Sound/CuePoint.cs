using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>A place in a file that has a name.</summary>
/// <param name="At">The frame, from the start of the file.</param>
/// <param name="Name">What begins there: "bar 5".</param>
public sealed record CuePoint(Frames At, string Name);
