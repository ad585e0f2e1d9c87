using System.Text;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Drawing;

/// <summary>
/// Waveforms as SVG path data, x from 0 to the number of columns, y from 0 (top) to 2 for each channel below the other: from afar one closed
/// outline along the highest samples and back along the lowest, from near a line from sample to sample.
/// </summary>
public static class WaveformOutline
{
    private const double DotsFrom = 6; // columns from sample to sample

    /// <summary>True if so few frames are shown that each is drawn.</summary>
    public static bool IsNear(double frames, int columns) => frames <= columns;

    /// <summary>The outline.</summary>
    /// <param name="wave">The recording.</param>
    /// <param name="start">Where the picture begins, in frames.</param>
    /// <param name="frames">Frames across the picture.</param>
    /// <param name="columns">Points across.</param>
    /// <param name="tall">How many times taller it is drawn; cut off at the border of its channel.</param>
    public static string Fill(IWaveform wave, double start, double frames, int columns, double tall = 1)
    {
        var path = new StringBuilder();
        for (var channel = 0; channel < wave.Channels; channel++)
        {
            var middle = 1 + 2 * channel;
            var spans = wave.Columns(channel, start, frames, columns);
            path.Append('M');
            for (var x = 0; x < columns; x++)
            {
                Append(path, x, middle - Held(spans[x].High, tall));
            }

            for (var x = columns - 1; x >= 0; x--)
            {
                Append(path, x, middle - Held(spans[x].Low, tall));
            }

            path.Append('Z');
        }

        return path.ToString();
    }

    /// <summary>A line from sample to sample, and a dot on each where there is room for them.</summary>
    /// <param name="wave">The recording.</param>
    /// <param name="start">Where the picture begins, in frames.</param>
    /// <param name="frames">Frames across the picture.</param>
    /// <param name="columns">Points across.</param>
    /// <param name="tall">How many times taller it is drawn; cut off at the border of its channel.</param>
    /// <returns>The line, and strokes of no length where the dots are; empty for none.</returns>
    public static (string Line, string Dots) Line(IWaveform wave, double start, double frames, int columns, double tall = 1)
    {
        var (line, dots) = (new StringBuilder(), new StringBuilder());
        var first = (long)Math.Floor(start);
        var samples = new float[(int)Math.Ceiling(frames) + 2];
        for (var channel = 0; channel < wave.Channels; channel++)
        {
            var middle = 1 + 2 * channel;
            wave.Samples(channel, first, samples);
            line.Append('M');
            for (var i = 0; i < samples.Length; i++)
            {
                var x = (first + i - start) / frames * columns;
                var y = middle - Held(samples[i], tall);
                Append(line, x, y);
                if (columns / frames >= DotsFrom && first + i >= 0 && first + i < wave.Frames.Count)
                {
                    dots.Append('M');
                    Append(dots, x, y);
                    dots.Append("h0");
                }
            }
        }

        return (line.ToString(), dots.ToString());
    }

    private static double Held(double value, double tall) => Math.Clamp(value * tall, -1, 1);

    private static void Append(StringBuilder path, double x, double y)
    {
        Append(path, x, 2);
        Append(path, y, 3);
    }

    /// <summary>A number with at most so many decimals, and a blank. There are thousands of them in a picture, and formats that are read anew for each take most of its time.</summary>
    private static void Append(StringBuilder path, double number, int decimals)
    {
        Span<char> text = stackalloc char[32];
        var at = text.Length;
        text[--at] = ' ';
        var scaled = (long)Math.Round(number * (decimals == 2 ? 100 : 1000), MidpointRounding.AwayFromZero);
        var (left, whole) = (Math.Abs(scaled), true);
        for (var digit = 0; digit <= decimals || left > 0; digit++, left /= 10)
        {
            if (digit == decimals && !whole)
            {
                text[--at] = '.';
            }

            // Noughts at the end are left out, but for that of a whole number.
            if (!whole || left % 10 != 0 || digit >= decimals)
            {
                text[--at] = (char)('0' + left % 10);
                whole &= digit >= decimals;
            }
        }

        if (scaled < 0)
        {
            text[--at] = '-';
        }

        path.Append(text[at..]);
    }
}
