using System.Collections.Immutable;
using GateSplit.Core.Notes;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Templates;

/// <summary>Keeps a template of a session, which it does not change.</summary>
public static class TemplateMaker
{
    /// <summary>Makes one of a whole session.</summary>
    /// <param name="name">Its name.</param>
    /// <param name="split">The session's split.</param>
    /// <param name="song">Its song.</param>
    /// <param name="withNotes">False for an empty clip of the same length; <see cref="WithClip"/> gives it another.</param>
    /// <param name="withPerformance">False to leave rides, rolls and variations out.</param>
    public static Result<Template> Whole(string name, Split split, MidiFile song, bool withNotes, bool withPerformance = true) =>
        Named(name, TemplateKind.Whole, song, withNotes, Performed(split, withPerformance));

    /// <summary>Makes one of a source with the inputs that it arrives on, its tracks, and the groups that they are in.</summary>
    /// <inheritdoc cref="Whole"/>
    public static Result<Template> Source(string name, SplitView view, UnitId unitId, MidiFile song, bool withNotes, bool withPerformance = true)
    {
        var split = view.Split;
        if (split.Unit(unitId) is not { } unit)
        {
            return new Refusal("This source is not in the split any more.");
        }

        // Its tracks are those that are meant for it alone, or, if nobody has said what for, that hear nothing else.
        var tracks = split.Tracks.Where(t => t.MeantFor.IsEmpty
            ? view.Signal.Into(t.Id).ToList() is { Count: > 0 } heard && heard.All(f => f.UnitId == unitId)
            : t.MeantFor.All(m => m.UnitId == unitId)).ToImmutableArray();
        var groups = Groups(split, tracks);
        var cables = split.Cables.Where(c => c.UnitId == unitId).ToImmutableArray();
        var rows = tracks.SelectMany(t => new[] { t.Input?.BankId, t.Bus?.BankId }).Concat(cables.Select(c => (BankId?)c.Input.BankId)).Concat(groups.Select(g => g.Bus?.BankId)).ToHashSet();
        var kept = new Split([unit], [.. split.Banks.Where(b => b.UnitId == unitId || (b.UnitId is null && rows.Contains(b.Id)))], tracks, split.Pass)
        {
            Rides = split.Rides.RemoveAll(r => r.Element.UnitId != unitId),
            Steps = split.Steps.RemoveAll(s => s.Element.UnitId != unitId),
            Cables = cables,
            TrackGroups = groups,
        };
        return Named(name, TemplateKind.Source, song, withNotes, Performed(kept.Tidied(), withPerformance));
    }

    /// <summary>Makes one of the output layout of a source: no tracks, no cables, nothing that is performed.</summary>
    /// <param name="name">Its name.</param>
    /// <param name="split">The session's split.</param>
    /// <param name="unitId">The source.</param>
    /// <param name="song">The session's song, of which only tempo and metre are kept.</param>
    public static Result<Template> Outputs(string name, Split split, UnitId unitId, MidiFile song) => split.Unit(unitId) is { } unit
        ? Named(name, TemplateKind.Outputs, song, withNotes: false, new Split([unit], [split.BankOf(unit)], [], split.Pass))
        : new Refusal("This source is not in the split any more.");

    /// <summary>The same template with an empty clip of another length in place of its notes.</summary>
    /// <param name="template">The template.</param>
    /// <param name="bars">Bars of the clip, and of its pass.</param>
    public static Result<Template> WithClip(Template template, int bars)
    {
        if (bars is < 1 or > PassSettings.MostBars)
        {
            return new Refusal($"A clip is 1 to {PassSettings.MostBars} bars long.");
        }

        var file = MidiReader.Read(template.Notes);
        if (!file.Ok)
        {
            return new Refusal(file.Trouble);
        }

        // What changes tempo or metre later is no part of it any more; what was performed there neither.
        var end = Song.Of(file.Value).Metres.BarStart(bars);
        var empty = WithoutNotes(file.Value);
        var clip = empty with { Tracks = [.. empty.Tracks.Select(t => t.RemoveAll(e => e.Tick >= end || e is { Status: 0xFF, MetaType: MidiFile.EndOfTrack }).Add(MidiEvent.Meta(end, MidiFile.EndOfTrack)))] };
        var pass = template.Split.Pass;
        return template with
        {
            Notes = MidiWriter.Write(clip),
            Split = template.Split with
            {
                Pass = pass with { LengthBars = bars, StartBar = Math.Min(pass.StartBar, bars) },
                Steps = template.Split.Steps.RemoveAll(s => s.ToBar > bars + 1),
            },
        };
    }

    private static Result<Template> Named(string name, TemplateKind kind, MidiFile song, bool withNotes, Split split)
    {
        name = name.Trim();
        return Names.Fit(name, Template.LongestName)
            ? new Template(name, kind, MidiWriter.Write(withNotes ? song : WithoutNotes(song)), split with { Accepted = kind == TemplateKind.Whole ? split.Accepted : [], Ticked = [] })
            : new Refusal($"A template needs a name of 1 to {Template.LongestName} letters.");
    }

    private static Split Performed(Split split, bool kept) => kept ? split : split with { Rides = [], Steps = [] };

    /// <summary>The groups of tracks, and those that these feed.</summary>
    private static ImmutableArray<TrackGroup> Groups(Split split, ImmutableArray<Track> tracks)
    {
        var of = tracks.SelectMany(t => t.LevelGroups.Append(t.GroupId ?? default)).ToHashSet();
        var direct = split.TrackGroups.Where(g => of.Contains(g.Id)).ToList();
        var all = direct.SelectMany(split.Above).Concat(direct).ToHashSet();
        return [.. split.TrackGroups.Where(all.Contains)];
    }

    /// <summary>The same file with its tempo, metre and length, and nothing to play.</summary>
    private static MidiFile WithoutNotes(MidiFile song) => song with { Tracks = [.. song.Tracks.Select(t => t.RemoveAll(e => e.IsNoteOn || e.IsNoteOff))] };
}
