namespace GateSplit.Core.StandIns;

/// <summary>One channel of a mix.</summary>
/// <param name="Samples">Where its samples lie.</param>
/// <param name="From">The first of them.</param>
/// <param name="Left">Its gain on the left, or on the only side.</param>
/// <param name="Right">Its gain on the right.</param>
internal readonly record struct MixedPart(float[] Samples, int From, float Left, float Right);
