using GateSplit.Core;
using GateSplit.Core.Charts;
using GateSplit.Core.Drawing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;
using SidesAt = GateSplit.Core.Views.PortSides;

namespace GateSplit.Web.Pages;

/// <summary>Small helps for pages.</summary>
public static class Ui
{
    /// <summary>A level, of which silence is none.</summary>
    public static Decibels? Finite(Decibels level) => level > Decibels.Silence ? level : null;

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

    /// <summary>What a row is, in words.</summary>
    public static string Word(BankKind kind) => kind switch
    {
        BankKind.PlugInReturns => "what the plug-in gives back",
        BankKind.Usb => "channels of its USB connection",
        BankKind.Analog => "sockets of the interface, reached by cables",
        BankKind.AppToApp => "ports joined to the other app",
        BankKind.StemBuses => "buses on which groups come out",
        BankKind.Loopback => "outputs led back to inputs",
        _ => "internal buses, no hardware",
    };

    /// <summary>"plug-in", "hardware".</summary>
    public static string Word(SourceKind kind) => kind switch
    {
        SourceKind.PlugIn => "plug-in",
        SourceKind.Hardware => "hardware",
        SourceKind.Tablet => "tablet host",
        _ => "inside the recorder",
    };

    /// <summary>What a cable carries: "Kick of Mudlark Nine", or the channel where nothing leaves by it.</summary>
    public static string Plugged(SplitView view, Cable cable)
    {
        var unit = view.Split.Unit(cable.UnitId)!;
        var port = unit.Chart.Ports.FirstOrDefault(p => cable.Channel >= p.FirstChannel && cable.Channel <= p.LastChannel);
        var side = port is null ? SidesAt.None : port.Width == Width.Mono ? SidesAt.Both : cable.Channel == port.FirstChannel ? SidesAt.Left : SidesAt.Right;
        var carried = port is null ? [] : view.SoundingAt(unit.Id, port.Number).Where(f => (SplitView.SidesOf(f) & side) != SidesAt.None).Select(f => view.Split.NameOf(f.Element)).Distinct().ToList();
        return (carried, port) switch
        {
            ({ Count: > 0 }, { Width: Width.Stereo }) => $"{Words.List(carried, most: 2)}, {(side == SidesAt.Left ? "left" : "right")}",
            ({ Count: > 0 }, _) => Words.List(carried, most: 2),
            _ => $"channel {cable.Channel}",
        };
    }

    /// <summary>A gain in words.</summary>
    public static string Gain(double db) => new Decibels(db).ToString();
}
