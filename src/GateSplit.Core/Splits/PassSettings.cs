using System.Collections.Immutable;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Splits;

/// <summary>How a pass is recorded.</summary>
/// <param name="LengthBars">Bars of the body, at least 1.</param>
/// <param name="CountInBars">Bars counted before it, 0 to 4; heard, never recorded.</param>
/// <param name="TailSeconds">Seconds recorded after the last bar; null for the longest decay that reaches an armed track.</param>
/// <param name="SampleRate">Frames a second.</param>
/// <param name="Format">How the files are stored: 16 or 24 bit, or 32 bit float.</param>
public sealed record PassSettings(int LengthBars, int CountInBars, double? TailSeconds, SampleRate SampleRate, SampleFormat Format)
{
    /// <summary>
    /// The bar, from 1, in which the sources are started; what lies before it is silence in the files, so that all takes
    /// begin with the first bar.
    /// </summary>
    public int StartBar { get; init; } = 1;

    /// <summary>True to take the one tempo of the song to the microsecond, as its MIDI file has it; false for the tempo of two decimals that the file rounds.</summary>
    public bool TempoToMicrosecond { get; init; }

    /// <summary>True if the sources play the body round and round, so that a pass begins in the middle of a run.</summary>
    public bool Looped { get; init; }

    /// <summary>How often a loop goes round before the recording starts, 0 to 8, so that clocked gear locks.</summary>
    public int SettleLoops { get; init; }

    /// <summary>What lines should peak at, in dBFS, -40 to 0.</summary>
    public Decibels TargetPeakDb { get; init; } = new Decibels(-12);

    /// <summary>What the disk takes in a second, in bytes; null if nobody has measured it.</summary>
    public Bytes? DiskBytesPerSecond { get; init; }

    /// <summary>What the interface carries in a second, in bytes; null if nobody knows.</summary>
    public Bytes? InterfaceBytesPerSecond { get; init; }

    /// <summary>The sample rates there are, in hertz.</summary>
    public static readonly ImmutableArray<SampleRate> SampleRates = [44100, 48000, 88200, 96000, 176_400, 192_000];

    /// <summary>The most bars a pass is long.</summary>
    public const int MostBars = 2000;

    /// <summary>The most rounds a loop settles for.</summary>
    public const int MostSettleLoops = 8;

    /// <summary>What lines may be meant to peak at, in dBFS.</summary>
    public static Limits<Decibels> TargetPeaks => new(new(-40), new(0));

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(string place) => Length(place).Concat(Files(place));

    private IEnumerable<Misfit> Length(string place) =>
    [
        .. Core.Misfits.Unless(LengthBars is >= 1 and <= MostBars, $"{place}.lengthBars", $"A pass is 1 to {MostBars} bars long."),
        .. Core.Misfits.Unless(StartBar >= 1 && StartBar <= LengthBars, $"{place}.startBar", $"A pass starts in one of its own bars, 1 to {LengthBars}."),
        .. Core.Misfits.Unless(CountInBars is >= 0 and <= 4, $"{place}.countInBars", "The count-in is 0 to 4 bars."),
        .. Core.Misfits.Unless(TailSeconds is null or (>= 0 and <= 60), $"{place}.tailSeconds", "The tail is 0 to 60 seconds."),
        .. Core.Misfits.Unless(SettleLoops is >= 0 and <= MostSettleLoops, $"{place}.settleLoops", $"A loop settles for 0 to {MostSettleLoops} rounds."),
    ];

    private IEnumerable<Misfit> Files(string place) =>
    [
        .. Core.Misfits.Unless(TargetPeaks.Hold(TargetPeakDb), $"{place}.targetPeakDb", "The target for peaks is -40 to 0 dBFS."),
        .. Core.Misfits.Unless(
            !(DiskBytesPerSecond <= 0) && !(InterfaceBytesPerSecond <= 0),
            $"{place}.diskBytesPerSecond",
            "A disk or an interface takes more than nothing a second; leave the field empty if nobody knows."),
        .. Core.Misfits.Unless(SampleRates.Contains(SampleRate), $"{place}.sampleRate", "The sample rate is 44100, 48000, 88200, 96000, 176400 or 192000 Hz."),
        .. Core.Misfits.Unless(
            Format is SampleFormat.Pcm16 or SampleFormat.Pcm24 or SampleFormat.Float32, $"{place}.format", "Files are printed at 16 or 24 bit, or 32 bit float."),
    ];
}
