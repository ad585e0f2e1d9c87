using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Planning;

/// <summary>From laid lines to the edits that make them.</summary>
internal static class LayEdits
{
    /// <summary>The edits, in order.</summary>
    public static IEnumerable<Edit> Of(SplitView view, ImmutableArray<LaidLine> lines, LayWish wish)
    {
        var split = view.Split;
        var passes = lines.Select(l => l.Pass).DefaultIfEmpty(1).Max();
        var number = split.Tracks.Select(t => int.Parse(t.Id.AsSpan(1))).DefaultIfEmpty().Max();
        var names = split.Tracks.Select(t => t.Name).ToHashSet(StringComparer.OrdinalIgnoreCase);
        var reused = new HashSet<string>();
        foreach (var unit in split.Units.Where(u => lines.Any(l => l.UnitId == u.Id)))
        {
            var widest = unit.Chart.Modes.MaxBy(m => m.Ports.Length)!;
            if (widest.Ports.Length > unit.Mode.Ports.Length)
            {
                yield return new SetMode(unit.Id, widest.Id);
            }
        }

        foreach (var line in lines)
        {
            var unit = split.Unit(line.UnitId)!;
            foreach (var edit in Assign(unit, line, passes))
            {
                yield return edit;
            }

            var input = new InputRef(split.BankOf(unit).Id, line.Port.FirstChannel + line.Side);
            if (wish.Anew && Reusable(view, line, reused) is { } track)
            {
                reused.Add(track.Id);
                foreach (var edit in Move(track, line, input))
                {
                    yield return edit;
                }
            }
            else
            {
                yield return new AddTrack(new Track($"t{++number}", Free(line.Name, names), line.Width) { Input = input, Pass = line.Pass });
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

            if (line.Group is null && chart.Width == Width.Mono && line.Port.Width == Width.Stereo && set.Pan != (line.Side == 0 ? -1 : 1))
            {
                yield return new SetPan(element, line.Side == 0 ? -1 : 1);
            }

            if (line.Port.Tap == Tap.AfterFader && set.FaderDb != 0)
            {
                yield return new SetFader(element, 0);
            }

            var pass = passes == 1 ? (int?)null : line.Pass;
            if (set.Pass != pass)
            {
                yield return new SetElementPass(element, pass);
            }
        }
    }

    /// <summary>The track that has carried just these elements, so that its name and its takes go on.</summary>
    private static Track? Reusable(SplitView view, LaidLine line, HashSet<string> reused) => view.Split.Tracks.FirstOrDefault(t =>
        !reused.Contains(t.Id)
        && t.Input?.BankId == view.Split.BankOf(view.Split.Unit(line.UnitId)!).Id
        && view.SoundingIn(t).ToHashSet().SetEquals(line.Elements));

    private static IEnumerable<Edit> Move(Track track, LaidLine line, InputRef input)
    {
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
    }

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
