using System.Collections.Concurrent;
using System.Numerics.Tensors;

namespace GateSplit.Core.Sound;

/// <summary>Von Hann's window: a raised cosine, under which what a stretch is cut from does not show in its spectrum.</summary>
internal static class Hann
{
    private static readonly ConcurrentDictionary<int, float[]> Windows = new();

    /// <summary>Fades a stretch in and out.</summary>
    /// <param name="samples">The stretch.</param>
    public static void Fade(Span<float> samples) => TensorPrimitives.Multiply(samples, Windows.GetOrAdd(samples.Length, Of), samples);

    private static float[] Of(int length) => [.. Enumerable.Range(0, length).Select(i => (float)(0.5 - (0.5 * Math.Cos(2 * Math.PI * (i + 0.5) / length))))];
}
