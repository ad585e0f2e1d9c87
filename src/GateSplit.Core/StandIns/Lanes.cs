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

    /// <summary>sin(2 pi x), within 1e-6 for x up to some turns (Taylor series to the 11th power over half a turn).</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Vector256<float> SinTurns(Vector256<float> x)
    {
        x -= Vector256.Round(x);
        var half = Vector256.CopySign(Vector256.Create(0.5f), x);
        var folded = Vector256.ConditionalSelect(Vector256.GreaterThan(Vector256.Abs(x), Vector256.Create(0.25f)), half - x, x);
        var a = folded * (2 * MathF.PI);
        var b = a * a;
        var series = b * (-1 / 39916800f) + Vector256.Create(1 / 362880f);
        series = b * series + Vector256.Create(-1 / 5040f);
        series = b * series + Vector256.Create(1 / 120f);
        series = b * series + Vector256.Create(-1 / 6f);
        return a * (b * series + Vector256<float>.One);
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
