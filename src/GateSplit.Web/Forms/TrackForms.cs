using System.Collections.Immutable;
using GateSplit.Core;
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

    /// <summary>Puts a track into a group, or out of any.</summary>
    public static readonly EditForm InGroup = EditForm.Of(
        "in-group", [Field.Track, Field.Group], f => new PutInGroup(f.Track, f.Text(Field.Group) is { Length: > 0 } group ? new TrackGroupId(group) : null));

    /// <summary>Does one thing to many tracks.</summary>
    public static readonly EditForm Many = new("bulk", [Field.Tracks, "act", "pattern", "start"], OfMany);

    /// <summary>The whole table as it was sent.</summary>
    public static readonly EditForm Table = new("table", [.. TableForm.Columns], TableForm.Read);

    /// <summary>Looks at an accepted finding again.</summary>
    public static readonly EditForm Unaccept = EditForm.Of("unaccept", [Field.Finding], f => new UnacceptFinding(f.Text(Field.Finding)));

    /// <summary>All of them.</summary>
    public static ImmutableArray<EditForm> All { get; } =
        [Input, Width, Rename, MeantFor, Arm, Monitor, Bus, Add, Remove, Move, Level, Pan, Live, KeepNotes, InGroup, Many, Table, Unaccept];

    private static Result<Edit> OfMany(FormFields fields)
    {
        var (split, tracks, words) = (fields.Split, fields.Several, fields.Text("pattern").Trim());
        if (tracks.Count == 0)
        {
            return new Refusal("Choose some tracks first, by the boxes before their names.");
        }

        Result<Edit> Done(Edit edit) => edit;
        return fields.Text("act") switch
        {
            "inputs" => InputRef.Read(fields.Text("start")) is { } start ? Done(Bulk.CountInputs(split, tracks, start)) : new Refusal("Choose the input to count from."),
            "name" => words.Length > 0 ? Done(Bulk.Name(split, tracks, words)) : new Refusal("Type a name to count, such as Tom #."),
            "arm" => Done(Bulk.Arm(split, tracks, true)),
            "disarm" => Done(Bulk.Arm(split, tracks, false)),
            "hear" => Done(Bulk.Monitor(split, tracks, MonitorMode.WhileArmed)),
            "unhear" => Done(Bulk.Monitor(split, tracks, MonitorMode.Never)),
            "mono" => Done(Bulk.Widen(split, tracks, Core.Charts.Width.Mono)),
            "stereo" => Done(Bulk.Widen(split, tracks, Core.Charts.Width.Stereo)),
            "group" => split.TrackGroups.FirstOrDefault(g => string.Equals(g.Name, words, StringComparison.OrdinalIgnoreCase)) is { } group
                ? Done(Bulk.PutInGroup(split, tracks, group.Id))
                : new Refusal("Type the name of a group of tracks; the Recorder makes them."),
            "ports" => fields.View is { } view && int.TryParse(words, out var first) ? Bulk.CountPorts(view, tracks, first) : new Refusal("Type the number of the port to count from."),
            "order" => Done(Bulk.OrderByInput(split, tracks)),
            "order-port" when fields.View is { } view => Done(Bulk.OrderByPort(view, tracks)),
            "order-element" when fields.View is { } view => Done(Bulk.OrderByElement(view, tracks)),
            "remove" => Done(Bulk.Remove(split, tracks)),
            _ => new Refusal("Choose what to do with the tracks."),
        };
    }
}
