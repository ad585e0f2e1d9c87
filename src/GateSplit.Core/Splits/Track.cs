using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Splits;

/// <summary>A destination in the recorder.</summary>
/// <param name="Id">Short id, unique in the split.</param>
/// <param name="Name">Its name.</param>
/// <param name="Width">Mono or stereo.</param>
public sealed record Track(TrackId Id, string Name, Width Width)
{
    /// <summary>What it was made for, whatever it is called; empty if nobody has said so.</summary>
    public ImmutableArray<Meant> MeantFor { get; init; } = [];

    /// <summary>What it listens to; null for nothing.</summary>
    public InputRef? Input { get; init; }

    /// <summary>The pass it is recorded in, from 1.</summary>
    public int Pass { get; init; } = 1;

    /// <summary>True if its pass records it.</summary>
    public bool Armed { get; init; } = true;

    /// <summary>When its input is heard.</summary>
    public MonitorMode Monitor { get; init; } = MonitorMode.WhileArmed;

    /// <summary>The bus it feeds; null for the recorder's main output.</summary>
    public InputRef? Bus { get; init; }

    /// <summary>The group that sums it; null for none. Documents from before a track could be in several groups may name one here that only sets levels.</summary>
    public TrackGroupId? GroupId { get; init; }

    /// <summary>The groups that turn it up and down beside that.</summary>
    public ImmutableArray<TrackGroupId> LevelGroups { get; init; } = [];

    /// <summary>Its fader in dB, after the recording.</summary>
    public Decibels LevelDb { get; init; }

    /// <summary>Its pan or balance in the recorder's mix, -1 left to 1 right, after the recording.</summary>
    public Pan Pan { get; init; }

    /// <summary>True for a channel that is only heard and mixed, never recorded.</summary>
    public bool Live { get; init; }

    /// <summary>True if the notes of what it records are kept on a note track beside it.</summary>
    public bool KeepsNotes { get; init; } = true;

    /// <summary>True if its input is heard now.</summary>
    public bool Heard => Live || Monitor == MonitorMode.Always || (Monitor == MonitorMode.WhileArmed && Armed);

    /// <summary>Its name, or words that stand in for one.</summary>
    public string Title => string.IsNullOrWhiteSpace(Name) ? "a track with no name" : Name;

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(Split split, string place)
    {
        if (Id.Number < 1 || Id != new TrackId(Id.Number))
        {
            return [new Misfit($"{place}.id", "The tracks need ids of their own: t1, t2 and so on.")];
        }

        if (!Names.FitBlank(Name))
        {
            return [new Misfit($"{place}.name", Name?.Length <= Names.Longest
                ? "A track's name is one line, without tabs or other control characters."
                : $"A track's name has at most {Names.Longest} characters.")];
        }

        if (Core.Misfits.First(Core.Misfits.OfList(MeantFor, $"{place}.meantFor", Meant.Most).Concat(Core.Misfits.OfList(LevelGroups, $"{place}.levelGroups", SplitRules.MostTrackGroups))) is { } gap)
        {
            return [gap];
        }

        return Enum.IsDefined(Width) ? Purpose(place).Concat(Routing(split, place)).Concat(Mixing(split, place)) : [new Misfit($"{place}.width", "A track is mono or stereo.")];
    }

    private IEnumerable<Misfit> Purpose(string place) => MeantFor.SelectMany((m, i) => m.Misfits($"{place}.meantFor[{i}]"))
        .Concat(Core.Misfits.Twice(MeantFor, m => m, i => $"{place}.meantFor[{i}]", _ => "A track is meant for one thing once."));

    private IEnumerable<Misfit> Routing(Split split, string place) =>
    [
        .. Core.Misfits.Unless(Input is null || split.Fits(Input, Width), $"{place}.input", $"{Title} listens to a row of inputs, or to inputs of it, that there are not."),
        .. Core.Misfits.Unless(
            Bus is null || (split.Fits(Bus, Width) && split.Bank(Bus.BankId)!.Kind is BankKind.Buses or BankKind.Loopback),
            $"{place}.bus",
            "A track can only be sent to a bus or a looped-back pair."),
        .. Core.Misfits.Unless(Pass is >= 1 and <= SplitRules.MostPasses, $"{place}.pass", $"A split has 1 to {SplitRules.MostPasses} passes."),
        .. Core.Misfits.Unless(Enum.IsDefined(Monitor), $"{place}.monitor", "A track is monitored never, while armed, or always."),
    ];

    private IEnumerable<Misfit> Mixing(Split split, string place) =>
    [
        .. Core.Misfits.Unless(GroupId is null || split.TrackGroup(GroupId) is not null, $"{place}.groupId", $"{Title} is in a group that is not there."),
        .. Core.Misfits.Unless(
            LevelGroups.All(id => split.TrackGroup(id) is { Sums: false }) && LevelGroups.Distinct().Count() == LevelGroups.Length && (GroupId is null || !LevelGroups.Contains(GroupId.Value)),
            $"{place}.levelGroups",
            $"{Title} is in at most one group that sums, and once in each that only sets levels."),
        .. Core.Misfits.Unless(ChartRules.Levels.Hold(LevelDb), $"{place}.levelDb", "A level goes from -120 to +12 dB."),
        .. Core.Misfits.Unless(Pan.Limits.Hold(Pan), $"{place}.pan", "Pan goes from -1 (left) to 1 (right)."),
    ];
}
