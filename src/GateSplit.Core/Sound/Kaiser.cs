namespace GateSplit.Core.Sound;

/// <summary>What windowed sincs are made of (Oppenheim and Schafer, "Discrete-Time Signal Processing").</summary>
internal static class Kaiser
{
    /// <summary>sin(pi x) / (pi x).</summary>
    public static double Sinc(double x) => Math.Abs(x) < 1e-12 ? 1 : Math.Sin(Math.PI * x) / (Math.PI * x);

    /// <summary>The modified Bessel function of the first kind and order 0, by its power series.</summary>
    public static double Bessel(double x)
    {
        double sum = 1, term = 1;
        for (var k = 1; term > 1e-17 * sum; k++)
        {
            term *= x / (2 * k) * (x / (2 * k));
            sum += term;
        }

        return sum;
    }
}
