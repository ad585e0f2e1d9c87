using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using System.Xml;
using GateSplit.Core.Drawing;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Handoff;

/// <summary>The track sheet to read and to print: one page of HTML without script, for A4 and letter.</summary>
public static class PrintedSheet
{
    private const string Style = """
        @page { margin: 9mm }
        body { font: 8pt/1.3 "Atkinson Hyperlegible Next", "Helvetica Neue", Arial, sans-serif; color: #17242F; margin: 0 auto; max-width: 190mm }
        h1 { font-size: 14pt; margin: 0 } h2 { font-size: 9.5pt; margin: 7pt 0 2pt } p, ol { margin: 0 0 2pt } ol { padding-left: 14pt }
        .quiet { color: #5B6770 }
        table { border-collapse: collapse; width: 100% } th, td { text-align: left; vertical-align: top; padding: 1.5pt 4pt 1.5pt 0; border-bottom: .5pt solid #D9D3C4 }
        th { font-weight: 600 } .n { text-align: right; font-variant-numeric: tabular-nums; white-space: nowrap } tr { break-inside: avoid }
        .mark { display: inline-block; width: 6pt; height: 6pt; margin-right: 3pt } svg { width: 100%; max-height: 92mm; break-inside: avoid }
        """;

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
            xml.WriteStartElement("body");
            Element(xml, "h1", material.Session);
            Element(xml, "p", Summary(takes, made), ("class", "quiet"));
            Files(xml, files);
            foreach (var take in takes)
            {
                Split(xml, take, takes.Count > 1);
            }

            Notes(xml, material, takes);
            Element(xml, "h2", "How to lay these out");
            foreach (var line in LayingOut.Lines(takes, files))
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
        Row(xml, "th", [("File", ""), ("Holds", ""), ("From", ""), ("Length", "n"), ("Level", "n"), ("Pan", "n"), ("Peak dBTP", "n"), ("LUFS", "n"), ("Remarks", "")]);
        foreach (var file in files.Select(f => f.File))
        {
            xml.WriteStartElement("tr");
            xml.WriteStartElement("td");
            Element(xml, "span", "", ("class", "mark"), ("style", $"background:{FamilyColours.Of(file.Family)}"));
            xml.WriteString(file.Path);
            Element(xml, "div", $"{Channels(file)}, {file.Format.WidthName}, {file.Format.SampleRate}{(file.Groups.Length > 0 ? $"; in {file.Groups}" : "")}", ("class", "quiet"));
            xml.WriteEndElement();
            Cells(xml, "td", [
                (file.Elements, ""),
                (file.Source + (several ? $"; take {file.Take}" : ""), ""),
                (Words.Clock(file.Frames.Seconds(file.Format.SampleRate)), "n"),
                (file.Level is { } level ? level.ToString() : "in it", "n"),
                (file.Pan is { } pan ? Short(pan) : "in it", "n"),
                (Level(file.Levels?.TruePeakDbtp?.Value), "n"),
                (Level(file.Levels?.Loudness.Integrated), "n"),
                (string.Join(" ", new[] { file.Verdict, file.Remark, file.Mended ? "Mended." : "" }.Where(r => r.Length > 0)), ""),
            ]);
            xml.WriteEndElement();
        }

        xml.WriteEndElement();
    }

    private static void Split(XmlWriter xml, HandoffTake take, bool several)
    {
        var split = take.View.Split;
        for (var pass = 1; pass <= split.Passes; pass++)
        {
            Element(xml, "h2", "The split" + (several ? $" of take {take.Number}" : "") + (split.Passes > 1 ? $", pass {pass}" : ""));
            SheetDrawing.Write(xml, SplitDrawing.Of(take.View, new DrawingWish { Pass = split.Passes > 1 ? pass : null }));
        }

        Element(xml, "h2", "The sources" + (several ? $" of take {take.Number}" : ""));
        foreach (var unit in split.Units)
        {
            var settings = string.Join(" ", unit.Chart.Settings.Select(s => s.What));
            Element(xml, "p", $"{unit.Name}: {unit.Mode.Name}; ports {Core.Words.Runs([.. unit.Chart.Ports.Where(p => take.View.AnyTrackHears(unit.Id, p.Number)).Select(p => p.Number)])} are heard. {settings}");
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

    private static void Row(XmlWriter xml, string cell, IEnumerable<(string Text, string Class)> cells)
    {
        xml.WriteStartElement("tr");
        Cells(xml, cell, cells);
        xml.WriteEndElement();
    }

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
