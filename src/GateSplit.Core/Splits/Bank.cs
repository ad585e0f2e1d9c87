using System.Collections.Immutable;
using GateSplit.Core.Charts;

namespace GateSplit.Core.Splits;

/// <summary>A numbered row of the recorder's inputs.</summary>
/// <param name="Id">Short id, unique in the split.</param>
/// <param name="Label">What stands before the number: "USB", "Kit", "Bus".</param>
/// <param name="Kind">What sort of inputs they are.</param>
/// <param name="Count">How many.</param>
/// <param name="UnitId">The unit whose gate channel n arrives on input n; null for buses and for what cables reach.</param>
public sealed record Bank(string Id, string Label, BankKind Kind, int Count, string? UnitId)
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
    public double OutboardDb { get; init; }

    /// <summary>How hard outboard on a looped-back pair bends what is loud, 0 to 10; its stand-in sounds it.</summary>
    public double OutboardDrive { get; init; }

    /// <summary>What outboard on a looped-back pair adds, in dBFS RMS, -140 to -30; null for nothing.</summary>
    public double? OutboardNoiseDb { get; init; }

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
}
