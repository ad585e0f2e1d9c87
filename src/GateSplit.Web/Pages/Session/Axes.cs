using GateSplit.Core;
using GateSplit.Core.Drawing;

namespace GateSplit.Web.Pages.Session;

/// <summary>The two axes of a plot.</summary>
/// <param name="X">The one across.</param>
/// <param name="Y">The one up.</param>
/// <param name="Across">How a value is written beneath.</param>
/// <param name="Up">How a value is written beside.</param>
public sealed record Axes(PlotAxis X, PlotAxis Y, Func<double, string> Across, Func<double, string> Up)
{
    /// <summary>Something over time.</summary>
    public static Axes OverTime(PlotAxis x, PlotAxis y) => new(x, y, Words.Clock, Number);

    /// <summary>Something over frequency.</summary>
    public static Axes OverFrequency(PlotAxis x, PlotAxis y) => new(x, y, hertz => hertz >= 1000 ? $"{hertz / 1000:0}k" : $"{hertz:0}", Number);

    private static string Number(double value) => value.ToString("0.###").Replace('-', '−');
}
