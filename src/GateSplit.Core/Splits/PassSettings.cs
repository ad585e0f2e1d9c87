using GateSplit.Core.Sound;

namespace GateSplit.Core.Splits;

/// <summary>How a pass is recorded.</summary>
/// <param name="LengthBars">Bars of the body, at least 1.</param>
/// <param name="CountInBars">Bars counted before it, 0 to 4; heard, never recorded.</param>
/// <param name="TailSeconds">Seconds recorded after the last bar; null for the longest decay that reaches an armed track.</param>
/// <param name="SampleRate">Frames a second.</param>
/// <param name="Format">How the files are stored: 16 or 24 bit, or 32 bit float.</param>
public sealed record PassSettings(int LengthBars, int CountInBars, double? TailSeconds, int SampleRate, SampleFormat Format)
{
    /// <summary>
    /// The bar, from 1, in which the sources are started; what lies before it is silence in the files, so that all takes
    /// begin with the first bar.
    /// </summary>
    public int StartBar { get; init; } = 1;

    /// <summary>True if the sources play the body round and round, so that a pass begins in the middle of a run.</summary>
    public bool Looped { get; init; }

    /// <summary>How often a loop goes round before the recording starts, 0 to 8, so that clocked gear locks.</summary>
    public int SettleLoops { get; init; }

    /// <summary>What lines should peak at, in dBFS, -40 to 0.</summary>
    public double TargetPeakDb { get; init; } = -12;

    /// <summary>What the disk takes in a second, in bytes; null if nobody has measured it.</summary>
    public long? DiskBytesPerSecond { get; init; }

    /// <summary>What the interface carries in a second, in bytes; null if nobody knows.</summary>
    public long? InterfaceBytesPerSecond { get; init; }
}
