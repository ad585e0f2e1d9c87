using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Planning;

/// <summary>From laid lines to the edits that make them.</summary>
internal static class LayEdits
{
    /// <summary>The edits, in order.</summary>
    public static IEnumerable<Edit> Of(SplitView view, ImmutableArray<LaidLine> lines, LayWish wish)
    {
        var split = view.Split;
        var passes = lines.Select(l => l.Pass).DefaultIfEmpty(1).Max();
        var number = split.Tracks.Select(t => t.Id.Number).DefaultIfEmpty().Max();
        var names = split.Tracks.Select(t => t.Name).ToHashSet(StringComparer.OrdinalIgnoreCase);
        var reused = new HashSet<TrackId>();
        foreach (var unit in split.Units.Where(u => lines.Any(l => l.UnitId == u.Id)))
        {
            var widest = unit.Chart.Modes.MaxBy(m => m.Ports.Length)!;
            if (widest.Ports.Length > unit.Mode.Ports.Length)
            {
                yield return new SetMode(unit.Id, widest.Id);
            }
        }

        foreach (var cabled in lines.Select(l => l.UnitId).Distinct().Where(_ => wish.Anew && wish.Only is null))
        {
            yield return new PullCables(cabled);
        }

        foreach (var line in lines)
        {
            var unit = split.Unit(line.UnitId)!;
            foreach (var edit in Assign(unit, line, passes))
            {
                yield return edit;
            }

            var input = line.Input;
            if (input is not null && !split.BankOf(unit).Connected)
            {
                yield return new PlugCables(unit.Id, line.Port.FirstChannel + line.Side, (int)line.Width, input, passes == 1 ? null : line.Pass);
            }

            if (wish.Anew && Reusable(view, line, reused) is { } track)
            {
                reused.Add(track.Id);
                foreach (var edit in Move(track, line, input, Musical(unit, line)))
                {
                    yield return edit;
                }
            }
            else
            {
                yield return new AddTrack(new Track(new TrackId(++number), Free(line.Name, names), line.Width) { MeantFor = MeantFor(line), Input = input, Pass = line.Pass, Pan = Musical(unit, line) });
            }
        }
    }

    private static IEnumerable<Edit> Assign(Unit unit, LaidLine line, int passes)
    {
        if (line.Group is { } name)
        {
            var group = unit.Group(name);
            if (group.Port != line.Port.Number)
            {
                yield return new SetGroup(unit.Id, group with { Port = line.Port.Number });
            }
        }

        foreach (var element in line.Elements)
        {
            var chart = unit.Chart.Element(element.ElementId)!;
            var set = unit.Element(element.ElementId);
            if (line.Group is not null)
            {
                if (set.Port is not null || !set.FollowsGroup)
                {
                    yield return new SetFollowsGroup(element, true);
                }
            }
            else if (set.Port != line.Port.Number)
            {
                yield return new AssignPort(element, line.Port.Number);
            }

            if (line.Group is null && chart.Width == Width.Mono && line.Port.Width == Width.Stereo && set.Pan != (line.Side == 0 ? Pan.HardLeft : Pan.HardRight))
            {
                yield return new PanApart(element, line.Side);
            }

            if (line.Port.Tap == Tap.AfterFader && set.FaderDb != Decibels.Unity)
            {
                yield return new SetFader(element, new Decibels(0));
            }

            var pass = passes == 1 ? (int?)null : line.Pass;
            if (set.Pass != pass)
            {
                yield return new SetElementPass(element, pass);
            }
        }
    }

    /// <summary>
    /// The track that has carried just these elements, or one of that name to which nothing leads any more, so that its
    /// name and its takes go on.
    /// </summary>
    private static Track? Reusable(SplitView view, LaidLine line, HashSet<TrackId> reused)
    {
        var free = view.Split.Tracks.Where(t => !reused.Contains(t.Id)).ToList();
        return free.FirstOrDefault(t => view.Signal.Into(t.Id).Any(f => f.UnitId == line.UnitId) && view.SoundingIn(t).ToHashSet().SetEquals(line.Elements))
            ?? free.FirstOrDefault(t => t.Name == line.Name && !view.Signal.Into(t.Id).Any());
    }

    private static ImmutableArray<Meant> MeantFor(LaidLine line) =>
        line.Group is { } group ? [Meant.ForGroup(line.UnitId, group)] : [.. line.Elements.Select(Meant.For)];

    private static IEnumerable<Edit> Move(Track track, LaidLine line, InputRef? input, Pan pan)
    {
        if (!track.MeantFor.SequenceEqual(MeantFor(line)))
        {
            yield return new SetMeantFor(track.Id, MeantFor(line));
        }

        // First narrow, then move, then widen: a pair may not fit where the track is now.
        if (line.Width == Width.Mono && track.Width != Width.Mono)
        {
            yield return new SetTrackWidth(track.Id, Width.Mono);
        }

        if (track.Input != input)
        {
            yield return new SetTrackInput(track.Id, input);
        }

        if (line.Width == Width.Stereo && track.Width != Width.Stereo)
        {
            yield return new SetTrackWidth(track.Id, Width.Stereo);
        }

        if (track.Pass != line.Pass)
        {
            yield return new SetTrackPass(track.Id, line.Pass);
        }

        if (!track.Armed)
        {
            yield return new SetArmed(track.Id, true);
        }

        // A pan that somebody set on the track stays.
        if (track.Pan == Pan.Centre && pan != Pan.Centre)
        {
            yield return new SetTrackPan(track.Id, pan);
        }
    }

    /// <summary>The pan that a line had in the music before it was panned hard to share a pair: its track gives it back.</summary>
    private static Pan Musical(Unit unit, LaidLine line) =>
        line.Group is null && line.Width == Width.Mono && line.Port.Width == Width.Stereo && unit.Element(line.Elements[0].ElementId) is var set
            ? set.MusicalPan ?? set.Pan
            : Pan.Centre;

    private static string Free(string wish, HashSet<string> names)
    {
        var name = wish;
        for (var n = 2; !names.Add(name); n++)
        {
            name = $"{wish} {n}";
        }

        return name;
    }
}
