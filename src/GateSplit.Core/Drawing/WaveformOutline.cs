using System.Globalization;
using System.Text;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Drawing;

/// <summary>A waveform as one closed outline: along the highest samples and back along the lowest.</summary>
public static class WaveformOutline
{
    /// <summary>The outline as SVG path data ("M x y L …"), x from 0 to <paramref name="columns"/>, y from 0 (top) to 2 for each channel below the other.</summary>
    /// <param name="overview">The waveform.</param>
    /// <param name="columns">Points across.</param>
    public static string PathData(Overview overview, int columns)
    {
        var path = new StringBuilder();
        for (var channel = 0; channel < overview.Channels; channel++)
        {
            var middle = 1 + 2 * channel;
            var spans = overview.Columns(channel, 0, Frames.Max(1, overview.Frames), columns);
            path.Append('M');
            for (var x = 0; x < columns; x++)
            {
                Append(path, x, middle - spans[x].High);
            }

            for (var x = columns - 1; x >= 0; x--)
            {
                Append(path, x, middle - spans[x].Low);
            }

            path.Append('Z');
        }

        return path.ToString();
    }

    private static void Append(StringBuilder path, int x, double y) =>
        path.Append(CultureInfo.InvariantCulture, $"{x} {y:0.###} ");
}
