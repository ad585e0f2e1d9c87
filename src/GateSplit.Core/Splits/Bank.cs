using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Splits;

/// <summary>A numbered row of the recorder's inputs.</summary>
/// <param name="Id">Short id, unique in the split.</param>
/// <param name="Label">What stands before the number: "USB", "Kit", "Bus".</param>
/// <param name="Kind">What sort of inputs they are.</param>
/// <param name="Count">How many.</param>
/// <param name="UnitId">The unit whose gate channel n arrives on input n; null for buses and for what cables reach.</param>
public sealed record Bank(BankId Id, string Label, BankKind Kind, int Count, UnitId? UnitId)
{
    /// <summary>The most inputs of a bank.</summary>
    public const int Most = 256;

    /// <summary>Inputs that are switched off in the recorder: nothing arrives on them.</summary>
    public ImmutableArray<int> Off { get; init; } = [];

    /// <summary>Which tracks may listen here.</summary>
    public InputWidths Widths { get; init; }

    /// <summary>Samples by which a looped-back pair is late; 0 for all other banks.</summary>
    public int DelaySamples { get; init; }

    /// <summary>What outboard on a looped-back pair does to the level, in dB; 0 for a plain cable and for all other banks.</summary>
    public Decibels OutboardDb { get; init; }

    /// <summary>How hard outboard on a looped-back pair bends what is loud, 0 to 10; its stand-in sounds it.</summary>
    public double OutboardDrive { get; init; }

    /// <summary>What outboard on a looped-back pair adds, in dBFS RMS, -140 to -30; null for nothing.</summary>
    public Decibels? OutboardNoiseDb { get; init; }

    /// <summary>True if the interface lets one hear these inputs by itself, beside the recorder's tracks.</summary>
    public bool HeardDirectly { get; init; }

    /// <summary>True if what the unit puts out arrives here; false for one that comes in over cables instead.</summary>
    public bool Connected { get; init; } = true;

    /// <summary>"USB 3", or "USB 3-4" for a pair that begins there.</summary>
    public string InputName(int channel, Width width) => $"{Label} {(width == Width.Mono ? $"{channel}" : $"{channel}-{channel + 1}")}";

    /// <summary>True if cables, or the recorder's outputs, reach it.</summary>
    public bool TakesCables => Kind is BankKind.Analog or BankKind.Loopback;

    /// <summary>Why a track of a width cannot listen from a channel on; null if it can.</summary>
    public string? Trouble(int channel, Width width)
    {
        if (channel < 1 || channel + (int)width - 1 > Count)
        {
            return $"{Label} has the inputs 1 to {Count}; a {(width == Width.Mono ? "mono" : "stereo")} track does not fit on {channel}.";
        }

        return (Widths, width) switch
        {
            (InputWidths.PairsOnly, Width.Mono) => $"{Label} offers its inputs only as pairs: make the track stereo.",
            (not InputWidths.Any, Width.Stereo) when channel % 2 == 0 => $"{Label} offers pairs from odd inputs only: {channel - 1}-{channel} or {channel + 1}-{channel + 2}.",
            _ => null,
        };
    }

    /// <summary>The longest delay of a looped-back pair, in samples.</summary>
    public const int LongestDelaySamples = 48_000;

    /// <summary>The most letters of its name.</summary>
    public const int LongestLabel = 40;

    /// <summary>What outboard may do to the level.</summary>
    public static Limits<Decibels> OutboardLevels => new(new(-60), new(30));

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(Split split, string place) => About(place).Concat(Inputs(split, place)).Concat(Outboard(place));

    private IEnumerable<Misfit> About(string place) =>
    [
        .. Core.Misfits.Unless(Names.FitId(Id.Value), $"{place}.id", "An id is made of small letters, digits and hyphens."),
        .. Core.Misfits.Unless(Names.Fit(Label, LongestLabel), $"{place}.label", $"A row of inputs needs a name of at most {LongestLabel} letters."),
        .. Core.Misfits.Unless(Enum.IsDefined(Kind) && Enum.IsDefined(Widths), place, "A row of inputs is of a kind that there is, and takes tracks of a width that there is."),
    ];

    private IEnumerable<Misfit> Inputs(Split split, string place)
    {
        if (Count is < 1 or > Most)
        {
            yield return new Misfit($"{place}.count", $"A row has 1 to {Most} inputs.");
        }
        else if (Off.IsDefault || Off.Any(i => i < 1 || i > Count) || Off.Distinct().Count() != Off.Length)
        {
            yield return new Misfit($"{place}.off", $"{Label} has the inputs 1 to {Count}.");
        }

        if (UnitId is { } id && split.Unit(id) is var unit && unit?.Chart.Channels != Count)
        {
            yield return new Misfit(
                $"{place}.unitId", unit is null ? $"There is no source {id} for this row of inputs." : "This row has as many inputs as its source has channels.");
        }
    }

    private IEnumerable<Misfit> Outboard(string place) =>
    [
        .. Core.Misfits.Unless(DelaySamples is >= 0 and <= LongestDelaySamples, $"{place}.delaySamples", $"The delay of a looped-back pair is 0 to {LongestDelaySamples} samples."),
        .. Core.Misfits.Unless(
            OutboardLevels.Hold(OutboardDb) && InsertPatch.Drives.Hold(OutboardDrive) && (Kind == BankKind.Loopback || (OutboardDb == default && OutboardDrive == 0)),
            $"{place}.outboardDb",
            "Outboard stands on a looped-back pair, at -60 to +30 dB and with a drive of 0 to 10."),
        .. Core.Misfits.Unless(
            SimulatedInterface.Noises.Hold(OutboardNoiseDb) && (Kind == BankKind.Loopback || OutboardNoiseDb is null),
            $"{place}.outboardNoiseDb",
            "The noise of outboard, on a looped-back pair, is -140 to -30 dBFS, or none."),
    ];
}
