using System.Globalization;
using System.Xml;
using GateSplit.Core.Charts;
using GateSplit.Core.Drawing;

namespace GateSplit.Core.Handoff;

/// <summary>The split drawing as SVG that needs nothing else: for paper, in the colours of paper.</summary>
public static class SheetDrawing
{
    private const string Ink = "#17242F";
    private const string Quiet = "#5B6770";
    private const string Stop = "#A3192E";
    private const double NameWidth = SplitDrawing.ElementX - 48;

    /// <summary>Writes it by itself, as wide as there is room.</summary>
    public static string ToSvg(SplitDrawing drawing)
    {
        using var text = new StringWriter(CultureInfo.InvariantCulture);
        using (var xml = XmlWriter.Create(text, new XmlWriterSettings { OmitXmlDeclaration = true, CheckCharacters = false }))
        {
            Write(xml, drawing, null);
        }

        return text.ToString();
    }

    /// <summary>Writes it.</summary>
    /// <param name="xml">Where.</param>
    /// <param name="drawing">The drawing.</param>
    /// <param name="height">How high it may be on paper, in mm; null for as high as it gets.</param>
    internal static void Write(XmlWriter xml, SplitDrawing drawing, double? height)
    {
        xml.WriteStartElement("svg", "http://www.w3.org/2000/svg");
        if (height is { } most)
        {
            xml.WriteAttributeString("style", $"max-height:{Number(most)}mm");
        }

        Attributes(xml, ("viewBox", $"0 0 {Number(SplitDrawing.Width)} {Number(drawing.Height)}"), ("font-size", "13"), ("fill", Ink), ("role", "img"), ("aria-label", "The split: elements, gate, inputs, tracks"));
        foreach (var unit in drawing.Units)
        {
            Shape(xml, "rect", ("x", SplitDrawing.GateX - 4), ("y", unit.Top + 22), ("width", 8), ("height", unit.Bottom - unit.Top - 22));
            Text(xml, 14, unit.Top + 19, $"{Lettering.Fit(unit.Name, 200)}, {Lettering.Fit(unit.Mode, 150)}", "start", Ink, bold: true);
        }

        foreach (var rail in drawing.Rails)
        {
            var pair = rail.Width == Width.Stereo;
            foreach (var dy in pair ? [-SplitDrawing.PairOffset, SplitDrawing.PairOffset] : new[] { 0.0 })
            {
                Rail(xml, rail, dy);
            }
        }

        foreach (var port in drawing.Ports)
        {
            Box(xml, SplitDrawing.GateX - 13, port.At.Y, 26, port.Used);
            Text(xml, SplitDrawing.GateX, port.At.Y + 4, $"{port.Number}", "middle", port.Used ? Ink : Quiet);
            Box(xml, SplitDrawing.InputX, port.At.Y, SplitDrawing.InputEndX - SplitDrawing.InputX, port.Used);
            Text(xml, (SplitDrawing.InputX + SplitDrawing.InputEndX) / 2, port.At.Y + 4, Lettering.Fit(port.InputName, SplitDrawing.InputEndX - SplitDrawing.InputX - 8), "middle", port.Used ? Ink : Quiet);
        }

        foreach (var stop in drawing.BufferStops)
        {
            Shape(xml, "rect", ("x", stop.X), ("y", stop.Y - 7), ("width", 3), ("height", 14));
        }

        foreach (var element in drawing.Elements)
        {
            Text(xml, SplitDrawing.ElementX - 34, element.At.Y + 4, Lettering.Fit(element.Name, NameWidth), "end", Ink);
            Text(xml, SplitDrawing.ElementX - 14, element.At.Y + 4, Glyphs.Of(element.Family), "middle", FamilyColours.Of(element.Family), bold: true);
        }

        foreach (var track in drawing.Tracks)
        {
            Text(xml, SplitDrawing.TrackX + 26, track.At.Y + 4, $"{track.Number}", "end", Ink);
            Text(xml, SplitDrawing.TrackX + 34, track.At.Y + 4, Lettering.Fit(track.Track.Title, SplitDrawing.Width - SplitDrawing.TrackX - 44), "start", Ink);
        }

        xml.WriteEndElement();
    }

    private static void Rail(XmlWriter xml, DrawnRail rail, double dy)
    {
        var dashes = rail.Kind switch
        {
            RailKind.Return => "7 4",
            RailKind.Main => "1.5 4",
            _ => "none",
        };
        xml.WriteStartElement("polyline");
        Attributes(
            xml,
            ("points", string.Join(' ', rail.Points.Select(p => $"{Number(p.X)},{Number(p.Y + dy)}"))),
            ("fill", "none"),
            ("stroke", rail.Kind == RailKind.Loop ? Stop : FamilyColours.Of(rail.Family)),
            ("stroke-width", "2"),
            ("stroke-dasharray", dashes));
        xml.WriteEndElement();
    }

    private static void Box(XmlWriter xml, double x, double y, double width, bool used)
    {
        xml.WriteStartElement("rect");
        Attributes(xml, ("x", Number(x)), ("y", Number(y - 9)), ("width", Number(width)), ("height", "18"), ("rx", "2"), ("fill", "#FFFFFF"), ("stroke", used ? Ink : Quiet));
        xml.WriteEndElement();
    }

    private static void Shape(XmlWriter xml, string name, params (string Name, double Value)[] attributes)
    {
        xml.WriteStartElement(name);
        Attributes(xml, [.. attributes.Select(a => (a.Name, Number(a.Value)))]);
        xml.WriteEndElement();
    }

    private static void Text(XmlWriter xml, double x, double y, string text, string anchor, string colour, bool bold = false)
    {
        xml.WriteStartElement("text");
        Attributes(xml, ("x", Number(x)), ("y", Number(y)), ("text-anchor", anchor), ("fill", colour), ("font-weight", bold ? "600" : "400"));
        xml.WriteString(text);
        xml.WriteEndElement();
    }

    private static void Attributes(XmlWriter xml, params (string Name, string Value)[] attributes)
    {
        foreach (var (name, value) in attributes)
        {
            xml.WriteAttributeString(name, value);
        }
    }

    private static string Number(double value) => value.ToString("0.##", CultureInfo.InvariantCulture);
}
