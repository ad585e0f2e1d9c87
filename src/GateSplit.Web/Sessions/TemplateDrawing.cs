using GateSplit.Core.Drawing;
using GateSplit.Core.Handoff;
using GateSplit.Core.Notes;
using GateSplit.Core.Splits;
using GateSplit.Core.Templates;
using GateSplit.Core.Views;

namespace GateSplit.Web.Sessions;

/// <summary>Templates as pictures.</summary>
public static class TemplateDrawing
{
    /// <summary>The drawing of a template, all that it keeps: whether a song plays it is another matter.</summary>
    public static string Svg(Template template) => SheetDrawing.ToSvg(SplitDrawing.Of(View(template), new DrawingWish(WithSilent: true)));

    /// <summary>A template as it is looked at, every element sounding.</summary>
    public static SplitView View(Template template)
    {
        var split = template.Split;
        var song = MidiReader.Read(template.Notes) is { Ok: true } midi ? Song.Of(midi.Value) : null;
        return new SplitView(split, [.. split.Units.SelectMany(u => u.Elements.Select(e => new ElementRef(u.Id, e.ElementId)))]) { Song = song };
    }
}
