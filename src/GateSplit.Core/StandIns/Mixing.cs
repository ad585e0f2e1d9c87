using System.Numerics;
using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;

namespace GateSplit.Core.StandIns;

/// <summary>Adding blocks of samples. A sample is always added up in the same way, whatever the block.</summary>
internal static class Mixing
{
    private const int ColumnFrames = 32;

    /// <summary>Mixes any number of channels onto one side, or two. Each channel is read once, and each sum written once.</summary>
    /// <param name="parts">The channels; silence if there are none.</param>
    /// <param name="left">Receives the left side, or the only one.</param>
    /// <param name="right">Receives the right side; empty if there is none.</param>
    /// <exception cref="ArgumentOutOfRangeException">A channel is shorter than the sides.</exception>
    public static void Mix(ReadOnlySpan<MixedPart> parts, Span<float> left, Span<float> right)
    {
        foreach (ref readonly var part in parts)
        {
            _ = part.Samples.AsSpan(part.From, left.Length); // the loops below do not look again
        }

        var at = 0;
        for (; at + ColumnFrames <= left.Length; at += ColumnFrames)
        {
            if (right.IsEmpty)
            {
                MixColumn(parts, at, left.Slice(at, ColumnFrames));
            }
            else
            {
                MixColumn(parts, at, left.Slice(at, ColumnFrames), right.Slice(at, ColumnFrames));
            }
        }

        for (; at < left.Length; at++)
        {
            var (onLeft, onRight) = (0f, 0f);
            foreach (ref readonly var part in parts)
            {
                onLeft = MathF.FusedMultiplyAdd(part.Samples[part.From + at], part.Left, onLeft);
                onRight = MathF.FusedMultiplyAdd(part.Samples[part.From + at], part.Right, onRight);
            }

            left[at] = onLeft;
            if (!right.IsEmpty)
            {
                right[at] = onRight;
            }
        }
    }

    private static void MixColumn(ReadOnlySpan<MixedPart> parts, int at, Span<float> sum)
    {
        Vector256<float> sum0 = default, sum1 = default, sum2 = default, sum3 = default;
        foreach (ref readonly var part in parts)
        {
            ref var from = ref Unsafe.Add(ref MemoryMarshal.GetArrayDataReference(part.Samples), part.From + at);
            var gain = Vector256.Create(part.Left);
            sum0 = Vector256.FusedMultiplyAdd(Vector256.LoadUnsafe(ref from), gain, sum0);
            sum1 = Vector256.FusedMultiplyAdd(Vector256.LoadUnsafe(ref from, 8), gain, sum1);
            sum2 = Vector256.FusedMultiplyAdd(Vector256.LoadUnsafe(ref from, 16), gain, sum2);
            sum3 = Vector256.FusedMultiplyAdd(Vector256.LoadUnsafe(ref from, 24), gain, sum3);
        }

        sum0.CopyTo(sum);
        sum1.CopyTo(sum[8..]);
        sum2.CopyTo(sum[16..]);
        sum3.CopyTo(sum[24..]);
    }

    private static void MixColumn(ReadOnlySpan<MixedPart> parts, int at, Span<float> left, Span<float> right)
    {
        Vector256<float> left0 = default, left1 = default, left2 = default, left3 = default;
        Vector256<float> right0 = default, right1 = default, right2 = default, right3 = default;
        foreach (ref readonly var part in parts)
        {
            ref var from = ref Unsafe.Add(ref MemoryMarshal.GetArrayDataReference(part.Samples), part.From + at);
            var (onLeft, onRight) = (Vector256.Create(part.Left), Vector256.Create(part.Right));
            var (from0, from1) = (Vector256.LoadUnsafe(ref from), Vector256.LoadUnsafe(ref from, 8));
            var (from2, from3) = (Vector256.LoadUnsafe(ref from, 16), Vector256.LoadUnsafe(ref from, 24));
            left0 = Vector256.FusedMultiplyAdd(from0, onLeft, left0);
            left1 = Vector256.FusedMultiplyAdd(from1, onLeft, left1);
            left2 = Vector256.FusedMultiplyAdd(from2, onLeft, left2);
            left3 = Vector256.FusedMultiplyAdd(from3, onLeft, left3);
            right0 = Vector256.FusedMultiplyAdd(from0, onRight, right0);
            right1 = Vector256.FusedMultiplyAdd(from1, onRight, right1);
            right2 = Vector256.FusedMultiplyAdd(from2, onRight, right2);
            right3 = Vector256.FusedMultiplyAdd(from3, onRight, right3);
        }

        left0.CopyTo(left);
        left1.CopyTo(left[8..]);
        left2.CopyTo(left[16..]);
        left3.CopyTo(left[24..]);
        right0.CopyTo(right);
        right1.CopyTo(right[8..]);
        right2.CopyTo(right[16..]);
        right3.CopyTo(right[24..]);
    }

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
