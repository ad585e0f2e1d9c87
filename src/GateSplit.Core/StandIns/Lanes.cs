using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;

namespace GateSplit.Core.StandIns;

/// <summary>
/// Eight samples side by side. Only additions, multiplications, both at once and roundings, which give the same bits
/// on every machine, with or without wide registers.
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
    public static Vector256<float> SinTurns(Vector256<float> x) => SinHalfTurn(x - Vector256.Round(x));

    /// <summary>A phase of 32 bits in turns, from -1/2 to 1/2.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Vector256<float> Turns(Vector256<uint> phase) => Vector256.ConvertToSingle(phase.AsInt32()) * (1 / 4294967296f);

    /// <summary>The sine of a phase of 32 bits, within 1e-6.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Vector256<float> Sin(Vector256<uint> phase) => SinHalfTurn(Turns(phase));

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static Vector256<float> SinHalfTurn(Vector256<float> x)
    {
        var p = x * (Vector256.Create(0.5f) - Vector256.Abs(x));
        var q = Vector256.Abs(p);
        var cubic = Vector256.FusedMultiplyAdd(q, Vector256.Create(55.463526f), Vector256.Create(71.270993f));
        cubic = Vector256.FusedMultiplyAdd(q, cubic, Vector256.Create(50.266978f));
        cubic = Vector256.FusedMultiplyAdd(q, cubic, Vector256.Create(12.566368f));
        return p * cubic;
    }

    /// <summary>From groups of which each holds a sample of every lane to the samples of the first lane, of the second, and so on.</summary>
    /// <param name="samples">A group for each sample, a multiple of eight.</param>
    /// <param name="lanes">As many groups.</param>
    public static void Transpose(ReadOnlySpan<Vector256<float>> samples, Span<Vector256<float>> lanes)
    {
        var each = samples.Length / Count;
        for (var i = 0; i < each; i++)
        {
            var from = samples.Slice(i * Count, Count);
            var (r0, r1, r2, r3, r4, r5, r6, r7) = (from[0], from[1], from[2], from[3], from[4], from[5], from[6], from[7]);
            Swap1(ref r0, ref r1);
            Swap1(ref r2, ref r3);
            Swap1(ref r4, ref r5);
            Swap1(ref r6, ref r7);
            Swap2(ref r0, ref r2);
            Swap2(ref r1, ref r3);
            Swap2(ref r4, ref r6);
            Swap2(ref r5, ref r7);
            Swap4(ref r0, ref r4);
            Swap4(ref r1, ref r5);
            Swap4(ref r2, ref r6);
            Swap4(ref r3, ref r7);
            var into = lanes[i..];
            (into[0], into[each], into[2 * each], into[3 * each]) = (r0, r1, r2, r3);
            (into[4 * each], into[5 * each], into[6 * each], into[7 * each]) = (r4, r5, r6, r7);
        }
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static void Swap1(ref Vector256<float> a, ref Vector256<float> b)
    {
        var second = Vector256.Create(0, -1, 0, -1, 0, -1, 0, -1).AsSingle();
        var (toA, toB) = (Vector256.Shuffle(b, Vector256.Create(1, 0, 3, 2, 5, 4, 7, 6)), Vector256.Shuffle(a, Vector256.Create(1, 0, 3, 2, 5, 4, 7, 6)));
        (a, b) = (Vector256.ConditionalSelect(second, toA, a), Vector256.ConditionalSelect(second, b, toB));
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static void Swap2(ref Vector256<float> a, ref Vector256<float> b)
    {
        var second = Vector256.Create(0, 0, -1, -1, 0, 0, -1, -1).AsSingle();
        var (toA, toB) = (Vector256.Shuffle(b, Vector256.Create(2, 3, 0, 1, 6, 7, 4, 5)), Vector256.Shuffle(a, Vector256.Create(2, 3, 0, 1, 6, 7, 4, 5)));
        (a, b) = (Vector256.ConditionalSelect(second, toA, a), Vector256.ConditionalSelect(second, b, toB));
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static void Swap4(ref Vector256<float> a, ref Vector256<float> b) =>
        (a, b) = (Vector256.Create(a.GetLower(), b.GetLower()), Vector256.Create(a.GetUpper(), b.GetUpper()));

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
