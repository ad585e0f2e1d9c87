using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;

namespace GateSplit.Core.StandIns;

/// <summary>
/// Samples side by side: functions of as many as a machine takes at once, and what goes on among eight that follow each other.
/// Only additions, multiplications, both at once and roundings, which give the same bits on every machine.
/// </summary>
internal static class Lanes
{
    /// <summary>How many samples that follow each other are worked out at once, on every machine.</summary>
    public const int Count = 8;

    /// <summary>1, 2, ... 8.</summary>
    public static readonly Vector256<float> OneToEight = Vector256.Create(1f, 2, 3, 4, 5, 6, 7, 8);

    /// <summary>The samples of a span as groups of eight.</summary>
    /// <param name="samples">A whole number of groups.</param>
    public static Span<Vector256<float>> Groups(Span<float> samples) => MemoryMarshal.Cast<float, Vector256<float>>(samples);

    /// <summary>The same number from a lane on, and 0 before it.</summary>
    public static Vector256<float> From(int lane, double number)
    {
        var from = Vector256.Create((float)number);
        for (var i = 0; i < lane; i++)
        {
            from = from.WithElement(i, 0);
        }

        return from;
    }

    /// <summary>1, f, f^2, ... f^7.</summary>
    public static Vector256<float> Powers(double factor)
    {
        var powers = Vector256<float>.Zero;
        var power = 1.0;
        for (var i = 0; i < Count; i++)
        {
            powers = powers.WithElement(i, (float)power);
            power *= factor;
        }

        return powers;
    }

    /// <summary>f^8.</summary>
    public static double EighthPower(double factor)
    {
        var square = factor * factor;
        return square * square * (square * square);
    }

    /// <summary>
    /// sin(2 pi x), within 1e-6 for x up to some turns: over half a turn either way it is p = x (1/2 - |x|) times a cubic of
    /// |p|, the one that meets it at the Chebyshev points from 0 to 1/16.
    /// </summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static V SinTurns<V>(V x)
        where V : struct, ILanes<V>
    {
        x -= V.Round(x);
        return Bow(x * (V.Of(0.5f) - V.Abs(x)));
    }

    /// <summary>A phase in turns, from -1/2 to 1/2.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static V Turns<V>(V phase)
        where V : struct, ILanes<V> => V.Signed(phase) * V.Of(1 / 4294967296f);

    /// <summary>The sine of a phase, within 1e-6.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static V Sin<V>(V phase)
        where V : struct, ILanes<V>
    {
        var x = V.Signed(phase);
        return Bow(x * V.MultiplyAdd(V.Abs(x), V.Of(-1 / (4294967296f * 4294967296f)), V.Of(0.5f / 4294967296f)));
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static V Bow<V>(V p)
        where V : struct, ILanes<V>
    {
        var q = V.Abs(p);
        var cubic = V.MultiplyAdd(q, V.Of(55.463526f), V.Of(71.270993f));
        cubic = V.MultiplyAdd(q, cubic, V.Of(50.266978f));
        cubic = V.MultiplyAdd(q, cubic, V.Of(12.566368f));
        return p * cubic;
    }

    /// <summary>2^x, within 1e-6 of the result for x from -100 to 100 (Taylor series of e^(x ln 2) over half a unit either way).</summary>
    public static V Exp2<V>(V x)
        where V : struct, ILanes<V>
    {
        var whole = V.Round(x);
        var a = (x - whole) * V.Of(0.69314718f);
        var series = V.MultiplyAdd(a, V.Of(1 / 720f), V.Of(1 / 120f));
        series = V.MultiplyAdd(a, series, V.Of(1 / 24f));
        series = V.MultiplyAdd(a, series, V.Of(1 / 6f));
        series = V.MultiplyAdd(a, series, V.Of(0.5f));
        series = V.MultiplyAdd(a, series, V.Of(1));
        series = V.MultiplyAdd(a, series, V.Of(1));
        return series * V.PowerOfTwo(whole);
    }

    /// <summary>tan(pi f), the gain of an integrator of the filters here, for f in turns a sample below 0.45.</summary>
    public static V FilterGain<V>(V f)
        where V : struct, ILanes<V>
    {
        var turns = V.Min(V.Max(f, V.Of(1e-5f)), V.Of(0.45f)) * V.Of(0.5f);
        return SinTurns(turns) / SinTurns(turns + V.Of(0.25f));
    }
}
