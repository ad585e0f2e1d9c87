using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Planning;

/// <summary>One action on many tracks: regular runs at once, exceptions after.</summary>
public static class Bulk
{
    /// <summary>What stands for the number in a pattern of names.</summary>
    public const char NumberSign = '#';

    /// <summary>Counts inputs upward from a start, each track in steps of its own width.</summary>
    public static Edit CountInputs(Split split, IReadOnlyList<TrackId> trackIds, InputRef start)
    {
        var edits = ImmutableArray.CreateBuilder<Edit>();
        var channel = start.Channel;
        foreach (var track in Chosen(split, trackIds))
        {
            edits.Add(new SetTrackInput(track.Id, start with { Channel = channel }));
            channel += (int)track.Width;
        }

        return new Several($"Count the inputs of {Words.Count(edits.Count, "track")} upward", edits.ToImmutable());
    }

    /// <summary>Names tracks by a pattern, in which # becomes 1, 2, 3; without one the number follows the words.</summary>
    public static Edit Name(Split split, IReadOnlyList<TrackId> trackIds, string pattern)
    {
        var words = pattern.Contains(NumberSign, StringComparison.Ordinal) ? pattern : $"{pattern.Trim()} {NumberSign}";
        return Each(split, trackIds, "Name", (t, i) => new RenameTrack(t.Id, words.Replace($"{NumberSign}", $"{i + 1}", StringComparison.Ordinal)));
    }

    /// <summary>Arms or disarms.</summary>
    public static Edit Arm(Split split, IReadOnlyList<TrackId> trackIds, bool armed) =>
        Each(split, trackIds, armed ? "Arm" : "Disarm", (t, _) => new SetArmed(t.Id, armed));

    /// <summary>Puts them into a group.</summary>
    public static Edit PutInGroup(Split split, IReadOnlyList<TrackId> trackIds, TrackGroupId groupId) =>
        Each(split, trackIds, "Group", (t, _) => new PutInGroup(t.Id, groupId));

    /// <summary>Takes them out of a group.</summary>
    public static Edit TakeOutOfGroup(Split split, IReadOnlyList<TrackId> trackIds, TrackGroupId groupId) =>
        Each(split, trackIds, "Ungroup", (t, _) => new TakeOutOfGroup(t.Id, groupId));

    /// <summary>Does one thing to each of several tracks.</summary>
    /// <param name="split">The split.</param>
    /// <param name="trackIds">The tracks.</param>
    /// <param name="what">What it does, such as "Set the level of".</param>
    /// <param name="edit">What it does to one.</param>
    public static Edit Tracks(Split split, IReadOnlyList<TrackId> trackIds, string what, Func<Track, Edit> edit) => Each(split, trackIds, what, (t, _) => edit(t));

    /// <summary>Does one thing to each of several elements.</summary>
    /// <param name="split">The split.</param>
    /// <param name="elements">The elements.</param>
    /// <param name="what">What it does, such as "Set the fader of".</param>
    /// <param name="edit">What it does to one.</param>
    public static Edit Elements(Split split, IReadOnlyList<ElementRef> elements, string what, Func<ElementRef, Edit> edit)
    {
        var edits = elements.Where(split.HasElement).Distinct().Select(edit).ToImmutableArray();
        return new Several($"{what} {Words.Count(edits.Length, "element")}", edits);
    }

    /// <summary>Sets when tracks are heard.</summary>
    public static Edit Monitor(Split split, IReadOnlyList<TrackId> trackIds, MonitorMode mode) =>
        Each(split, trackIds, "Set the monitoring of", (t, _) => new SetMonitor(t.Id, mode));

    /// <summary>Makes tracks mono or stereo.</summary>
    public static Edit Widen(Split split, IReadOnlyList<TrackId> trackIds, Width width) =>
        Each(split, trackIds, width == Width.Mono ? "Make mono" : "Make stereo", (t, _) => new SetTrackWidth(t.Id, width));

    /// <summary>Removes tracks.</summary>
    public static Edit Remove(Split split, IReadOnlyList<TrackId> trackIds) =>
        Each(split, trackIds, "Remove", (t, _) => new RemoveTrack(t.Id));

    /// <summary>Counts the ports of what the tracks carry upward from a start, over ports that are wide enough; the tracks move along.</summary>
    /// <returns>The edit, or a sentence if the source has too few ports, or the tracks carry nothing of one source.</returns>
    public static Result<Edit> CountPorts(SplitView view, IReadOnlyList<TrackId> trackIds, int start)
    {
        var tracks = Chosen(view.Split, trackIds).ToList();
        var carried = tracks.Select(t => view.SoundingIn(t)).ToList();
        if (carried.Any(c => c.IsEmpty) || carried.SelectMany(c => c).Select(e => e.UnitId).Distinct().ToList() is not [var unitId])
        {
            return new Refusal("Choose tracks that each carry something, all from one source.");
        }

        var unit = view.Split.Unit(unitId)!;
        var free = new Queue<ChartPort>(unit.Chart.Ports.Where(p => p.Number >= start));
        var edits = ImmutableArray.CreateBuilder<Edit>();
        for (var i = 0; i < tracks.Count; i++)
        {
            while (free.Count > 0 && free.Peek().Width < tracks[i].Width)
            {
                free.Dequeue();
            }

            if (!free.TryDequeue(out var port))
            {
                return new Refusal($"{unit.Name} has too few ports from {start} on for {Words.Count(tracks.Count, "track")}.");
            }

            edits.AddRange(carried[i].Select(e => new AssignPort(e, port.Number)));
            edits.Add(new SetTrackInput(tracks[i].Id, view.Split.InputOf(unit, port.FirstChannel, tracks[i].Pass)));
        }

        return new Several($"Count the ports of {Words.Count(tracks.Count, "track")} from {start}", edits.ToImmutable());
    }

    /// <summary>Gathers elements on one port: one track takes all of them, and those that they leave empty go.</summary>
    /// <returns>The edit, or a sentence if they are of several sources, or if one of them cannot leave by that port.</returns>
    public static Result<Edit> Gather(SplitView view, IReadOnlyList<ElementRef> elements, int port)
    {
        var chosen = elements.Where(view.Split.HasElement).Distinct().ToList();
        if (chosen.Count < 2 || chosen.Select(e => e.UnitId).Distinct().ToList() is not [var unitId])
        {
            return new Refusal("Choose two elements or more, all of one source.");
        }

        var unit = view.Split.Unit(unitId)!;
        if (unit.Chart.Port(port) is not { } together)
        {
            return new Refusal($"{unit.Name} has no port {port}.");
        }

        var names = Words.List([.. chosen.Select(view.Split.NameOf)], most: 3);
        var emptied = view.Split.Tracks.Where(t => view.SoundingIn(t) is { IsEmpty: false } carried && carried.All(chosen.Contains)).ToList();
        var hearing = view.Split.Tracks.FirstOrDefault(t => view.Signal.Into(t.Id).Any(f => f.UnitId == unitId && f.Port == port));
        var edits = chosen.Select(e => (Edit)new AssignPort(e, port)).ToList();
        if ((hearing ?? emptied.FirstOrDefault()) is { } track)
        {
            var input = view.Split.InputOf(unit, together.FirstChannel, track.Pass);
            edits.Add(new SetMeantFor(track.Id, [.. view.SoundingIn(track).Concat(chosen).Distinct().Take(Meant.Most).Select(Meant.For)]));
            edits.AddRange(track.Width == together.Width ? [new SetTrackInput(track.Id, input)] : [new SetTrackInput(track.Id, null), new SetTrackWidth(track.Id, together.Width), new SetTrackInput(track.Id, input)]);
            edits.AddRange(emptied.Where(t => t.Id != track.Id).Select(t => new RemoveTrack(t.Id)));
        }

        return new Several($"Gather {names} on port {port}", [.. edits]);
    }

    /// <summary>Moves tracks into a pass, with what plays on them alone and the cables it comes in over.</summary>
    public static Result<Edit> IntoPass(SplitView view, IReadOnlyList<TrackId> trackIds, int pass)
    {
        var split = view.Split;
        var moving = Chosen(split, trackIds).ToList();
        var edits = moving.Select(t => (Edit)new SetTrackPass(t.Id, pass)).ToList();
        foreach (var element in moving.SelectMany(t => view.SoundingIn(t)).Distinct())
        {
            // What plays in every pass goes on doing so as long as nothing else of the split plays in one only.
            var elsewhere = split.Tracks.Where(t => t.Armed && !moving.Contains(t) && view.SoundingIn(t).Contains(element)).ToList();
            if (elsewhere.Count == 0 && view.SettingsOf(element).Pass != pass)
            {
                edits.Add(new SetElementPass(element, pass));
            }
        }

        foreach (var (cable, track) in from track in moving where track.Input is not null from cable in split.Cables where cable.Pass == track.Pass && Takes(track, cable.Input) select (cable, track))
        {
            edits.Add(new PullCables(cable.UnitId, cable.Input, cable.Pass));
            edits.Add(new PlugCables(cable.UnitId, cable.Channel, 1, cable.Input, pass));
        }

        return pass is >= 1 and <= SplitRules.MostPasses
            ? new Several($"Put {Words.Count(moving.Count, "track")} into pass {pass}", [.. edits])
            : new Refusal($"A split has 1 to {SplitRules.MostPasses} passes.");
    }

    private static bool Takes(Track track, InputRef input) =>
        track.Input!.BankId == input.BankId && input.Channel >= track.Input.Channel && input.Channel < track.Input.Channel + (int)track.Width;

    /// <summary>Puts the chosen tracks into the order of their inputs, on the places they have among the others.</summary>
    public static Edit OrderByInput(Split split, IReadOnlyList<TrackId> trackIds) => Order(split, trackIds, t => (
        t.Input is null ? 1 : 0,
        t.Input is { } i ? split.Banks.TakeWhile(b => b.Id != i.BankId).Count() : 0,
        t.Input?.Channel ?? 0));

    /// <summary>Puts the chosen tracks into the order in which their sources name what they carry.</summary>
    public static Edit OrderByElement(SplitView view, IReadOnlyList<TrackId> trackIds)
    {
        var places = view.Elements.Select((e, i) => (e.Ref, i)).ToDictionary(e => e.Ref, e => e.i);
        return Order(view.Split, trackIds, t => view.SoundingIn(t) is { IsEmpty: false } carried ? (0, carried.Min(e => places[e]), 0) : (1, 0, 0));
    }

    /// <summary>Puts the chosen tracks into the order of the ports they listen to.</summary>
    public static Edit OrderByPort(SplitView view, IReadOnlyList<TrackId> trackIds) => Order(view.Split, trackIds, t =>
        view.Signal.Into(t.Id).Select(f => (0, view.Split.Units.TakeWhile(u => u.Id != f.UnitId).Count(), f.Port)).DefaultIfEmpty((1, 0, 0)).Min());

    private static OrderTracks Order(Split split, IReadOnlyList<TrackId> trackIds, Func<Track, (int, int, int)> by)
    {
        var chosen = Chosen(split, trackIds).ToList();
        var ids = chosen.Select(t => t.Id).ToHashSet();
        var sorted = new Queue<TrackId>(chosen.OrderBy(by).Select(t => t.Id));
        return new OrderTracks([.. split.Tracks.Select(t => ids.Contains(t.Id) ? sorted.Dequeue() : t.Id)]);
    }

    private static IEnumerable<Track> Chosen(Split split, IReadOnlyList<TrackId> trackIds) => split.Tracks.Where(t => trackIds.Contains(t.Id));

    private static Several Each(Split split, IReadOnlyList<TrackId> trackIds, string what, Func<Track, int, Edit> edit)
    {
        var edits = Chosen(split, trackIds).Select(edit).ToImmutableArray();
        return new Several($"{what} {Words.Count(edits.Length, "track")}", edits);
    }
}
