using System.Collections.Immutable;
using GateSplit.Core;
using GateSplit.Core.Edits;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Web.Forms;

/// <summary>Forms about the recorder's side: rows of inputs, cables, groups of tracks, and how a pass is recorded.</summary>
public static class RecorderForms
{
    private const string Sums = "sums";

    /// <summary>Switches inputs on or off.</summary>
    public static readonly EditForm SwitchInputs = EditForm.Of(
        "switch-inputs", [Field.Bank, "from", "to", Field.On], f => new SwitchInputs(f.Bank, f.Whole("from", "input"), f.Whole("to", "input"), f.Flag()));

    /// <summary>Changes a row of inputs: what is not sent stays.</summary>
    public static readonly EditForm Bank = new(
        "bank", [Field.Bank, "label", "count", "delay", "outboard", "drive", "outboard-noise", "widths", "direct", "connected"], SetBank);

    /// <summary>Adds a row of inputs.</summary>
    public static readonly EditForm AddBank = EditForm.Of(
        "add-bank", ["kind", "label", "count"], f => new AddBank(f.Choice<BankKind>("kind", "kind of inputs"), f.Text("label"), f.Whole("count", "number of inputs")));

    /// <summary>Removes a row of inputs.</summary>
    public static readonly EditForm RemoveBank = EditForm.Of("remove-bank", [Field.Bank], f => new RemoveBank(f.Bank));

    /// <summary>Plugs cables.</summary>
    public static readonly EditForm Plug = EditForm.Of(
        "plug",
        [Field.Unit, Field.Bank, "channel", "count", "input"],
        f => new PlugCables(f.Unit, f.Whole("channel", "cable"), f.Whole("count", "cable"), new InputRef(f.Bank, f.Whole("input", "cable"))));

    /// <summary>Pulls a cable, or with no input named all of a source.</summary>
    public static readonly EditForm Pull = EditForm.Of("pull", [Field.Unit, "cable"], f =>
    {
        (InputRef Input, int? Pass)? plug = f.Text("cable").Length == 0 ? null : Cable.ReadPlug(f.Text("cable")) ?? f.Fault<(InputRef, int?)?>("Choose a cable.");
        return new PullCables(f.Unit, plug?.Input, plug?.Pass);
    });

    /// <summary>Begins the value of an output that is another group.</summary>
    public const char Feeds = '=';

    /// <summary>Adds a group of tracks.</summary>
    public static readonly EditForm AddGroup = EditForm.Of("add-group", [Field.Name, Sums], f => new AddTrackGroup(f.Text(Field.Name), f.Flag(Sums, false)));

    /// <summary>Removes a group of tracks.</summary>
    public static readonly EditForm RemoveGroup = EditForm.Of("remove-group", [Field.Group], f => new RemoveTrackGroup(new TrackGroupId(f.Text(Field.Group))));

    /// <summary>Changes a group of tracks.</summary>
    public static readonly EditForm Group = new("track-group", [Field.Group, Field.Name, "level", "bus"], SetGroup);

    /// <summary>Changes how a pass is recorded: what is not sent stays.</summary>
    public static readonly EditForm Pass = EditForm.Of(
        "pass", ["bars", "from", "countin", "tail", "rate", "format", "looped", "settle", "microsecond"], f => new SetPass(f.Split.Pass with
        {
            LengthBars = f.Whole("bars", "length of the pass"),
            StartBar = f.Whole("from", "bar to start from", f.Split.Pass.StartBar),
            CountInBars = f.Whole("countin", "count-in"),
            TailSeconds = f.OptionalNumber("tail", "tail"),
            SampleRate = f.Whole("rate", "sample rate"),
            Format = f.Choice("format", "format", f.Split.Pass.Format),
            TempoToMicrosecond = f.Flag("microsecond", f.Split.Pass.TempoToMicrosecond),
            Looped = f.Flag("looped", f.Split.Pass.Looped),
            SettleLoops = f.Whole("settle", "number of rounds to settle", f.Split.Pass.SettleLoops),
        }));

    /// <summary>Says what disk and interface take in a second, in megabytes; empty if nobody knows.</summary>
    public static readonly EditForm Speeds = EditForm.Of("speeds", ["disk", "interface"], f => new SetPass(f.Split.Pass with
    {
        DiskBytesPerSecond = Megabytes(f, "disk"),
        InterfaceBytesPerSecond = Megabytes(f, "interface"),
    }));

    /// <summary>Says what lines should peak at.</summary>
    public static readonly EditForm Target = EditForm.Of(
        "target", [Field.Value], f => new SetPass(f.Split.Pass with { TargetPeakDb = f.Level(Field.Value, "target") }));

    /// <summary>All of them.</summary>
    public static ImmutableArray<EditForm> All { get; } =
        [SwitchInputs, Bank, AddBank, RemoveBank, Plug, Pull, AddGroup, RemoveGroup, Group, Pass, Speeds, Target];

    /// <summary>More than a petabyte a second is no speed that anybody has measured.</summary>
    private static Bytes? Megabytes(FormFields fields, string field) => fields.OptionalNumber(field, "speed") is not { } megabytes
        ? null
        : megabytes <= 1e9 ? new Bytes((long)(megabytes * 1e6)) : fields.Fault<Bytes?>("A speed is at most 1,000,000,000 MB a second.");

    private static Result<Edit> SetBank(FormFields fields)
    {
        if (fields.Split.Bank(fields.Bank) is not { } bank)
        {
            return new Refusal("This row of inputs is not in the split any more.");
        }

        return new SetBank(bank with
        {
            Label = fields.Text("label"),
            Count = fields.Whole("count", "row of inputs", bank.Count),
            DelaySamples = fields.Whole("delay", "delay", bank.DelaySamples),
            OutboardDb = fields.Has("outboard") ? fields.Level("outboard", "level of the outboard") : bank.OutboardDb,
            OutboardDrive = fields.Has("drive") ? fields.Number("drive", "drive of the outboard") : bank.OutboardDrive,
            OutboardNoiseDb = fields.Has("outboard-noise") ? fields.OptionalLevel("outboard-noise", "noise of the outboard") : bank.OutboardNoiseDb,
            Widths = fields.Choice("widths", "widths", bank.Widths),
            HeardDirectly = fields.Flag("direct", bank.HeardDirectly),
            Connected = fields.Flag("connected", bank.Connected),
        });
    }

    private static Result<Edit> SetGroup(FormFields fields)
    {
        if (fields.Split.TrackGroup(new TrackGroupId(fields.Text(Field.Group))) is not { } group)
        {
            return new Refusal("This group is not in the split any more.");
        }

        // One control says where a sum goes: to a bus, or, with an equals sign before its id, to another group.
        var output = fields.Text("bus");
        return new SetTrackGroup(group with
        {
            Name = fields.Has(Field.Name) ? fields.Text(Field.Name).Trim() : group.Name,
            LevelDb = fields.Has("level") ? fields.Level("level", "level") : group.LevelDb,
            Bus = !fields.Has("bus") ? group.Bus : output.StartsWith(Feeds) ? null : fields.OptionalInput("bus"),
            ParentId = !fields.Has("bus") ? group.ParentId : output.StartsWith(Feeds) ? new TrackGroupId(output[1..]) : null,
        });
    }
}
