using System.Collections.Immutable;
using GateSplit.Core;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Planning;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Web.Forms;

/// <summary>From the fields of a posted form to an edit of the split.</summary>
public static class EditForm
{
    /// <summary>Reads the field "edit" and those that go with it.</summary>
    /// <param name="form">The form.</param>
    /// <param name="split">The split it is about.</param>
    /// <param name="view">What sounds where in it; null where no action needs it.</param>
    /// <returns>The edit, or a sentence about the field that does not make sense.</returns>
    public static Result<Edit> Read(IFormCollection form, Split split, SplitView? view = null)
    {
        string Text(string name) => form[name].ToString();
        var element = new ElementRef(Text("unit"), Text("element"));
        var track = Text("track");
        return Text("edit") switch
        {
            "assign-port" => OptionalInt(Text("port")) is { Ok: true } port ? new AssignPort(element, port.Value) : Bad("port"),
            "in-main" => new SetInMain(element, Flag(Text("on"))),
            "fader" => Number(Text("value")) is { } db ? new SetFader(element, db) : Bad("fader"),
            "pan" => Number(Text("value")) is { } pan ? new SetPan(element, pan / 100) : Bad("pan"),
            "mute" => new SetMuted(element, Flag(Text("on"))),
            "bleed" => Number(Text("value")) is { } db ? new SetBleed(element, db) : Bad("bleed"),
            "shape" => Shape(form),
            "mode" => new SetMode(Text("unit"), Text("mode")),
            "restarted" => new MarkRestarted(Text("unit")),
            "clock" => Enum.TryParse<ClockMode>(Text("clock"), out var clock) ? new SetClock(Text("unit"), clock) : Bad("clock"),
            "rename-unit" => new RenameUnit(Text("unit"), Text("name")),
            "remove-unit" => new RemoveUnit(Text("unit")),
            "declare" => Declare(form),
            "leave-main" => LeaveMain(split, Text("unit")),
            "group" => Group(form, split),
            "follows" => new SetFollowsGroup(element, Flag(Text("on"))),
            "unaccept" => new UnacceptFinding(Text("finding")),
            "input" => new SetTrackInput(track, Input(Text("input"))),
            "width" => new SetTrackWidth(track, Text("width") == "stereo" ? Width.Stereo : Width.Mono),
            "rename" => new RenameTrack(track, Text("name")),
            "arm" => new SetArmed(track, Flag(Text("on"))),
            "monitor" => Enum.TryParse<MonitorMode>(Text("monitor"), out var mode) ? new SetMonitor(track, mode) : Bad("monitor"),
            "bus" => new SetTrackBus(track, Input(Text("bus"))),
            "add-track" => new AddTrack(new Track(split.NewTrackId(), "", Width.Mono)),
            "remove-track" => new RemoveTrack(track),
            "move-track" => new MoveTrack(track, Text("steps") == "up" ? -1 : 1),
            "pass" => Pass(form, split.Pass),
            "bulk" => Many(form, split, view),
            "externals" => new JoinExternals(Text("unit"), Flag(Text("on"))),
            "table" => Table(form, split),
            "speeds" => Speeds(form, split.Pass),
            "send" => Send(element, Text("level"), Text("pan")),
            "insert" => new SetInsert(element, Flag(Text("on"))),
            "setting" => new MakeSetting(Text("unit"), int.TryParse(Text("setting"), out var setting) ? setting : null, Flag(Text("on"))),
            "ride" => Ride(form, element),
            "step" => Step(form, element) is { Ok: true, Value: var step } ? new AddStep(step) : Bad("roll, repeat or variation"),
            "unstep" => Step(form, element) is { Ok: true, Value: var step } ? new RemoveStep(step) : Bad("roll, repeat or variation"),
            "target" => Number(Text("value")) is { } target ? new SetPass(split.Pass with { TargetPeakDb = target }) : Bad("target"),
            "gear-unit" => GearForm.Unit(form),
            "gear-interface" => GearForm.Interface(form, split),
            "cross" => GearForm.Cross(form, split),
            "uncross" => GearForm.Uncross(form, split),
            "sounds" => new SetSounds(element, Text("sounds") is "" ? null : Flag(Text("sounds"))),
            "track-level" => Number(Text("value")) is { } db ? new SetTrackLevel(track, db) : Bad("level"),
            "track-pan" => Number(Text("value")) is { } pan ? new SetTrackPan(track, pan / 100) : Bad("pan"),
            "live" => new SetLive(track, Flag(Text("on"))),
            "keep-notes" => new SetKeepsNotes(track, Flag(Text("on"))),
            "in-group" => new PutInGroup(track, Text("group") is { Length: > 0 } group ? group : null),
            _ => RecorderForm.Read(form, split),
        };
    }

    /// <summary>True for "true".</summary>
    internal static bool Flag(string text) => text == "true";

    /// <summary>A number with a point or a comma, or null.</summary>
    internal static double? Number(string text) =>
        double.TryParse(text.Replace(',', '.').Replace('−', '-'), out var value) && double.IsFinite(value) ? value : null;

    /// <summary>An input as "bank:channel", or null for none.</summary>
    internal static InputRef? Input(string text)
    {
        var at = text.LastIndexOf(':');
        return at > 0 && int.TryParse(text.AsSpan(at + 1), out var channel) ? new InputRef(text[..at], channel) : null;
    }

    /// <summary>A field that should hold a number does not.</summary>
    internal static Refusal Bad(string field) => new($"The {field} needs a number.");

    private static (bool Ok, int? Value) OptionalInt(string text) =>
        text.Length == 0 ? (true, null) : int.TryParse(text, out var value) ? (true, value) : (false, null);

    private static Result<Edit> Declare(IFormCollection form) =>
        int.TryParse(form["count"], out var count) && int.TryParse(form["from"], out var from)
            ? new DeclarePorts(form["unit"].ToString(), count, form["width"] == "stereo" ? Width.Stereo : Width.Mono, form["label"].ToString(), from)
            : Bad("number of outputs");

    private static Result<Edit> Many(IFormCollection form, Split split, SplitView? view)
    {
        var tracks = form["tracks"].OfType<string>().ToList();
        if (tracks.Count == 0)
        {
            return new Refusal("Choose some tracks first, by the boxes before their names.");
        }

        var words = form["pattern"].ToString().Trim();
        Result<Edit> Done(Edit edit) => edit;
        return form["act"].ToString() switch
        {
            "inputs" => Input(form["start"].ToString()) is { } start ? Done(Bulk.CountInputs(split, tracks, start)) : new Refusal("Choose the input to count from."),
            "name" => words.Length > 0 ? Done(Bulk.Name(split, tracks, words)) : new Refusal("Type a name to count, such as Tom #."),
            "arm" => Done(Bulk.Arm(split, tracks, true)),
            "disarm" => Done(Bulk.Arm(split, tracks, false)),
            "hear" => Done(Bulk.Monitor(split, tracks, MonitorMode.WhileArmed)),
            "unhear" => Done(Bulk.Monitor(split, tracks, MonitorMode.Never)),
            "mono" => Done(Bulk.Widen(split, tracks, Width.Mono)),
            "stereo" => Done(Bulk.Widen(split, tracks, Width.Stereo)),
            "group" => split.TrackGroups.FirstOrDefault(g => string.Equals(g.Name, words, StringComparison.OrdinalIgnoreCase)) is { } group
                ? Done(Bulk.PutInGroup(split, tracks, group.Id))
                : new Refusal("Type the name of a group of tracks; the Recorder makes them."),
            "ports" => view is not null && int.TryParse(words, out var first) ? Bulk.CountPorts(view, tracks, first) : new Refusal("Type the number of the port to count from."),
            "order" => Done(Bulk.OrderByInput(split, tracks)),
            "order-port" when view is not null => Done(Bulk.OrderByPort(view, tracks)),
            "order-element" when view is not null => Done(Bulk.OrderByElement(view, tracks)),
            "remove" => Done(Bulk.Remove(split, tracks)),
            _ => new Refusal("Choose what to do with the tracks."),
        };
    }

    /// <summary>The whole table of lines as it was sent: only what stands otherwise in it is an edit.</summary>
    private static Result<Edit> Table(IFormCollection form, Split split)
    {
        var edits = ImmutableArray.CreateBuilder<Edit>();
        // A track that carries several elements stands in several rows: the row that was changed counts.
        foreach (var (key, value) in form.SelectMany(f => f.Value.OfType<string>().Select(v => (f.Key, v))))
        {
            var (what, of) = key.IndexOf(':', StringComparison.Ordinal) is > 0 and var colon ? (key[..colon], key[(colon + 1)..]) : (key, "");
            if (what == "port" && of.Split('/') is [var unitId, var elementId] && int.TryParse(value, out var port)
                && split.Unit(unitId) is { } unit && unit.Elements.FirstOrDefault(e => e.ElementId == elementId) is { } set
                && unit.PortOf(set)?.Number != port)
            {
                edits.Add(new AssignPort(new ElementRef(unitId, elementId), port));
            }
            else if (what == "input" && split.Track(of) is { } listening && listening.Input != Input(value))
            {
                edits.Add(new SetTrackInput(of, Input(value)));
            }
            else if (what == "monitor" && split.Track(of) is { } heard && Enum.TryParse<MonitorMode>(value, out var mode) && heard.Monitor != mode)
            {
                edits.Add(new SetMonitor(of, mode));
            }
            else if (what == "arm" && value.Split(':') is [var trackId, var on])
            {
                edits.Add(new SetArmed(trackId, Flag(on)));
            }
        }

        return edits.Count switch
        {
            0 => new Refusal("Nothing stands otherwise in the table."),
            1 => edits[0],
            _ => new Several($"Change {Words.Count(edits.Count, "setting")} in the table", edits.ToImmutable()),
        };
    }

    private static Result<Edit> LeaveMain(Split split, string unitId) => split.Unit(unitId) is { } unit
        ? new Several(
            $"Take every assigned element of {unit.Name} out of the main mix",
            [.. unit.Elements.Where(e => e.Port is not null && e.InMain).Select(e => (Edit)new SetInMain(new ElementRef(unit.Id, e.ElementId), false))])
        : new Refusal("This source is not in the split any more.");

    private static Result<Edit> Group(IFormCollection form, Split split)
    {
        var name = form["group"].ToString();
        if (split.Unit(form["unit"].ToString()) is not { } unit)
        {
            return new Refusal("This source is not in the split any more.");
        }

        var before = unit.Group(name);
        var port = form.ContainsKey("port") ? OptionalInt(form["port"].ToString()) : (true, before.Port);
        var fader = form.ContainsKey("value") ? Number(form["value"].ToString()) : before.FaderDb;
        return port.Item1 && fader is { } db
            ? new SetGroup(unit.Id, before with { Port = port.Item2, FaderDb = db, Muted = form.ContainsKey("muted") ? Flag(form["muted"].ToString()) : before.Muted })
            : Bad("group");
    }

    private static Result<Edit> Shape(IFormCollection form) =>
        Number(form["tune"].ToString()) is { } tune && Number(form["decay"].ToString()) is { } decay && Number(form["level"].ToString()) is { } level
            ? new ShapeVoice(form["unit"].ToString(), new UnitVoice(form["voice"].ToString()) { TuneSemitones = tune, DecayScale = decay, LevelDb = level })
            : Bad("voice's shape");

    private static Result<Edit> Pass(IFormCollection form, PassSettings before)
    {
        var tail = form["tail"].ToString();
        if (!int.TryParse(form["bars"], out var bars) || !int.TryParse(form["countin"], out var countIn) || !int.TryParse(form["rate"], out var rate)
            || (tail.Length > 0 && Number(tail) is null))
        {
            return new Refusal("The pass needs numbers: bars, count-in, tail, sample rate.");
        }

        var format = Enum.TryParse<SampleFormat>(form["format"], out var read) ? read : before.Format;
        var settle = int.TryParse(form["settle"], out var rounds) ? rounds : before.SettleLoops;
        return new SetPass(before with
        {
            LengthBars = bars,
            StartBar = int.TryParse(form["from"], out var from) ? from : before.StartBar,
            CountInBars = countIn,
            TailSeconds = Number(tail),
            SampleRate = rate,
            Format = format,
            Looped = form.ContainsKey("looped") ? Flag(form["looped"].ToString()) : before.Looped,
            SettleLoops = settle,
        });
    }

    /// <summary>Points as "1 -6, 2.5 0, 4 -12": bar and value.</summary>
    private static Result<Edit> Ride(IFormCollection form, ElementRef element)
    {
        if (!Enum.TryParse<RideControl>(form["control"], out var control))
        {
            return Bad("control");
        }

        var points = ImmutableArray.CreateBuilder<RidePoint>();
        foreach (var pair in form["points"].ToString().Split([',', ';', '\n'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            if (pair.Split(' ', StringSplitOptions.RemoveEmptyEntries) is not [var bar, var value] || Number(bar) is not { } at || Number(value) is not { } stands)
            {
                return new Refusal($"A ride is written as bar and value, one after the other: 1 0, 2.5 -6. This does not fit: {pair}");
            }

            points.Add(new RidePoint(at, stands));
        }

        return new SetRide(new Ride(element, control, points.ToImmutable()));
    }

    private static Result<PerformedStep> Step(IFormCollection form, ElementRef element) =>
        Enum.TryParse<StepKind>(form["kind"], out var kind) && Number(form["from"].ToString()) is { } from && Number(form["to"].ToString()) is { } to && int.TryParse(form["number"], out var number)
            ? new PerformedStep(element, kind, from, to, number)
            : new Refusal("A step needs a kind, two bars and a number.");

    private static Result<Edit> Speeds(IFormCollection form, PassSettings before)
    {
        static long? Bytes(string megabytes) => Number(megabytes) is { } mb ? (long)(mb * 1e6) : null;
        var (disk, carries) = (form["disk"].ToString(), form["interface"].ToString());
        return (disk.Length > 0 && Number(disk) is null) || (carries.Length > 0 && Number(carries) is null)
            ? Bad("speed")
            : new SetPass(before with { DiskBytesPerSecond = Bytes(disk), InterfaceBytesPerSecond = Bytes(carries) });
    }

    private static Result<Edit> Send(ElementRef element, string level, string pan)
    {
        if ((level.Length > 0 && Number(level) is null) || (pan.Length > 0 && Number(pan) is null))
        {
            return Bad("send");
        }

        return new SetSend(element, Number(level), Number(pan) / 100);
    }
}
