using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using System.Xml;
using GateSplit.Core.Drawing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Handoff;

/// <summary>The track sheet to read and to print: one page of HTML without script, for A4 and letter.</summary>
public static class PrintedSheet
{
    private const string Style = """
        @page { margin: 9mm } @media screen { body { padding: 9mm } }
        body { line-height: 1.25; font-family: "Atkinson Hyperlegible Next", "Helvetica Neue", Arial, sans-serif; color: #17242F; margin: 0 auto; max-width: 190mm }
        h1 { font-size: 1.7em; margin: 0 } h2 { font-size: 1.1em; margin: .55em 0 .1em } p, ol { margin: 0 0 .1em } ol { padding-left: 1.7em }
        .quiet { color: #5B6770 }
        table { border-collapse: collapse; width: 100% } th, td { text-align: left; vertical-align: top; padding: .12em .5em 0 0; overflow-wrap: anywhere } td:first-child { min-width: 52mm }
        th { font-weight: 600 } .more td { padding: 0 0 .12em 1.3em; font-size: .875em } tbody { break-inside: avoid; border-bottom: .5pt solid #D9D3C4 }
        .n { text-align: right; font-variant-numeric: tabular-nums; white-space: nowrap }
        .mark { display: inline-block; width: .75em; height: .75em; margin-right: .4em } svg { display: block; width: 100%; break-inside: avoid }
        """;

    // What a page of letter paper, the shorter of the two, holds between its margins, and what takes how much of it at most, in mm.
    private const double PageHeight = 261;
    private const double Head = 17; // title, summary and the head of the table
    private const double Heading = 6;
    private const double TextLine = 3.5;
    private const double Row = 3.8;
    private const double Rule = 0.7;
    private const int LettersALine = 105; // of sentences, in the wide letters that a system without the narrow ones has
    private const int LettersASmallLine = 132;
    private const int LettersARow = 90; // of a name and of what it holds
    private const double LeastDrawing = 30;
    private const double MostDrawing = 92;
    private const double Type = 8; // pt, which is made smaller where that lets all of it fit one page
    private static readonly double[] Scales = [1, 0.95, 0.9, 0.85, 0.8, 0.75];

    /// <summary>Writes it.</summary>
    /// <param name="material">What the handoff is of.</param>
    /// <param name="takes">Its takes.</param>
    /// <param name="files">The files that were made.</param>
    /// <param name="made">When, in local time.</param>
    public static string Write(HandoffMaterial material, IReadOnlyList<HandoffTake> takes, ImmutableArray<HandoffWritten> files, DateTime made)
    {
        using var text = new Utf8Writer();
        using (var xml = XmlWriter.Create(text, new XmlWriterSettings { OmitXmlDeclaration = true, CheckCharacters = false, NewLineChars = "\n" }))
        {
            xml.WriteDocType("html", null, null, null);
            xml.WriteStartElement("html");
            xml.WriteAttributeString("lang", "en");
            xml.WriteStartElement("head");
            Element(xml, "meta", "", ("charset", "utf-8"));
            Element(xml, "title", $"{material.Session}: track sheet");
            xml.WriteElementString("style", Style);
            xml.WriteEndElement();
            var layingOut = LayingOut.Lines(takes, files);
            var (scale, height) = Fit(material, takes, files, layingOut);
            xml.WriteStartElement("body");
            xml.WriteAttributeString("style", string.Create(CultureInfo.InvariantCulture, $"font-size:{Type * scale:0.##}pt"));
            Element(xml, "h1", material.Session);
            Element(xml, "p", Summary(takes, made), ("class", "quiet"));
            Files(xml, files);
            foreach (var take in takes)
            {
                Split(xml, take, takes.Count > 1, height);
            }

            Notes(xml, material, takes);
            Element(xml, "h2", "How to lay these out");
            foreach (var line in layingOut)
            {
                Element(xml, "p", line);
            }

            xml.WriteEndElement();
            xml.WriteEndElement();
        }

        return text.ToString();
    }

    private static string Summary(IReadOnlyList<HandoffTake> takes, DateTime made)
    {
        var song = takes.Select(t => t.Song).FirstOrDefault();
        var music = song is null ? "" : string.Create(CultureInfo.InvariantCulture, $"{song.Metres.First} at {song.Tempos.StartTempo:0.###} quarters a minute{(song.Tempos.Tempos.Length > 1 ? ", with changes of tempo" : "")}; ");
        return $"{music}{string.Join("; ", takes.Select(t => t.Words + (t.Note.Length > 0 ? $" ({t.Note})" : "")))}; handed off {made:yyyy-MM-dd HH:mm}.";
    }

    private static void Files(XmlWriter xml, ImmutableArray<HandoffWritten> files)
    {
        var several = files.Select(f => f.File.Take).Distinct().Count() > 1;
        xml.WriteStartElement("table");
        xml.WriteStartElement("thead");
        xml.WriteStartElement("tr");
        Cells(xml, "th", [("File", ""), ("Holds", ""), ("Length", "n"), ("Level", "n"), ("Pan", "n"), ("dBTP", "n"), ("LUFS", "n")]);
        xml.WriteEndElement();
        xml.WriteEndElement();
        foreach (var file in files.Select(f => f.File))
        {
            xml.WriteStartElement("tbody");
            xml.WriteStartElement("tr");
            xml.WriteStartElement("td");
            Element(xml, "span", "", ("class", "mark"), ("style", $"background:{FamilyColours.Of(file.Family)}"));
            xml.WriteString(file.Path);
            xml.WriteEndElement();
            Cells(xml, "td", [
                (file.Elements, ""),
                (Words.Clock(file.Frames.Seconds(file.Format.SampleRate)), "n"),
                (file.Level is { } level ? level.ToString() : "in it", "n"),
                (file.Pan is { } pan ? Short(pan) : "in it", "n"),
                (Level(file.Levels?.TruePeakDbtp?.Value), "n"),
                (Level(file.Levels?.Loudness.Integrated), "n"),
            ]);
            xml.WriteEndElement();
            xml.WriteStartElement("tr");
            xml.WriteAttributeString("class", "more");
            Element(xml, "td", More(file, several), ("class", "quiet"), ("colspan", "7"));
            xml.WriteEndElement();
            xml.WriteEndElement();
        }

        xml.WriteEndElement();
    }

    /// <summary>What stands beneath the row of a file.</summary>
    private static string More(HandoffFile file, bool several) => string.Join(" ", new[]
    {
        $"{char.ToUpperInvariant(file.Source[0])}{file.Source[1..]}{(several ? $", take {file.Take}" : "")}: {Channels(file)}, {file.Format.WidthName}, {file.Format.SampleRate}{(file.Groups.Length > 0 ? $", in {file.Groups}" : "")}.",
        file.Mended ? "Mended." : "",
        file.Verdict,
        file.Remark,
    }.Where(r => r.Length > 0));

    /// <summary>How large the type is and how high each drawing may be so that all of it fits one page, as long as it can be read then.</summary>
    private static (double Scale, double Height) Fit(HandoffMaterial material, IReadOnlyList<HandoffTake> takes, ImmutableArray<HandoffWritten> files, IReadOnlyCollection<string> layingOut)
    {
        var drawings = takes.Sum(t => t.View.Split.Passes);
        double Rest(double scale)
        {
            double Lines(IEnumerable<string> texts, int letters, double height) => texts.Sum(t => Math.Ceiling(Math.Max(1, t.Length) * scale / letters) * height);
            return scale * (Head
                + Lines(files.Select(f => f.File.Path + f.File.Elements), LettersARow, Row) + files.Length * Rule
                + Lines(files.Select(f => More(f.File, takes.Count > 1)), LettersASmallLine, TextLine)
                + takes.Sum(t => Heading + Lines(t.View.Split.Units.Select(u => Source(t, u)), LettersALine, TextLine))
                + (material.Mends.IsEmpty ? 0 : Heading + Lines(material.Mends, LettersALine, TextLine))
                + Heading + Lines(layingOut, LettersALine, TextLine)
                + drawings * Heading);
        }

        var fitting = Scales.FirstOrDefault(s => Rest(s) + drawings * LeastDrawing <= PageHeight, Scales[^1]);
        return (fitting, Math.Clamp((PageHeight - Rest(fitting)) / drawings, LeastDrawing, MostDrawing));
    }

    private static string Source(HandoffTake take, Unit unit) =>
        $"{unit.Name}: {unit.Mode.Name}; ports {Core.Words.Runs([.. unit.Chart.Ports.Where(p => take.View.AnyTrackHears(unit.Id, p.Number)).Select(p => p.Number)])} are heard. {string.Join(" ", unit.Chart.Settings.Select(s => s.What))}";

    private static void Split(XmlWriter xml, HandoffTake take, bool several, double height)
    {
        var split = take.View.Split;
        for (var pass = 1; pass <= split.Passes; pass++)
        {
            Element(xml, "h2", "The split" + (several ? $" of take {take.Number}" : "") + (split.Passes > 1 ? $", pass {pass}" : ""));
            SheetDrawing.Write(xml, SplitDrawing.Of(take.View, new DrawingWish { Pass = split.Passes > 1 ? pass : null }), height);
        }

        Element(xml, "h2", "The sources" + (several ? $" of take {take.Number}" : ""));
        foreach (var unit in split.Units)
        {
            Element(xml, "p", Source(take, unit));
        }
    }

    private static void Notes(XmlWriter xml, HandoffMaterial material, IReadOnlyList<HandoffTake> takes)
    {
        if (material.Mends.IsEmpty)
        {
            return;
        }

        Element(xml, "h2", takes.Count > 1 ? "What was mended" : $"What was mended in take {takes[0].Number}");
        xml.WriteStartElement("ol");
        foreach (var mend in material.Mends)
        {
            Element(xml, "li", mend);
        }

        xml.WriteEndElement();
    }

    private static string Channels(HandoffFile file) => file.Format.Channels switch
    {
        1 => "mono",
        2 => "stereo",
        var many => $"{many} channels",
    };

    private static string Short(Pan pan) => pan.Value switch
    {
        > -0.005 and < 0.005 => "C",
        < 0 => $"L {-pan.Percent:0}",
        _ => $"R {pan.Percent:0}",
    };

    private static string Level(double? value) => value is { } known && double.IsFinite(known) ? new Decibels(known).Value.ToString("0.0", CultureInfo.InvariantCulture) : "–";

    private static void Cells(XmlWriter xml, string cell, IEnumerable<(string Text, string Class)> cells)
    {
        foreach (var (text, css) in cells)
        {
            Element(xml, cell, text, css.Length > 0 ? [("class", css)] : []);
        }
    }

    private static void Element(XmlWriter xml, string name, string text, params (string Name, string Value)[] attributes)
    {
        xml.WriteStartElement(name);
        foreach (var (attribute, value) in attributes)
        {
            xml.WriteAttributeString(attribute, value);
        }

        xml.WriteString(text);
        if (name is "meta")
        {
            xml.WriteEndElement();
        }
        else
        {
            xml.WriteFullEndElement();
        }
    }

    /// <summary>Text that says it is UTF-8, as it will be.</summary>
    private sealed class Utf8Writer() : StringWriter(CultureInfo.InvariantCulture)
    {
        public override Encoding Encoding => Encoding.UTF8;
    }
}
