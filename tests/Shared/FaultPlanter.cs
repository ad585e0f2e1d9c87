using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Tests.Shared;

/// <summary>Random sessions with nothing to mend, and faults planted into them one by one.</summary>
public sealed class FaultPlanter
{
    private readonly Random _random;

    /// <summary>Makes a session.</summary>
    /// <param name="seed">Gives the same session again.</param>
    public FaultPlanter(int seed)
    {
        _random = new Random(seed);
        Chart[] charts = [.. Enumerable.Range(0, 1 + _random.Next(2)).Select(_ => Shelf.Charts[_random.Next(Shelf.Charts.Length)])];
        Song = Song.Of(CheckPattern.Of(charts, Tempo.Default));
        var split = StartingSplit.Of(charts, (int)Song.Bars, 48000);
        foreach (var unit in split.Units.Where(u => u.Chart.DeclaresPorts))
        {
            split = After(split, new DeclarePorts(unit.Id, 6 + _random.Next(8), Width.Stereo, "Out", 1), new MarkRestarted(unit.Id));
        }

        split = Layer.Propose(SplitView.Of(split, Song), new LayWish(HardPan: _random.Next(3) == 0) { Unity = true }).After;
        foreach (var unit in split.Units.Where(u => u.NeedsRestart))
        {
            split = After(split, new MarkRestarted(unit.Id));
        }

        split = WithNames(split);

        // What a producer has decided: all that is still told is meant so, and stays silent from here on.
        foreach (var told in AllChecks.Look(SplitView.Of(split, Song)).Where(f => f.ToMend))
        {
            LeftOver.Add(told);
        }

        Clean = split;
    }

    /// <summary>The song.</summary>
    public Song Song { get; }

    /// <summary>The session before any fault.</summary>
    public Split Clean { get; }

    /// <summary>What is told of it nevertheless: nothing, if all is well.</summary>
    public List<Finding> LeftOver { get; } = [];

    /// <summary>Every kind of fault there is.</summary>
    public static IReadOnlyList<string> Kinds { get; } =
    [
        "inputs exchanged", "ports exchanged", "inputs shifted", "all inputs shifted", "ports shifted", "wrong side", "wrong row", "rows exchanged", "no input",
        "narrow mode", "restart forgotten", "inputs off", "muted", "not armed", "not monitored",
        "other channel", "hard balance", "too loud", "return left behind", "old copy", "source gone",
    ];

    /// <summary>Kinds after whose fix the files are the same again but for the level of what was too loud, or the tracks that had gone.</summary>
    public static bool ComesBackOtherwise(string kind) => kind is "too loud" or "return left behind" or "source gone";

    /// <summary>Plants a fault of a kind.</summary>
    /// <returns>The split with it and the check that has to name it; null if this session has no place for it.</returns>
    public (Split Split, string Check)? Plant(string kind, Split split)
    {
        var edits = kind switch
        {
            "inputs exchanged" => ExchangedInputs(split),
            "ports exchanged" => ExchangedPorts(split),
            "inputs shifted" => ShiftedInputs(split, 1 + _random.Next(3)),
            "all inputs shifted" => ShiftedInputs(split, 0),
            "ports shifted" => ShiftedPorts(split),
            "wrong side" => WrongSide(split),
            "wrong row" => WrongRow(split),
            "rows exchanged" => RowsExchanged(split),
            "no input" => OneTrack(split, t => t.Input is not null, t => new SetTrackInput(t.Id, null)),
            "narrow mode" => NarrowMode(split),
            "restart forgotten" => RestartForgotten(split),
            "inputs off" => InputsOff(split),
            "muted" => Muted(split),
            "other channel" => OtherChannel(split),
            "hard balance" => HardBalance(split),
            "too loud" => TooLoud(split),
            "return left behind" => ReturnLeftBehind(split),
            "old copy" => split.Units.Length < 2 && split.Units[0].Chart.Kind != SourceKind.Recorder ? [new AddUnit(split.Units[0].Chart with { Name = Clean.Units[0].Chart.Name })] : null,
            "source gone" => split.Units.Length > 1 ? [new RemoveUnit(split.Units[^1].Id)] : null,
            "not armed" => OneTrack(split, t => t.Armed, t => new SetArmed(t.Id, false)),
            "not monitored" => OneTrack(split, t => t.Armed, t => new SetMonitor(t.Id, MonitorMode.Never)),
            _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, "no such kind"),
        };
        var check = kind switch
        {
            "narrow mode" => "Mode",
            "restart forgotten" => "Restart",
            "inputs off" => "InputOff",
            "muted" => "SilentLine",
            "other channel" => "Unplayed",
            "hard balance" => "SilentSide",
            "too loud" => "Level",
            "return left behind" => "MeantElsewhere",
            "old copy" => "OldCopy",
            "source gone" => "GoneSource",
            "not armed" => "NotArmed",
            "not monitored" => "NotMonitored",
            _ => "MeantElsewhere",
        };
        return edits is { Length: > 0 } && new Several(kind, [.. edits]).Apply(split) is { Ok: true, Value: var faulty } ? (faulty, check) : null;
    }

    /// <summary>Plants some faults, one into what the other made.</summary>
    /// <returns>The split with them, and the checks that have to name them.</returns>
    public (Split Split, IReadOnlyList<string> Checks) PlantSeveral(int count)
    {
        var (split, checks) = (Clean, new List<string>());

        var exchanged = false;

        // Inputs are switched off before lines are moved, or those of a line that is in the wrong place would be.
        string[] first = _random.Next(4) == 0 ? ["inputs off"] : [];
        foreach (var kind in first.Concat(Kinds.Where(k => k != "inputs off" && !ComesBackOtherwise(k)).OrderBy(_ => _random.Next())).ToList())
        {
            // Ports and inputs of the same two lines exchanged are two faults that undo each other.
            if (kind.EndsWith("exchanged", StringComparison.Ordinal) && exchanged)
            {
                continue;
            }

            if (checks.Count < count && Plant(kind, split) is var (faulty, check))
            {
                exchanged |= kind.EndsWith("exchanged", StringComparison.Ordinal);
                split = faulty;
                checks.Add(check);
            }
        }

        return (split, checks);
    }

    /// <summary>Presses the fix of the first finding until there is nothing to mend.</summary>
    /// <returns>What is left, and the findings that stood first.</returns>
    public static (Split Split, IReadOnlyList<Finding> Named) MendAll(Split split, Song song)
    {
        var named = new List<Finding>();
        for (var rounds = 0; rounds < 12 && AllChecks.Look(SplitView.Of(split, song)).FirstOrDefault(f => f.ToMend) is { } first; rounds++)
        {
            named.Add(first);
            if (first.Fix?.Apply(split) is not { Ok: true, Value: var mended })
            {
                break;
            }

            split = mended;
        }

        return (split, named);
    }

    /// <summary>What every file would hold, to the gain: the same files may come from other numbers, where ports and inputs were both exchanged.</summary>
    public static IEnumerable<string> Files(Split split, Song song)
    {
        var view = SplitView.Of(split, song);
        return
        [
            .. from track in view.ArmedTracks
               from arrives in view.Signal.In(track.Id)
               where !arrives.Gain.IsZero && view.Sounding.Contains(arrives.Element) && view.PlaysIn(arrives.Element, track.Pass)
               orderby track.Id.Number, arrives.Element.ToString()
               select $"{track.Id} {track.Pass} {track.Heard} {arrives.Element} {arrives.Gain}",
        ];
    }

    /// <summary>A split after some edits.</summary>
    public static Split After(Split split, params Edit[] edits) => edits.Aggregate(split, (s, e) => e.Apply(s).Value ?? throw new InvalidOperationException(e.Apply(s).Trouble));

    private T Any<T>(IReadOnlyList<T> list) => list[_random.Next(list.Count)];

    private Split WithNames(Split split) => _random.Next(3) switch
    {
        0 => After(split, [.. split.Tracks.Select((t, i) => new RenameTrack(t.Id, $"Drum {i + 1}"))]),
        1 => After(split, [.. split.Tracks.Select((t, i) => new RenameTrack(t.Id, $"{t.Name[0]}{t.Name[^1]}{i + 1} hw"))]),
        _ => split,
    };

    /// <summary>Tracks that listen to a source's row, each to another input, in the order of the inputs.</summary>
    private List<Track>? Row(Split split, int fewest)
    {
        var rows = split.Tracks.Where(t => t.Input is not null && t.Armed && t.Pass == 1).GroupBy(t => t.Input!.BankId).Where(g => g.Count() >= fewest).ToList();
        return rows.Count == 0 ? null : [.. Any(rows).OrderBy(t => t.Input!.Channel)];
    }

    private Edit[]? ExchangedInputs(Split split)
    {
        if (Row(split, 2) is not { } row)
        {
            return null;
        }

        var one = Any(row);
        var others = row.Where(t => t != one && t.Width == one.Width).ToList();
        if (others.Count == 0)
        {
            return null;
        }

        var other = Any(others);
        return [new SetTrackInput(one.Id, other.Input), new SetTrackInput(other.Id, one.Input)];
    }

    /// <summary>Elements with a port of their own that they share with nobody and may exchange with others.</summary>
    private static List<(ElementRef Element, int Port, Width Width)> Alone(Split split, Unit unit) =>
    [
        .. from set in unit.Elements
           let chart = unit.Chart.Element(set.ElementId)!
           where set.Port is not null && chart.Ports.IsEmpty && unit.Elements.Count(e => e.Port == set.Port) == 1 && set.Pass is null && chart.SharedVoice is null
           let port = unit.Chart.Port(set.Port ?? 0)!
           where !port.IsMain && split.Tracks.Count(t => t.Input == split.InputOf(unit, port.FirstChannel)) == 1
           orderby set.Port
           select (new ElementRef(unit.Id, set.ElementId), port.Number, chart.Width),
    ];

    private Edit[]? ExchangedPorts(Split split)
    {
        var units = split.Units.Select(u => Alone(split, u)).Where(l => l.GroupBy(e => e.Width).Any(g => g.Count() > 1)).ToList();
        if (units.Count == 0)
        {
            return null;
        }

        var alike = Any([.. Any(units).GroupBy(e => e.Width).Where(g => g.Count() > 1)]).ToList();
        var one = Any(alike);
        var other = Any([.. alike.Where(e => e != one)]);
        return [new AssignPort(one.Element, other.Port), new AssignPort(other.Element, one.Port)];
    }

    private Edit[]? ShiftedInputs(Split split, int from)
    {
        if (Row(split, from + 3) is not { } row)
        {
            return null;
        }

        var (bank, width) = (split.Bank(row[0].Input!.BankId)!, row[from..].Max(t => (int)t.Width));
        var shifted = row[from..];
        var step = width * (_random.Next(2) == 0 ? 1 : -1);
        return shifted.All(t => bank.Trouble(t.Input!.Channel + step, t.Width) is null)
            ? [.. shifted.Select(t => new SetTrackInput(t.Id, t.Input! with { Channel = t.Input.Channel + step }))]
            : null;
    }

    private Edit[]? ShiftedPorts(Split split)
    {
        var units = split.Units.Select(u => (Unit: u, Alone: Alone(split, u))).Where(l => l.Alone.Count >= 4 && l.Unit.Exposes(l.Alone[^1].Port + 1)).ToList();
        if (units.Count == 0)
        {
            return null;
        }

        // From some place on every element leaves by the next port, and the last by one that was free.
        var (unit, alone) = Any(units);
        var taken = unit.Elements.Select(e => e.Port).OfType<int>().ToHashSet();
        var from = 1 + _random.Next(alone.Count - 3);
        var moved = alone[from..];
        return !taken.Contains(alone[^1].Port + 1) && moved.Zip(moved.Skip(1)).All(p => p.Second.Port == p.First.Port + 1)
            && moved.All(m => unit.Chart.Port(m.Port + 1) is { } next && next.Width == unit.Chart.Port(m.Port)!.Width)
            ? [.. moved.Select(m => new AssignPort(m.Element, m.Port + 1))]
            : null;
    }

    private Edit[]? WrongSide(Split split)
    {
        var sided = (
            from track in split.Tracks
            where track is { Width: Width.Mono, Armed: true }
            let at = track.Input
            where at is not null
            let element = track.MeantFor is [{ Element: { } only }] ? only : default(ElementRef?)
            where element is not null
            let unit = split.Unit(element.Value.UnitId)!
            let set = unit.Element(element.Value.ElementId)
            where set.Port is { } p && unit.Chart.Port(p)!.Width == Width.Stereo && (set.Pan == Pan.HardLeft || set.Pan == Pan.HardRight)
            where split.Tracks.Count(t => t.Input?.BankId == at.BankId && t.Input.Channel == at.Channel + (set.Pan == Pan.HardLeft ? 1 : -1)) == 0
            select (track, Step: set.Pan == Pan.HardLeft ? 1 : -1)).ToList();
        return sided.Count == 0 || Any(sided) is var (chosen, step) && split.Bank(chosen.Input!.BankId)!.Trouble(chosen.Input.Channel + step, Width.Mono) is not null
            ? null
            : [new SetTrackInput(chosen.Id, chosen.Input! with { Channel = chosen.Input.Channel + step })];
    }

    /// <summary>A row of lines, or the rest of one from some place on, listens to a neighbour's inputs.</summary>
    private Edit[]? WrongRow(Split split)
    {
        if (Row(split, 2) is not { } row || split.Banks.FirstOrDefault(b => b.UnitId is not null && b.Id != row[0].Input!.BankId) is not { } other)
        {
            return null;
        }

        return OnBank(row[(_random.Next(2) * _random.Next(row.Count - 1))..], other);
    }

    /// <summary>Two sources' lines each listen to the other's inputs.</summary>
    private Edit[]? RowsExchanged(Split split)
    {
        var rows = split.Banks.Where(b => b.UnitId is not null)
            .Select(b => (Bank: b, Tracks: split.Tracks.Where(t => t.Input?.BankId == b.Id && t.Armed && t.Pass == 1).ToList()))
            .Where(r => r.Tracks.Count > 1)
            .ToList();
        return rows is [var one, var other] && OnBank(one.Tracks, other.Bank) is { } there && OnBank(other.Tracks, one.Bank) is { } back ? [.. there, .. back] : null;
    }

    private static Edit[]? OnBank(List<Track> tracks, Bank bank) => tracks.All(t => bank.Trouble(t.Input!.Channel, t.Width) is null)
        ? [.. tracks.Select(t => new SetTrackInput(t.Id, t.Input! with { BankId = bank.Id }))]
        : null;

    private Edit[]? OneTrack(Split split, Func<Track, bool> which, Func<Track, Edit> edit)
    {
        var tracks = split.Tracks.Where(t => t.MeantFor.Length == 1 && which(t)).ToList();
        return tracks.Count == 0 ? null : [edit(Any(tracks))];
    }

    private Edit[]? NarrowMode(Split split)
    {
        var units = split.Units.Where(u => u.Chart.Modes.Any(m => m.Ports.Length < u.Mode.Ports.Length) && !u.NeedsRestart).ToList();
        if (units.Count == 0)
        {
            return null;
        }

        var unit = Any(units);
        return [new SetMode(unit.Id, unit.Chart.Modes.MinBy(m => m.Ports.Length)!.Id), new MarkRestarted(unit.Id)];
    }

    private Edit[]? RestartForgotten(Split split)
    {
        var units = split.Units.Where(u => u is { NeedsRestart: false, ModeInForceId: null } && u.Mode.NeedsRestart && u.ModeId == Clean.Unit(u.Id)?.ModeId).ToList();
        return units.Count == 0 || Any(units) is var unit && unit.Chart.Modes.Length < 2
            ? null
            : [new SetMode(unit.Id, unit.Chart.Modes.First(m => m.Id != unit.ModeId).Id), new MarkRestarted(unit.Id), new SetMode(unit.Id, unit.ModeId)];
    }

    private Edit[]? InputsOff(Split split)
    {
        if (Row(split, 2) is not { } row)
        {
            return null;
        }

        return [.. row[_random.Next(row.Count)..].Select(t => new SwitchInputs(t.Input!.BankId, t.Input.Channel, t.Input.Channel + (int)t.Width - 1, false))];
    }

    /// <summary>A source that listens to one channel hears it as another, and so nothing that is played to it.</summary>
    private Edit[]? OtherChannel(Split split)
    {
        var units = split.Units.Where(u => u.Chart.Voices.Select(v => v.Channel).Distinct().Count() == 1 && u.NoteRoutes.IsEmpty
            && split.Units.Count(o => o.Chart.Voices.Any(v => v.Channel == u.Chart.Voices[0].Channel)) == 1).ToList();
        return units.Count == 0 || Any(units) is var unit && unit.Chart.Voices[0].Channel is var channel && channel == 16
            ? null
            : [new RouteNotes(unit.Id, channel, channel + 1, 0)];
    }

    private Edit[]? HardBalance(Split split)
    {
        var stereo = (
            from track in split.Tracks
            where track is { Width: Width.Stereo, Armed: true, MeantFor: [{ Element: not null }] }
            let element = track.MeantFor[0].Element!.Value
            let unit = split.Unit(element.UnitId)!
            let set = unit.Element(element.ElementId)
            where unit.Chart.Element(element.ElementId)!.Width == Width.Stereo && set.Port is { } port && !unit.Chart.Port(port)!.IsMain && set.Pan == Pan.Centre && set.Pass is null
            select element).ToList();
        return stereo.Count == 0 ? null : [new SetPan(Any(stereo), _random.Next(2) == 0 ? Pan.HardLeft : Pan.HardRight)];
    }

    /// <summary>A voice that is set so loud that its line clips.</summary>
    private Edit[]? TooLoud(Split split)
    {
        var loud = (
            from track in split.Tracks
            where track is { Armed: true, MeantFor: [{ Element: not null }] }
            let element = track.MeantFor[0].Element!.Value
            let unit = split.Unit(element.UnitId)!
            let chart = unit.Chart.Element(element.ElementId)!
            where chart.Kind == ElementKind.Voice && chart.SharedVoice is null && unit.Element(element.ElementId).Port is { } port && unit.Chart.Port(port)!.Tap == Tap.AfterFader
            let own = chart.Hears.Where(h => !h.Bleed).ToList()
            where own.Count == 1 && own[0].GainDb == Decibels.Unity && unit.Chart.Voices.First(v => v.Id == own[0].VoiceId).Peak > 0.7
                && unit.Chart.Elements.Count(e => e.Hears.Any(h => h.VoiceId == own[0].VoiceId)) == 1
            select (unit, own[0].VoiceId)).ToList();
        return loud.Count == 0 || Any(loud) is var (chosen, voice) && chosen.Voice(voice).LevelDb != Decibels.Unity ? null : [new ShapeVoice(chosen.Id, chosen.Voice(voice) with { LevelDb = new Decibels(9) })];
    }

    /// <summary>A return that falls back into a main mix, while its track waits where it was.</summary>
    private Edit[]? ReturnLeftBehind(Split split)
    {
        var returns = (
            from track in split.Tracks
            where track is { Armed: true, MeantFor: [{ Element: not null }] }
            let element = track.MeantFor[0].Element!.Value
            let unit = split.Unit(element.UnitId)!
            where unit.Chart.Element(element.ElementId)!.Kind == ElementKind.Return && unit.Element(element.ElementId).Port is { } port && !unit.Chart.Port(port)!.IsMain && unit.Element(element.ElementId).Pass is null
                && split.Tracks.All(t => t.Input != split.InputOf(unit, unit.Chart.MainPort.FirstChannel))
            select element).ToList();
        return returns.Count == 0 ? null : [new AssignPort(Any(returns), null)];
    }

    private Edit[]? Muted(Split split)
    {
        var elements = split.Tracks.Where(t => t.MeantFor is [{ Element: not null }]).Select(t => t.MeantFor[0].Element!.Value)
            .Where(e => split.Unit(e.UnitId)!.Chart.Element(e.ElementId)!.Kind != ElementKind.Return).ToList();
        return elements.Count == 0 ? null : [new SetMuted(Any(elements), true)];
    }
}
