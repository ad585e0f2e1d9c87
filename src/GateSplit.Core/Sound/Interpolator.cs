using System.Numerics.Tensors;

namespace GateSplit.Core.Sound;

/// <summary>
/// What lies between samples, at any place: a windowed sinc (Kaiser's window) in a table of places, straight between two of them. Even within
/// 0.01 dB up to 0.9 of the Nyquist frequency, images 120 dB down.
/// </summary>
public static class Interpolator
{
    /// <summary>Frames on either side of a place that are needed to work out what is there.</summary>
    public const int Reach = 88;

    private const int Places = 2048; // straight lines between them are 130 dB exact
    private const double Beta = 0.1102 * (130 - 8.7); // Kaiser's formula for 130 dB
    private const double Cutoff = 0.95; // of the Nyquist frequency: even to 0.9, gone at 1
    private static readonly Lazy<float[][]> Table = new(() => [.. Enumerable.Range(0, Places + 1).Select(p => Taps((double)p / Places))]);

    /// <summary>Works out a stretch.</summary>
    /// <param name="first">The place of the first result, in frames from the first of the input; at least <see cref="Reach"/>.</param>
    /// <param name="step">Frames from one to the next: 1 but for drift.</param>
    /// <param name="input">The samples, with at least <see cref="Reach"/> behind the last place.</param>
    /// <param name="into">Receives it.</param>
    public static void Fill(double first, double step, ReadOnlySpan<float> input, Span<float> into)
    {
        var table = Table.Value;
        for (var i = 0; i < into.Length; i++)
        {
            var place = first + i * step;
            var whole = Math.Floor(place);
            var (row, between) = ((place - whole) * Places, 0.0);
            between = row - Math.Floor(row);
            var samples = input.Slice((int)whole - Reach + 1, 2 * Reach);
            var low = TensorPrimitives.Dot(samples, table[(int)row]);
            into[i] = between == 0 ? low : (float)(low + between * (TensorPrimitives.Dot(samples, table[(int)row + 1]) - low));
        }
    }

    private static float[] Taps(double behind)
    {
        var taps = new double[2 * Reach];
        for (var k = 0; k < taps.Length; k++)
        {
            var t = k - (Reach - 1) - behind;
            var inside = 1 - t / Reach * (t / Reach);
            taps[k] = inside <= 0 ? 0 : Kaiser.Sinc(Cutoff * t) * Kaiser.Bessel(Beta * Math.Sqrt(inside));
        }

        // Whatever the place, what stands still comes through as it is.
        var sum = taps.Sum();
        return [.. taps.Select(t => (float)(t / sum))];
    }
}
