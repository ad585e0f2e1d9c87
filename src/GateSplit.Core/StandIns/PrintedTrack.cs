using GateSplit.Core.Sound;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>One file of a pass.</summary>
/// <param name="Track">The track it was printed on.</param>
/// <param name="Path">Where it lies.</param>
/// <param name="Measure">What it holds.</param>
public sealed record PrintedTrack(Track Track, string Path, FileMeasure Measure);
