using GateSplit.Core.Charts;
using GateSplit.Core.Drawing;
using GateSplit.Core.Quantities;

namespace GateSplit.Web.Pages;

/// <summary>Small helps for pages.</summary>
public static class Ui
{
    /// <summary>The version of the program.</summary>
    public static string Version { get; } = typeof(Ui).Assembly.GetName().Version?.ToString(3) ?? "";

    /// <summary>The class that gives a family its colour.</summary>
    public static string FamilyClass(Family? family) => family is { } f ? "fam-" + Glyphs.Of(f).ToLowerInvariant() : "fam-none";

    /// <summary>A level with one decimal: "−12.3", "−∞".</summary>
    public static string Level(Decibels? level) => level is { Value: var value } && double.IsFinite(value) ? $"{(value < 0 ? "−" : "")}{Math.Abs(value):0.0}" : "−∞";

    /// <summary>Points as an SVG polyline wants them.</summary>
    public static string Points(IEnumerable<Point> points, double dy = 0) => string.Join(' ', points.Select(p => $"{p.X:0.##},{p.Y + dy:0.##}"));

    /// <summary>"mono", "stereo".</summary>
    public static string Word(Width width) => width == Width.Mono ? "mono" : "stereo";

    /// <summary>"plug-in", "hardware".</summary>
    public static string Word(SourceKind kind) => kind switch
    {
        SourceKind.PlugIn => "plug-in",
        SourceKind.Hardware => "hardware",
        SourceKind.Tablet => "tablet host",
        _ => "inside the recorder",
    };

    /// <summary>A gain in words.</summary>
    public static string Gain(double db) => new Decibels(db).ToString();
}
