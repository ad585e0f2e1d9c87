using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using static GateSplit.Core.Setup.SetupWords;

namespace GateSplit.Core.Setup;

/// <summary>What is set on one source, from one that is as it was when it was new.</summary>
internal static class SourceSteps
{
    /// <summary>The steps: its outputs first, what leaves by them after.</summary>
    public static SetupPart Of(Split split, Unit unit) => new(unit.Name,
    [
        .. Begin(unit),
        .. Outputs(unit),
        .. Connection(split, unit),
        .. Notes(unit),
        .. Groups(unit),
        .. Elements(split, unit),
        .. Ports(unit),
        .. Voices(unit),
    ]);

    /// <summary>Names told apart where two are the same: "“Tom”", "“Tom” no. 4".</summary>
    internal static ImmutableArray<string> Told(IEnumerable<string> names)
    {
        var all = names.ToList();
        return [.. all.Select((name, i) => all.Count(n => n == name) == 1 ? Quoted(name) : $"{Quoted(name)} no. {i + 1}")];
    }

    /// <summary>The elements of a source as the steps call them, in the order of its chart.</summary>
    internal static ImmutableArray<string> Told(Unit unit) => Told(unit.Elements.Select(e => unit.Chart.Element(e.ElementId)!.Name));

    private static IEnumerable<SetupStep> Begin(Unit unit)
    {
        var name = Quoted(unit.Chart.Name);
        yield return new SetupStep(unit.Chart.Kind switch
        {
            SourceKind.PlugIn => $"Load {name} in the recorder.",
            SourceKind.Tablet => $"Open {name} on the tablet.",
            SourceKind.Recorder => $"Take the recorder's own groups as {name}.",
            _ => $"Switch on {name}, with nothing changed on it.",
        });
        if (unit.Name != unit.Chart.Name)
        {
            yield return new SetupStep($"Call it {Quoted(unit.Name)}.") { Note = "So that it is not taken for another of its kind." };
        }
    }

    /// <summary>Outputs first, sounds after: what is declared and which mode it is in holds before anything is sent there.</summary>
    private static IEnumerable<SetupStep> Outputs(Unit unit)
    {
        var chart = unit.Chart;
        if (chart.DeclaresPorts && chart.Ports.Length > 1)
        {
            var ports = chart.Ports.Select(p => $"{p.Number} {Quoted(p.Name)} {SetupWords.Of(p.Width)}");
            yield return new SetupStep($"Declare its outputs: {string.Join(", ", ports)}.") { Actions = chart.Ports.Length, OneByOne = chart.Ports.Length };
        }

        var mode = unit.ModeId == chart.Modes[0].Id ? null : unit.Mode;
        var needsRestart = (mode?.NeedsRestart ?? false) || (chart.DeclaresPorts && chart.Ports.Length > 1);
        for (var i = 0; i < chart.Settings.Length; i++)
        {
            // The mode is often one of the settings that the chart lists; then it is not told twice.
            if (mode is not null && chart.Settings[i].Effect == SettingEffect.MainOnly && !IsRestart(chart.Settings[i]))
            {
                yield return new SetupStep($"{chart.Settings[i].What.TrimEnd('.')}: the output mode {Quoted(mode.Name)}.") { Note = $"Otherwise: {chart.Settings[i].Otherwise}" };
                mode = null;
            }
            else
            {
                yield return new SetupStep(chart.Settings[i].What) { Note = $"Otherwise: {chart.Settings[i].Otherwise}" };
                needsRestart &= mode is not null || !IsRestart(chart.Settings[i]);
            }
        }

        if (mode is not null)
        {
            yield return new SetupStep($"Choose its output mode {Quoted(mode.Name)}.");
        }

        if (needsRestart)
        {
            yield return new SetupStep(chart.Kind == SourceKind.PlugIn ? "Load it once more, so that its outputs are there." : "Start it again, so that its outputs are there.");
        }
    }

    /// <summary>True if a chart's own words ask for the restart that makes the outputs be there, so that it is not told twice.</summary>
    private static bool IsRestart(ChartSetting setting) => setting.Effect == SettingEffect.MainOnly
        && (setting.What.Contains("off and on", StringComparison.OrdinalIgnoreCase) || setting.What.Contains("restart", StringComparison.OrdinalIgnoreCase));

    private static IEnumerable<SetupStep> Connection(Split split, Unit unit)
    {
        var bank = split.BankOf(unit);
        var channels = unit.Chart.Channels;
        if (bank is { Connected: true, Kind: BankKind.Usb })
        {
            yield return new SetupStep($"Connect it by USB: its channels 1 to {channels} arrive on {Quoted(bank.Label)} 1 to {channels}.");
        }
        else if (bank is { Connected: true, Kind: BankKind.AppToApp })
        {
            yield return new SetupStep($"Join its channels 1 to {channels} to {Quoted(bank.Label)} 1 to {channels}, one by one.") { Actions = channels, OneByOne = channels };
        }

        if (unit.Chart.Clock.Any && unit.Clock != ClockMode.Free)
        {
            yield return new SetupStep(unit.Clock == ClockMode.Leads
                ? "Let it lead with its clock, and let the recorder follow."
                : "Let it follow the recorder's clock, start and stop, and let the recorder send them.")
            {
                Actions = 2,
                OneByOne = 2,
            };
        }
    }

    private static IEnumerable<SetupStep> Notes(Unit unit) => unit.NoteRoutes.Select(r => new SetupStep(
        r.To == NoteRoute.Nowhere ? $"Let it hear nothing of MIDI channel {r.From}."
        : r.KeyShift == 0 ? $"Let it hear MIDI channel {r.From} as channel {r.To}."
        : $"Let it hear MIDI channel {r.From} as channel {r.To}, {Math.Abs(r.KeyShift)} keys {(r.KeyShift > 0 ? "up" : "down")}."));

    private static IEnumerable<SetupStep> Groups(Unit unit)
    {
        foreach (var chart in unit.Chart.Groups)
        {
            var (name, set) = (Quoted(chart.Name), unit.Group(chart.Name));
            if (set.Port != chart.Port)
            {
                yield return new SetupStep(set.Port is { } port ? $"Send the group {name} to output {port}." : $"Leave the group {name} in the main mix.") { Note = set.Port is { } to ? Arrival(unit, to) : "" };
            }

            if (Number(set.FaderDb.Value) != Number(chart.FaderDb.Value))
            {
                yield return new SetupStep($"Set the fader of the group {name} to {Level(set.FaderDb)}.");
            }

            if (set.Muted)
            {
                yield return new SetupStep($"Mute the group {name}.");
            }

            if (set.Straight is { } send)
            {
                yield return new SetupStep($"Feed the group {name} straight to output {send.Port} too, at {Level(send.LevelDb)}, {(send.BeforeEffects ? "before" : "behind")} effects.");
            }
        }
    }

    private static IEnumerable<SetupStep> Elements(Split split, Unit unit)
    {
        var charts = unit.Elements.Select(e => unit.Chart.Element(e.ElementId)!).ToList();
        var told = Told(unit);
        string Rows<T>(Stroke<T> s) => SetupWords.Rows(s, told);
        IEnumerable<SetupStep> Levels(string what, IEnumerable<Decibels> now, IEnumerable<Decibels> wanted) => Column<string>(
            [.. now.Select(Level)], [.. wanted.Select(Level)], s => $"Set the {Plural(what, s)} of {Rows(s)} to {s.Value}.", $"Set single {what}s", s => $"{told[s.First]} {s.Value}");
        IEnumerable<SetupStep> Switches(Func<bool, string> words, IEnumerable<bool> now, IEnumerable<bool> wanted) => Column<bool>(
            [.. now], [.. wanted], s => $"{words(s.Value)} {Rows(s)}.", "One by one", s => $"{char.ToLowerInvariant(words(s.Value)[0])}{words(s.Value)[1..]} {told[s.First]}");

        var (given, inMain) = Assignments(split, unit, charts, told);
        return
        [
            .. given,
            .. Switches(on => on ? "Keep in the main mix" : "Take out of the main mix", inMain, unit.Elements.Select(e => e.InMain)),
            .. Switches(on => on ? "Let follow their groups" : "Send past their groups", unit.Elements.Select(_ => true), unit.Elements.Select((e, i) => e.FollowsGroup || unit.Chart.Group(charts[i].Group) is null)),
            .. Levels("fader", charts.Select(c => c.FaderDb), unit.Elements.Select(e => e.FaderDb)),
            .. Column<string>(
                [.. charts.Select(c => Place(c.Pan))], [.. unit.Elements.Select(e => Place(e.Pan))], s => $"Set the {Plural("pan", s)} of {Rows(s)} to {s.Value}.", "Set single pans", s => $"{told[s.First]} {s.Value}"),
            .. Switches(on => on ? "Mute" : "Unmute", unit.Elements.Select(_ => false), unit.Elements.Select(e => e.Muted)),
            .. Switches(on => on ? "Switch off the effects of" : "Switch on the effects of", unit.Elements.Select(_ => false), unit.Elements.Select(e => e.InsertOff)),
            .. Levels("send", charts.Select(c => c.SendDb ?? Decibels.Silence), unit.Elements.Select((e, i) => e.SendDb ?? charts[i].SendDb ?? Decibels.Silence)),
            .. Levels("bleed", charts.Select(_ => Decibels.Unity), unit.Elements.Select(e => e.BleedDb)),
            .. unit.Elements.SelectMany((e, i) => Sends(e, charts[i], told[i])),
        ];
    }

    /// <summary>Which output each element has: counted upward where that goes, exceptions after. What leaves the main mix by itself has left it then.</summary>
    private static (ImmutableArray<SetupStep> Steps, ImmutableArray<bool> InMain) Assignments(Split split, Unit unit, List<ChartElement> charts, ImmutableArray<string> told)
    {
        var main = unit.Chart.MainPort.Number;
        int?[] now = [.. charts.Select(c => c.Port)], wanted = [.. unit.Elements.Select(e => e.Port)];
        bool CanLeaveBy(ChartElement element, int? port) => port is not { } number
            || (number != main && unit.Chart.Port(number) is not null && (element.Ports.IsEmpty || element.Ports.Contains(number)));
        Strokes.Held<int?>? At(int a, int b, bool counts)
        {
            var port = counts ? wanted[a] + (b - a) : wanted[a];
            return (counts && port is null) || !CanLeaveBy(charts[b], port) ? null : new(port);
        }

        var inMain = charts.Select(c => c.InMain).ToArray();
        foreach (var stroke in Strokes.Fewest(now, wanted, At))
        {
            for (var i = stroke.First; i <= stroke.Last; i++)
            {
                inMain[i] = stroke.Value is null || (inMain[i] && !unit.Chart.AssignedLeavesMain);
            }
        }

        string Words(int? port) => port is { } number ? $"output {number}" : "no output of its own";
        var steps = Column(
            now,
            wanted,
            s => s switch
            {
                { Rows: 1 } => $"Give {told[s.First]} {Words(s.Value)}.",
                { Counts: true } => $"Give {SetupWords.Rows(s, told)} outputs {s.Value} to {s.Value + s.Rows - 1}, counting upward.",
                _ => $"Give {SetupWords.Rows(s, told)} {Words(s.Value)}, all the same.",
            },
            "Give single outputs",
            s => $"{told[s.First]} {Words(s.Value)}",
            At,
            i => wanted[i] is { } port && unit.Chart.Port(port) is { } gate ? $"{unit.Chart.Element(unit.Elements[i].ElementId)!.Name}: {split.PlaceOf(unit, gate)}" : "");
        return (steps, [.. inMain]);
    }

    private static IEnumerable<SetupStep> Sends(UnitElement element, ChartElement chart, string told)
    {
        if (element.SendPan is { } pan)
        {
            yield return new SetupStep($"Set the pan of the send of {told} to {Place(pan)}.");
        }

        if (element.Straight != chart.Straight)
        {
            yield return new SetupStep(element.Straight is { } send
                ? $"Feed {told} straight to output {send.Port} too, at {Level(send.LevelDb)}, {(send.BeforeEffects ? "before" : "behind")} its effects."
                : $"Feed {told} straight to no output.");
        }
    }

    private static IEnumerable<SetupStep> Ports(Unit unit) => Column<string>(
        [.. unit.Chart.Ports.Select(_ => Level(Decibels.Unity))],
        [.. unit.Chart.Ports.Select(p => Level(unit.LevelOf(p.Number)))],
        s => s.Rows == 1 ? $"Turn output {unit.Chart.Ports[s.First].Number} to {s.Value}." : $"Turn outputs {unit.Chart.Ports[s.First].Number} to {unit.Chart.Ports[s.Last].Number} to {s.Value}.",
        "Turn single outputs",
        s => $"{unit.Chart.Ports[s.First].Number} to {s.Value}");

    private static IEnumerable<SetupStep> Voices(Unit unit)
    {
        var told = Told(unit.Voices.Select(v => unit.Chart.Voices.First(c => c.Id == v.VoiceId).Name));
        return unit.Voices.SelectMany((v, i) => new[]
        {
            (Is: v.TuneSemitones != 0, Words: $"Tune the voice {told[i]} by {Number(v.TuneSemitones)} semitones."),
            (Is: v.DecayScale != 1, Words: $"Let the voice {told[i]} decay {Number(v.DecayScale)} times as long."),
            (Is: v.LevelDb != Decibels.Unity, Words: $"Set the level of the voice {told[i]} to {Level(v.LevelDb)}."),
        }).Where(s => s.Is).Select(s => new SetupStep(s.Words));
    }

    private static string Arrival(Unit unit, int port) => unit.Chart.Port(port) is { } gate ? $"Output {port} is {(gate.Width == Width.Mono ? "channel" : "channels")} {gate.Channels}." : "";
}
