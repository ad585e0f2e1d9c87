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
    /// <summary>What the names of outputs begin with that are declared for lines.</summary>
    public const string DeclaredLabel = "Out";

    /// <summary>The edits, in order.</summary>
    public static IEnumerable<Edit> Of(SplitView view, ImmutableArray<LaidLine> lines, ImmutableArray<SourceToLay> sources, LayWish wish)
    {
        var split = view.Split;
        var passes = lines.Select(l => l.Pass).DefaultIfEmpty(1).Max();
        var number = split.Tracks.Select(t => t.Id.Number).DefaultIfEmpty().Max();
        var names = split.Tracks.Select(t => t.Name).ToHashSet(StringComparer.OrdinalIgnoreCase);
        var reused = new HashSet<TrackId>();
        var laid = lines.SelectMany(l => l.Elements).ToHashSet();
        foreach (var source in sources.Where(s => lines.Any(l => l.UnitId == s.Unit.Id)))
        {
            if (source.Mode.Id != source.Unit.ModeId)
            {
                yield return new SetMode(source.Unit.Id, source.Mode.Id);
            }

            foreach (var alike in source.Declared.GroupBy(p => p.Width))
            {
                yield return new DeclarePorts(source.Unit.Id, alike.Count(), alike.Key, DeclaredLabel, alike.First().Number);
            }
        }

        foreach (var cabled in lines.Select(l => l.UnitId).Distinct().Where(_ => wish.Anew && wish.Only is null))
        {
            yield return new PullCables(cabled);
        }

        foreach (var line in lines)
        {
            var unit = split.Unit(line.UnitId)!;
            foreach (var edit in Assign(unit, line, passes, wish.Unity))
            {
                yield return edit;
            }

            var input = line.Input;
            if (input is not null && !split.BankOf(unit).Connected)
            {
                yield return new PlugCables(unit.Id, line.Port.FirstChannel + line.Side, (int)line.Width, input, passes == 1 ? null : line.Pass);
            }

            if (wish.Anew && Reusable(view, line, reused, laid) is { } track)
            {
                reused.Add(track.Id);
                foreach (var edit in Move(track, line, [.. view.SoundingIn(track).Select(split.NameOf)], input, Musical(unit, line)))
                {
                    yield return edit;
                }
            }
            else
            {
                yield return new AddTrack(new Track(new TrackId(++number), Free(line.Name, names), line.Width) { MeantFor = MeantFor(line), Input = input, Pass = line.Pass, Pan = Musical(unit, line) });
            }
        }

        foreach (var left in wish.Anew ? Left(view, lines, reused, laid) : [])
        {
            yield return new RemoveTrack(left.Id);
        }
    }

    private static IEnumerable<Edit> Assign(Unit unit, LaidLine line, int passes, bool unity)
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

            if (IsHalf(line) && set.Pan != (line.Side == 0 ? Pan.HardLeft : Pan.HardRight))
            {
                yield return new PanApart(element, line.Side);
            }

            // In a line of several the faders are their balance.
            if (unity && line.Elements.Length == 1 && line.Group is null && line.Port.Tap == Tap.AfterFader && set.FaderDb != Decibels.Unity)
            {
                yield return new SetFader(element, Decibels.Unity);
            }

            var pass = passes == 1 ? (int?)null : line.Pass;
            if (set.Pass != pass)
            {
                yield return new SetElementPass(element, pass);
            }
        }
    }

    /// <summary>
    /// The track that has carried just these elements, or one of that name to which nothing leads any more, or one that carried the first of
    /// them together with others that are laid too, so that its name and its takes go on.
    /// </summary>
    private static Track? Reusable(SplitView view, LaidLine line, HashSet<TrackId> reused, HashSet<ElementRef> laid)
    {
        var free = view.Split.Tracks.Where(t => !reused.Contains(t.Id)).ToList();
        return free.FirstOrDefault(t => view.Signal.Into(t.Id).Any(f => f.UnitId == line.UnitId) && view.SoundingIn(t).ToHashSet().SetEquals(line.Elements))
            ?? free.FirstOrDefault(t => t.Name == line.Name && !view.Signal.Into(t.Id).Any())
            ?? free.FirstOrDefault(t => view.SoundingIn(t) is { Length: > 1 } carried && carried.Contains(line.Elements[0]) && carried.All(laid.Contains) && !view.IsReference(t));
    }

    /// <summary>Tracks whose elements are all laid, none of them with what such a track carried: what they were for is elsewhere now.</summary>
    private static IEnumerable<Track> Left(SplitView view, ImmutableArray<LaidLine> lines, HashSet<TrackId> reused, HashSet<ElementRef> laid) => view.Split.Tracks.Where(t =>
        !reused.Contains(t.Id) && !view.IsReference(t)
        && view.SoundingIn(t) is { IsEmpty: false } carried && carried.All(laid.Contains) && !lines.Any(l => carried.ToHashSet().SetEquals(l.Elements)));

    private static ImmutableArray<Meant> MeantFor(LaidLine line) =>
        line.Group is { } group ? [Meant.ForGroup(line.UnitId, group)] : [.. line.Elements.Select(Meant.For)];

    private static IEnumerable<Edit> Move(Track track, LaidLine line, ImmutableArray<string> carried, InputRef? input, Pan pan)
    {
        if (!track.MeantFor.SequenceEqual(MeantFor(line)))
        {
            yield return new SetMeantFor(track.Id, MeantFor(line));
        }

        // A name that says what the track carried says what it carries.
        if (track.Name != line.Name && carried.Length > 0 && track.Name == string.Join(" + ", carried))
        {
            yield return new RenameTrack(track.Id, line.Name);
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
        IsHalf(line) && line.Elements.Select(e => unit.Element(e.ElementId)).Select(set => set.MusicalPan ?? set.Pan).Distinct().ToList() is [var one] ? one : Pan.Centre;

    /// <summary>True of a mono line on a pair: it leaves by one side, which it is panned to.</summary>
    private static bool IsHalf(LaidLine line) => line.Group is null && line.Width == Width.Mono && line.Port.Width == Width.Stereo;

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
