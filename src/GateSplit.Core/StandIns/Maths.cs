using GateSplit.Core.Quantities;

namespace GateSplit.Core.StandIns;

/// <summary>
/// Sine and power of two by additions and multiplications only. The platform's own may differ in the last bit from one
/// machine to the next; these give the same bytes everywhere.
/// </summary>
internal static class Maths
{
    private const double HalfPi = Math.PI / 2;

    /// <summary>sin(2 pi x) for any x, within 4e-9 (Taylor series to the 11th power over a quarter turn).</summary>
    public static double SinTurns(double x)
    {
        x -= Math.Floor(x);
        var quarter = x * 4;
        var folded = quarter <= 1 ? quarter : quarter <= 3 ? 2 - quarter : quarter - 4;
        var a = folded * HalfPi;
        var b = a * a;
        return a * (1 + b * (-1 / 6.0 + b * (1 / 120.0 + b * (-1 / 5040.0 + b * (1 / 362880.0 - b / 39916800.0)))));
    }

    /// <summary>2^x, within 1e-9 of the result (Taylor series of e^(x ln 2) over half a unit either way).</summary>
    public static double Exp2(double x)
    {
        var whole = Math.Floor(x + 0.5);
        var a = (x - whole) * 0.6931471805599453;
        var series = 1 + a * (1 + a * (1 / 2.0 + a * (1 / 6.0 + a * (1 / 24.0 + a * (1 / 120.0 + a * (1 / 720.0 + a * (1 / 5040.0 + a / 40320)))))));
        return series * BitConverter.UInt64BitsToDouble((ulong)(Math.Clamp(whole, -1022, 1023) + 1023) << 52);
    }

    /// <summary>The x whose power of two, as <see cref="Exp2"/> has it, is a number above 0 (Newton's method).</summary>
    public static double Log2(double number)
    {
        double x = Math.ILogB(number);
        for (var step = 0; step < 6; step++)
        {
            var power = Exp2(x);
            x += (number - power) / (power * 0.6931471805599453);
        }

        return x;
    }

    /// <summary>The factor a sample that makes a level fall by 60 dB in so many seconds.</summary>
    public static double DecayFactor(double seconds, SampleRate sampleRate) =>
        Exp2(-9.965784284662087 / Math.Max(1, seconds * sampleRate));

    /// <summary>
    /// The share of the sample before that a one-pole low-pass keeps, so that it has fallen by 3 dB at a frequency: where
    /// |H|^2 = (1 - a)^2 / (1 - 2 a cos w + a^2) is a half, a = 2 - cos w - sqrt((2 - cos w)^2 - 1).
    /// </summary>
    public static double OnePoleShare(double hertz, SampleRate sampleRate)
    {
        var c = 2 - SinTurns(Math.Clamp(hertz / sampleRate, 1e-5, 0.5) + 0.25);
        return c - Math.Sqrt(c * c - 1);
    }

    /// <summary>tan(pi f / rate), the gain of an integrator of the filters here, for f below 0.45 of the rate.</summary>
    public static double FilterGain(double hertz, SampleRate sampleRate)
    {
        var turns = Math.Clamp(hertz / sampleRate, 1e-5, 0.45) / 2;
        return SinTurns(turns) / SinTurns(turns + 0.25);
    }
}
