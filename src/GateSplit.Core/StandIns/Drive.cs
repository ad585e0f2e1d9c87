using System.Numerics;
using System.Runtime.InteropServices;

namespace GateSplit.Core.StandIns;

/// <summary>A soft curve that lifts the quiet and bends the loud: y = x (1 + d) / (1 + d |x|), so full scale stays full scale.</summary>
internal static class Drive
{
    /// <summary>Bends samples in place.</summary>
    public static void Apply(Span<float> samples, float drive)
    {
        if (drive == 0)
        {
            return;
        }

        var vectors = MemoryMarshal.Cast<float, Vector<float>>(samples);
        foreach (ref var vector in vectors)
        {
            vector = vector * (1 + drive) / (Vector<float>.One + Vector.Abs(vector) * drive);
        }

        foreach (ref var sample in samples[(vectors.Length * Vector<float>.Count)..])
        {
            sample = sample * (1 + drive) / (1 + drive * MathF.Abs(sample));
        }
    }
}
