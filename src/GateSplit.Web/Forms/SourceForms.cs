using System.Collections.Immutable;
using GateSplit.Core;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Web.Forms;

/// <summary>Forms about the sources: their modes, elements, groups and voices.</summary>
public static class SourceForms
{
    /// <summary>Gives an element a port, or leaves it to the main mix.</summary>
    public static readonly EditForm AssignPort = EditForm.Of(
        "assign-port", [Field.Unit, Field.Element, "port"], f => new AssignPort(f.Element, f.OptionalWhole("port", "port")));

    /// <summary>Puts an element into the main mix or takes it out.</summary>
    public static readonly EditForm InMain = EditForm.Of("in-main", [Field.Unit, Field.Element, Field.On], f => new SetInMain(f.Element, f.Flag()));

    /// <summary>Sets a fader.</summary>
    public static readonly EditForm Fader = EditForm.Of(
        "fader", [Field.Unit, Field.Element, Field.Value], f => new SetFader(f.Element, f.Level(Field.Value, "fader")));

    /// <summary>Pans an element.</summary>
    public static readonly EditForm Pan = EditForm.Of("pan", [Field.Unit, Field.Element, Field.Value], f => new SetPan(f.Element, f.Pan(Field.Value)));

    /// <summary>Says where an element that is panned hard to share a pair stands in the music.</summary>
    public static readonly EditForm MusicalPan = EditForm.Of("musical-pan", [Field.Unit, Field.Element, Field.Value], f => new SetMusicalPan(f.Element, f.Pan(Field.Value)));

    /// <summary>Mutes an element.</summary>
    public static readonly EditForm Mute = EditForm.Of("mute", [Field.Unit, Field.Element, Field.On], f => new SetMuted(f.Element, f.Flag()));

    /// <summary>Sets what a microphone hears of its neighbours.</summary>
    public static readonly EditForm Bleed = EditForm.Of(
        "bleed", [Field.Unit, Field.Element, Field.Value], f => new SetBleed(f.Element, f.Level(Field.Value, "bleed")));

    /// <summary>Sets a send and where it stands in the effect; empty for the chart's.</summary>
    public static readonly EditForm Send = EditForm.Of(
        "send", [Field.Unit, Field.Element, "level", "pan"], f => new SetSend(f.Element, f.OptionalLevel("level", "send"), f.OptionalPan("pan", "pan of the send")));

    /// <summary>Feeds an element to a port beside its usual way; with no port to none.</summary>
    public static readonly EditForm Straight = EditForm.Of(
        "straight", [Field.Unit, Field.Element, "port", "level", "before"], f => new SetStraight(f.Element, StraightOf(f)));

    /// <summary>Turns a port up or down.</summary>
    public static readonly EditForm PortLevel = EditForm.Of(
        "port-level", [Field.Unit, "port", Field.Value], f => new SetPortLevel(f.Unit, f.Whole("port", "port"), f.Level(Field.Value, "level of the port")));

    /// <summary>Switches an element's own effect.</summary>
    public static readonly EditForm Insert = EditForm.Of("insert", [Field.Unit, Field.Element, Field.On], f => new SetInsert(f.Element, f.Flag()));

    /// <summary>Says whether an element sounds, or goes by the notes.</summary>
    public static readonly EditForm Sounds = EditForm.Of(
        "sounds", [Field.Unit, Field.Element, "sounds"], f => new SetSounds(f.Element, f.Text("sounds").Length == 0 ? null : f.Flag("sounds")));

    /// <summary>Shapes a voice.</summary>
    public static readonly EditForm Shape = EditForm.Of(
        "shape",
        [Field.Unit, Field.Voice, "tune", "decay", "level"],
        f => new ShapeVoice(f.Unit, new UnitVoice(new VoiceId(f.Text(Field.Voice)))
        {
            TuneSemitones = f.Number("tune", "tune"),
            DecayScale = f.Number("decay", "decay"),
            LevelDb = f.Level("level", "level"),
        }));

    /// <summary>Lets a channel of the song play a source on another channel or other keys; empty to hear it as it stands.</summary>
    public static readonly EditForm Notes = EditForm.Of(
        "route-notes", [Field.Unit, "from", "to", "keys"], f => new RouteNotes(f.Unit, f.Whole("from", "channel of the song"), f.OptionalWhole("to", "channel of the source"), f.OptionalWhole("keys", "number of keys") ?? 0));

    /// <summary>Puts a source into a mode.</summary>
    public static readonly EditForm Mode = EditForm.Of("mode", [Field.Unit, "mode"], f => new SetMode(f.Unit, new ModeId(f.Text("mode"))));

    /// <summary>Says that a source was restarted.</summary>
    public static readonly EditForm Restarted = EditForm.Of("restarted", [Field.Unit], f => new MarkRestarted(f.Unit));

    /// <summary>Says who keeps time.</summary>
    public static readonly EditForm Clock = EditForm.Of("clock", [Field.Unit, "clock"], f => new SetClock(f.Unit, f.Choice<ClockMode>("clock", "clock")));

    /// <summary>Names a source.</summary>
    public static readonly EditForm Rename = EditForm.Of("rename-unit", [Field.Unit, Field.Name], f => new RenameUnit(f.Unit, f.Text(Field.Name)));

    /// <summary>Removes a source, with the tracks that were made for it or without them.</summary>
    public static readonly EditForm Remove = EditForm.Of("remove-unit", [Field.Unit, "tracks"], f => new RemoveUnit(f.Unit, f.Flag("tracks", false)));

    /// <summary>Lets an element play in one pass only, or in all.</summary>
    public static readonly EditForm Pass = EditForm.Of("element-pass", [Field.Unit, Field.Element, "pass"], f => new SetElementPass(f.Element, f.OptionalWhole("pass", "pass")));

    /// <summary>Gives the notes that several copies of a source hear to one of them.</summary>
    public static readonly EditForm GiveNotes = new("give-notes", [Field.Unit], f => f.View?.Song is { } song && f.Split.Unit(f.Unit) is { } unit
        ? new GiveNotes(f.Unit, [.. song.Strokes.Keys.Select(s => s.Channel).Distinct().Where(c => unit.Chart.Voices.Any(v => v.Channel == c))])
        : new Refusal("This source is not in the split any more."));

    /// <summary>Declares outputs.</summary>
    public static readonly EditForm Declare = EditForm.Of(
        "declare",
        [Field.Unit, "count", "width", "label", "from"],
        f => new DeclarePorts(f.Unit, f.Whole("count", "number of outputs"), f.Width(), f.Text("label"), f.Whole("from", "number to count from")));

    /// <summary>Takes every assigned element out of the main mix.</summary>
    public static readonly EditForm LeaveMain = new("leave-main", [Field.Unit], OutOfMain);

    /// <summary>Sets a group: what is not sent stays.</summary>
    public static readonly EditForm Group = new("group", [Field.Unit, Field.Group, "port", Field.Value, "muted", "straight", "level", "before"], SetGroup);

    /// <summary>Takes an external input as one stereo element or as two.</summary>
    public static readonly EditForm Externals = EditForm.Of("externals", [Field.Unit, Field.On], f => new JoinExternals(f.Unit, f.Flag()));

    /// <summary>Ticks a setting of the real gear, or with none named all of them.</summary>
    public static readonly EditForm Setting = EditForm.Of(
        "setting", [Field.Unit, "setting", Field.On], f => new MakeSetting(f.Unit, f.OptionalWhole("setting", "setting"), f.Flag()));

    /// <summary>All of them.</summary>
    public static ImmutableArray<EditForm> All { get; } =
    [
        AssignPort, InMain, Fader, Pan, MusicalPan, Mute, Bleed, Send, Straight, PortLevel, Insert, Sounds, Shape, Notes, Mode, Restarted, Clock, Rename, Remove, Pass, GiveNotes, Declare, LeaveMain, Group, Externals, Setting,
    ];

    private static StraightSend? StraightOf(FormFields fields, string port = "port") => fields.OptionalWhole(port, "port") is { } number
        ? new StraightSend(number) { LevelDb = fields.Has("level") ? fields.Level("level", "level of the straight send") : Decibels.Unity, BeforeEffects = fields.Flag("before", false) }
        : null;

    private static Result<Edit> OutOfMain(FormFields fields) => fields.Split.Unit(fields.Unit) is { } unit
        ? new Several(
            $"Take every assigned element of {unit.Name} out of the main mix",
            [.. unit.Elements.Where(e => e.Port is not null && e.InMain).Select(e => (Edit)new SetInMain(new ElementRef(unit.Id, e.ElementId), false))])
        : new Refusal("This source is not in the split any more.");

    private static Result<Edit> SetGroup(FormFields fields)
    {
        if (fields.Split.Unit(fields.Unit) is not { } unit)
        {
            return new Refusal("This source is not in the split any more.");
        }

        var before = unit.Group(fields.Text(Field.Group));
        return new SetGroup(unit.Id, before with
        {
            Port = fields.Has("port") ? fields.OptionalWhole("port", "port") : before.Port,
            FaderDb = fields.Has(Field.Value) ? fields.Level(Field.Value, "fader") : before.FaderDb,
            Muted = fields.Flag("muted", before.Muted),
            Straight = fields.Has("straight") ? StraightOf(fields, "straight") : before.Straight,
        });
    }
}
