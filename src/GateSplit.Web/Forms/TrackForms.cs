using System.Collections.Immutable;
using GateSplit.Core.Edits;
using GateSplit.Core.Planning;
using GateSplit.Core.Splits;

namespace GateSplit.Web.Forms;

/// <summary>Forms about tracks: one, many at once, or the whole table.</summary>
public static class TrackForms
{
    /// <summary>What a track listens to.</summary>
    public static readonly EditForm Input = EditForm.Of("input", [Field.Track, "input"], f => new SetTrackInput(f.Track, f.OptionalInput("input")));

    /// <summary>Mono or stereo.</summary>
    public static readonly EditForm Width = EditForm.Of("width", [Field.Track, "width"], f => new SetTrackWidth(f.Track, f.Width()));

    /// <summary>Names a track.</summary>
    public static readonly EditForm Rename = EditForm.Of("rename", [Field.Track, Field.Name], f => new RenameTrack(f.Track, f.Text(Field.Name)));

    /// <summary>What a track is meant for.</summary>
    public static readonly EditForm MeantFor = EditForm.Of(
        "meant-for", [Field.Track, "meant"], f => new SetMeantFor(f.Track, MeantOptions.Read(f.All["meant"]) ?? f.Fault<ImmutableArray<Meant>>("Choose what the track is meant for.", [])));

    /// <summary>Arms a track.</summary>
    public static readonly EditForm Arm = EditForm.Of("arm", [Field.Track, Field.On], f => new SetArmed(f.Track, f.Flag()));

    /// <summary>When a track is heard.</summary>
    public static readonly EditForm Monitor = EditForm.Of("monitor", [Field.Track, "monitor"], f => new SetMonitor(f.Track, f.Choice<MonitorMode>("monitor", "monitoring")));

    /// <summary>Where a track is sent.</summary>
    public static readonly EditForm Bus = EditForm.Of("bus", [Field.Track, "bus"], f => new SetTrackBus(f.Track, f.OptionalInput("bus")));

    /// <summary>A new track at the end.</summary>
    public static readonly EditForm Add = EditForm.Of("add-track", [], f => new AddTrack(new Track(f.Split.NewTrackId(), "", Core.Charts.Width.Mono)));

    /// <summary>Removes a track.</summary>
    public static readonly EditForm Remove = EditForm.Of("remove-track", [Field.Track], f => new RemoveTrack(f.Track));

    /// <summary>Moves a track up or down.</summary>
    public static readonly EditForm Move = EditForm.Of("move-track", [Field.Track, "steps"], f => new MoveTrack(f.Track, f.Text("steps") switch
    {
        "up" => -1,
        "down" => 1,
        _ => f.Fault<int>("A track moves up or down."),
    }));

    /// <summary>A track's fader.</summary>
    public static readonly EditForm Level = EditForm.Of("track-level", [Field.Track, Field.Value], f => new SetTrackLevel(f.Track, f.Level(Field.Value, "level")));

    /// <summary>A track's pan.</summary>
    public static readonly EditForm Pan = EditForm.Of("track-pan", [Field.Track, Field.Value], f => new SetTrackPan(f.Track, f.Pan(Field.Value)));

    /// <summary>Only heard, never recorded.</summary>
    public static readonly EditForm Live = EditForm.Of("live", [Field.Track, Field.On], f => new SetLive(f.Track, f.Flag()));

    /// <summary>Whether notes are kept beside it.</summary>
    public static readonly EditForm KeepNotes = EditForm.Of("keep-notes", [Field.Track, Field.On], f => new SetKeepsNotes(f.Track, f.Flag()));

    /// <summary>Puts a track into a group that sums, or out of any.</summary>
    public static readonly EditForm InGroup = EditForm.Of(
        "in-group", [Field.Track, Field.Group], f => f.Text(Field.Group) is { Length: > 0 } group ? new PutInGroup(f.Track, new TrackGroupId(group)) : new TakeOutOfGroup(f.Track, null));

    /// <summary>Puts a track into a group that only sets levels, or out of it.</summary>
    public static readonly EditForm LevelGroup = EditForm.Of(
        "level-group", [Field.Track, Field.Group, Field.On], f => f.Flag() ? new PutInGroup(f.Track, new TrackGroupId(f.Text(Field.Group))) : new TakeOutOfGroup(f.Track, new TrackGroupId(f.Text(Field.Group))));

    /// <summary>The pass a track is recorded in: what plays on it alone moves along.</summary>
    public static readonly EditForm Pass = new(
        "track-pass", [Field.Track, "pass"], f => f.View is { } view ? Bulk.IntoPass(view, [f.Track], f.Whole("pass", "pass")) : new SetTrackPass(f.Track, f.Whole("pass", "pass")));

    /// <summary>Does one thing to many tracks, or to many elements.</summary>
    public static readonly EditForm Many = new("bulk", [Field.Tracks, Field.Elements, "act", "pattern", "start"], BulkForm.Read);

    /// <summary>The whole table as it was sent.</summary>
    public static readonly EditForm Table = new("table", [.. TableForm.Columns], TableForm.Read);

    /// <summary>Looks at an accepted finding again.</summary>
    public static readonly EditForm Unaccept = EditForm.Of("unaccept", [Field.Finding], f => new UnacceptFinding(f.Text(Field.Finding)));

    /// <summary>All of them.</summary>
    public static ImmutableArray<EditForm> All { get; } =
        [Input, Width, Rename, MeantFor, Arm, Monitor, Bus, Add, Remove, Move, Level, Pan, Live, KeepNotes, InGroup, LevelGroup, Pass, Many, Table, Unaccept];
}
