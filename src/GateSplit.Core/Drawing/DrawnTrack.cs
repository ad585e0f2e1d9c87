using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Drawing;

/// <summary>A track in the right column.</summary>
/// <param name="Track">Which.</param>
/// <param name="Number">Its place in the order, from 1.</param>
/// <param name="Family">The family of what arrives; null if nothing does.</param>
/// <param name="InputName">What it listens to.</param>
/// <param name="At">The end of its rail.</param>
public sealed record DrawnTrack(Track Track, int Number, Family? Family, string InputName, Point At);
