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
        var sources = MemoryMarshal.Cast<float, Vector<float>>(from[..into.Length])[..targets.Length];
        for (var i = 0; i < targets.Length; i++)
        {
            targets[i] += sources[i] * gain;
        }

        for (var i = targets.Length * Vector<float>.Count; i < into.Length; i++)
        {
            into[i] += from[i] * gain;
        }
    }

    /// <summary>Adds <paramref name="from"/> into a sum; the first one that arrives replaces what lay there before.</summary>
    /// <param name="sum">The sum.</param>
    /// <param name="from">What arrives.</param>
    /// <param name="gain">At which gain.</param>
    /// <param name="begun">False until something has arrived.</param>
    public static void Sum(Span<float> sum, ReadOnlySpan<float> from, float gain, ref bool begun)
    {
        if (begun)
        {
            AddScaled(sum, from, gain);
        }
        else if (gain != 0)
        {
            begun = true;
            var targets = MemoryMarshal.Cast<float, Vector<float>>(sum);
            var sources = MemoryMarshal.Cast<float, Vector<float>>(from[..sum.Length])[..targets.Length];
            for (var i = 0; i < targets.Length; i++)
            {
                targets[i] = sources[i] * gain;
            }

            for (var i = targets.Length * Vector<float>.Count; i < sum.Length; i++)
            {
                sum[i] = from[i] * gain;
            }
        }
    }
}
