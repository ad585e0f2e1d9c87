using System.Numerics;
using System.Runtime.InteropServices;

namespace GateSplit.Core.StandIns;

/// <summary>Adding blocks of samples. Every sample is one multiplication and one addition, whatever the block.</summary>
internal static class Mixing
{
    /// <summary>into += gain * from, sample by sample.</summary>
    public static void AddScaled(Span<float> into, ReadOnlySpan<float> from, float gain)
    {
        if (gain == 0)
        {
            return;
        }

        var targets = MemoryMarshal.Cast<float, Vector<float>>(into);
        var sources = MemoryMarshal.Cast<float, Vector<float>>(from[..into.Length]);
        for (var i = 0; i < targets.Length; i++)
        {
            targets[i] += sources[i] * gain;
        }

        for (var i = targets.Length * Vector<float>.Count; i < into.Length; i++)
        {
            into[i] += from[i] * gain;
        }
    }
}
