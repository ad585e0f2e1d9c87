using System.Collections.Frozen;
using GateSplit.Core;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Web.Forms;

/// <summary>What can be done at once to many tracks or elements, in the words in which the inspector does it to one.</summary>
public static class BulkForm
{
    /// <summary>What an act wants beside the chosen tracks or elements.</summary>
    public enum Wants
    {
        /// <summary>Nothing.</summary>
        Nothing,

        /// <summary>A number or a name.</summary>
        Words,

        /// <summary>An input.</summary>
        Input,
    }

    /// <summary>What can be done to tracks, in the order in which it is offered.</summary>
    public static IReadOnlyList<Act> OfTracks { get; } =
    [
        new("inputs", "count inputs upward from", Wants.Input, (f, t) => f.OptionalInput("start") is { } start ? Done(Bulk.CountInputs(f.Split, t, start)) : new Refusal("Choose the input to count from.")),
        new("name", "name them, # counts", Wants.Words, (f, t) => Typed(f) is { Length: > 0 } words ? Done(Bulk.Name(f.Split, t, words)) : new Refusal("Type a name to count, such as Tom #.")),
        new("arm", "arm", Wants.Nothing, (f, t) => Done(Bulk.Arm(f.Split, t, true))),
        new("disarm", "disarm", Wants.Nothing, (f, t) => Done(Bulk.Arm(f.Split, t, false))),
        new("hear", "monitor while armed", Wants.Nothing, (f, t) => Done(Bulk.Monitor(f.Split, t, MonitorMode.WhileArmed))),
        new("always", "monitor always", Wants.Nothing, (f, t) => Done(Bulk.Monitor(f.Split, t, MonitorMode.Always))),
        new("unhear", "never monitor", Wants.Nothing, (f, t) => Done(Bulk.Monitor(f.Split, t, MonitorMode.Never))),
        new("mono", "make mono", Wants.Nothing, (f, t) => Done(Bulk.Widen(f.Split, t, Width.Mono))),
        new("stereo", "make stereo", Wants.Nothing, (f, t) => Done(Bulk.Widen(f.Split, t, Width.Stereo))),
        new("level", "level, dB", Wants.Words, (f, t) => Decibels.Read(Typed(f)) is { } level ? Done(Bulk.Tracks(f.Split, t, "Set the level of", track => new SetTrackLevel(track.Id, level))) : Number("level")),
        new("pan", "pan, −100 to 100", Wants.Words, (f, t) => Pan.Read(Typed(f)) is { } pan ? Done(Bulk.Tracks(f.Split, t, "Pan", track => new SetTrackPan(track.Id, pan))) : Number("pan")),
        new("pass", "record in pass", Wants.Words, (f, t) => f.View is { } view && int.TryParse(Typed(f), out var pass) ? Bulk.IntoPass(view, t, pass) : Number("pass")),
        new("output", "send to the bus", Wants.Input, (f, t) => f.OptionalInput("start") is { } bus ? Done(Bulk.Tracks(f.Split, t, "Send", track => new SetTrackBus(track.Id, bus))) : new Refusal("Choose the bus.")),
        new("main", "send to the main output", Wants.Nothing, (f, t) => Done(Bulk.Tracks(f.Split, t, "Send to the main output", track => new SetTrackBus(track.Id, null)))),
        new("live", "only hear", Wants.Nothing, (f, t) => Done(Bulk.Tracks(f.Split, t, "Only hear", track => new SetLive(track.Id, true)))),
        new("record", "record", Wants.Nothing, (f, t) => Done(Bulk.Tracks(f.Split, t, "Record", track => new SetLive(track.Id, false)))),
        new("group", "put into the group of that name", Wants.Words, (f, t) => Group(f) is { } group ? Done(Bulk.PutInGroup(f.Split, t, group.Id)) : NoGroup),
        new("ungroup", "take out of the group of that name", Wants.Words, (f, t) => Group(f) is { } group ? Done(Bulk.TakeOutOfGroup(f.Split, t, group.Id)) : NoGroup),
        new("ports", "count ports upward from the number", Wants.Words, (f, t) => f.View is { } view && int.TryParse(Typed(f), out var first) ? Bulk.CountPorts(view, t, first) : new Refusal("Type the number of the port to count from.")),
        new("order", "order by their inputs", Wants.Nothing, (f, t) => Done(Bulk.OrderByInput(f.Split, t))),
        new("order-port", "order by their ports", Wants.Nothing, (f, t) => f.View is { } view ? Done(Bulk.OrderByPort(view, t)) : NoView),
        new("order-element", "order by their elements", Wants.Nothing, (f, t) => f.View is { } view ? Done(Bulk.OrderByElement(view, t)) : NoView),
        new("remove", "remove", Wants.Nothing, (f, t) => Done(Bulk.Remove(f.Split, t))),
    ];

    /// <summary>What can be done to elements, in the order in which it is offered.</summary>
    public static IReadOnlyList<ElementAct> OfElements { get; } =
    [
        new("gather", "gather on the port with the number", Wants.Words, (f, e) => f.View is { } view && int.TryParse(Typed(f), out var port) ? Bulk.Gather(view, e, port) : new Refusal("Type the number of the port.")),
        new("fader", "fader, dB", Wants.Words, (f, e) => Decibels.Read(Typed(f)) is { } level ? Each(f, e, "Set the fader of", of => new SetFader(of, level)) : Number("fader")),
        new("element-pan", "pan, −100 to 100", Wants.Words, (f, e) => Pan.Read(Typed(f)) is { } pan ? Each(f, e, "Pan", of => new SetPan(of, pan)) : Number("pan")),
        new("bleed", "bleed, dB", Wants.Words, (f, e) => Decibels.Read(Typed(f)) is { } level ? Each(f, [.. e.Where(of => HearsNeighbours(f.Split, of))], "Set the bleed of", of => new SetBleed(of, level)) : Number("bleed")),
        new("send", "send, dB", Wants.Words, (f, e) => Decibels.Read(Typed(f)) is { } level ? Each(f, e, "Set the send of", of => new SetSend(of, level, f.Split.Unit(of.UnitId)?.Element(of.ElementId).SendPan)) : Number("send")),
        new("insert-on", "with their own effect", Wants.Nothing, (f, e) => Each(f, [.. e.Where(of => HasInsert(f.Split, of))], "Switch on the effect of", of => new SetInsert(of, true))),
        new("insert-off", "without their own effect", Wants.Nothing, (f, e) => Each(f, [.. e.Where(of => HasInsert(f.Split, of))], "Switch off the effect of", of => new SetInsert(of, false))),
        new("mute", "mute", Wants.Nothing, (f, e) => Each(f, e, "Mute", of => new SetMuted(of, true))),
        new("unmute", "let sound", Wants.Nothing, (f, e) => Each(f, e, "Let sound", of => new SetMuted(of, false))),
        new("in-main", "also in the main mix", Wants.Nothing, (f, e) => Each(f, e, "Put into the main mix", of => new SetInMain(of, true))),
        new("out-of-main", "not in the main mix", Wants.Nothing, (f, e) => Each(f, e, "Take out of the main mix", of => new SetInMain(of, false))),
        new("element-pass", "play in pass only, empty for all", Wants.Words, (f, e) => Typed(f).Length == 0 ? Each(f, e, "Play in every pass", of => new SetElementPass(of, null)) : int.TryParse(Typed(f), out var pass) ? Each(f, e, $"Play in pass {pass} only", of => new SetElementPass(of, pass)) : Number("pass")),
    ];

    private static FrozenDictionary<string, Act> TrackActs { get; } = OfTracks.ToFrozenDictionary(a => a.Name);

    private static FrozenDictionary<string, ElementAct> ElementActs { get; } = OfElements.ToFrozenDictionary(a => a.Name);

    private static Refusal NoGroup => new("Type the name of a group of tracks; the Recorder makes them.");

    private static Refusal NoView => new("This page does not know what sounds where. Do it on the Split.");

    /// <summary>Reads it.</summary>
    public static Result<Edit> Read(FormFields fields)
    {
        var act = fields.Text("act");
        if (ElementActs.TryGetValue(act, out var onElements))
        {
            return fields.SeveralElements is { Count: > 0 } elements ? onElements.Make(fields, elements) : new Refusal("Choose some elements first, by the boxes before their names.");
        }

        if (!TrackActs.TryGetValue(act, out var onTracks))
        {
            return new Refusal("Choose what to do with the tracks or elements.");
        }

        return fields.Several is { Count: > 0 } tracks ? onTracks.Make(fields, tracks) : new Refusal("Choose some tracks first, by the boxes before their names.");
    }

    private static Result<Edit> Done(Edit edit) => edit;

    private static Refusal Number(string called) => new($"The {called} needs a number.");

    private static string Typed(FormFields fields) => fields.Text("pattern").Trim();

    private static TrackGroup? Group(FormFields fields) => fields.Split.TrackGroups.FirstOrDefault(g => string.Equals(g.Name, Typed(fields), StringComparison.OrdinalIgnoreCase));

    private static bool HearsNeighbours(Split split, ElementRef element) => ChartOf(split, element)?.Hears.Any(h => h.Bleed) == true;

    private static bool HasInsert(Split split, ElementRef element) => ChartOf(split, element)?.Insert is not null;

    private static ChartElement? ChartOf(Split split, ElementRef element) => split.Unit(element.UnitId)?.Chart.Element(element.ElementId);

    private static Result<Edit> Each(FormFields fields, IReadOnlyList<ElementRef> elements, string what, Func<ElementRef, Edit> edit) =>
        elements.Any(fields.Split.HasElement) ? Bulk.Elements(fields.Split, elements, what, edit) : new Refusal("None of the chosen elements has that.");

    /// <summary>Something that can be done to many tracks.</summary>
    /// <param name="Name">Its name in the form.</param>
    /// <param name="Words">What it is called.</param>
    /// <param name="Wants">What it wants beside.</param>
    /// <param name="Make">The edit, or a sentence.</param>
    public sealed record Act(string Name, string Words, Wants Wants, Func<FormFields, IReadOnlyList<TrackId>, Result<Edit>> Make);

    /// <summary>Something that can be done to many elements.</summary>
    /// <param name="Name">Its name in the form.</param>
    /// <param name="Words">What it is called.</param>
    /// <param name="Wants">What it wants beside.</param>
    /// <param name="Make">The edit, or a sentence.</param>
    public sealed record ElementAct(string Name, string Words, Wants Wants, Func<FormFields, IReadOnlyList<ElementRef>, Result<Edit>> Make);
}
