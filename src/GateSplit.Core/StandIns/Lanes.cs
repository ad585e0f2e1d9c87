using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;

namespace GateSplit.Core.StandIns;

/// <summary>
/// Eight samples side by side. Only additions, multiplications and roundings, which give the same bits on every
/// machine, with or without wide registers.
/// </summary>
internal static class Lanes
{
    /// <summary>How many.</summary>
    public const int Count = 8;

    /// <summary>1, 2, ... 8.</summary>
    public static readonly Vector256<float> OneToEight = Vector256.Create(1f, 2, 3, 4, 5, 6, 7, 8);

    /// <summary>The samples of a span as groups of eight.</summary>
    /// <param name="samples">A whole number of groups.</param>
    public static Span<Vector256<float>> Groups(Span<float> samples) => MemoryMarshal.Cast<float, Vector256<float>>(samples);

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
    public static Vector256<float> SinTurns(Vector256<float> x)
    {
        x -= Vector256.Round(x);
        var p = x * (Vector256.Create(0.5f) - Vector256.Abs(x));
        return p * Cubic(Vector256.Abs(p));
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static Vector256<float> Cubic(Vector256<float> q)
    {
        var cubic = q * 55.463526f + Vector256.Create(71.270993f);
        cubic = q * cubic + Vector256.Create(50.266978f);
        return q * cubic + Vector256.Create(12.566368f);
    }

    /// <summary>A phase of 32 bits in turns, plus one: its upper bits become those of a number from 1 to 2.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Vector256<float> OneAndTurns(Vector256<uint> phase) => ((phase >> 9) | Vector256.Create(0x3F800000u)).AsSingle();

    /// <summary>The sine of a phase of 32 bits, within 1e-6: half a turn on, <see cref="SinTurns"/> with the other sign.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Vector256<float> Sin(Vector256<uint> phase)
    {
        var x = Vector256.Create(1.5f) - OneAndTurns(phase);
        var p = x * (Vector256.Create(0.5f) - Vector256.Abs(x));
        return p * Cubic(Vector256.Abs(p));
    }

    /// <summary>2^x, within 1e-6 of the result for x from -100 to 100 (Taylor series of e^(x ln 2) over half a unit either way).</summary>
    public static Vector256<float> Exp2(Vector256<float> x)
    {
        var whole = Vector256.Floor(x + Vector256.Create(0.5f));
        var a = (x - whole) * 0.69314718f;
        var series = a * (1 / 720f) + Vector256.Create(1 / 120f);
        series = a * series + Vector256.Create(1 / 24f);
        series = a * series + Vector256.Create(1 / 6f);
        series = a * series + Vector256.Create(0.5f);
        series = a * series + Vector256<float>.One;
        series = a * series + Vector256<float>.One;
        return series * ((Vector256.ConvertToInt32(whole) + Vector256.Create(127)) << 23).AsSingle();
    }

    /// <summary>tan(pi f), the gain of an integrator of the filters here, for f in turns a sample below 0.45.</summary>
    public static Vector256<float> FilterGain(Vector256<float> f)
    {
        var turns = Vector256.Min(Vector256.Max(f, Vector256.Create(1e-5f)), Vector256.Create(0.45f)) * 0.5f;
        return SinTurns(turns) / SinTurns(turns + Vector256.Create(0.25f));
    }

    /// <summary>The sum of the eight, always in the same order.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static float Sum(Vector256<float> x)
    {
        var four = x.GetLower() + x.GetUpper();
        var two = four + Vector128.Shuffle(four, Vector128.Create(2, 3, 0, 1));
        return two.GetElement(0) + two.GetElement(1);
    }

    /// <summary>The samples one place later; a zero comes in.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Vector256<float> Later1(Vector256<float> x) => Vector256.Shuffle(x, Vector256.Create(8, 0, 1, 2, 3, 4, 5, 6));

    /// <summary>The samples two places later.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Vector256<float> Later2(Vector256<float> x) => Vector256.Shuffle(x, Vector256.Create(8, 8, 0, 1, 2, 3, 4, 5));

    /// <summary>The samples four places later.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Vector256<float> Later4(Vector256<float> x) => Vector256.Shuffle(x, Vector256.Create(8, 8, 8, 8, 0, 1, 2, 3));
}
