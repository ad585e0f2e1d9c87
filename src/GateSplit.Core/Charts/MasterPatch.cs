using GateSplit.Core.Quantities;

namespace GateSplit.Core.Charts;

/// <summary>The effects on the main mix of a source: a filter, a compressor and a drive, in this order.</summary>
public sealed record MasterPatch
{
    /// <summary>Where the low-pass has fallen by 3 dB, 200 to 20000 Hz; null for no filter.</summary>
    public double? LowPassHz { get; init; }

    /// <summary>Peak level above which the compressor turns down, -60 to 0 dBFS.</summary>
    public Decibels ThresholdDb { get; init; } = new Decibels(-12);

    /// <summary>The compressor's ratio to one: 1 for none, 2 or 4.</summary>
    public int Ratio { get; init; } = 1;

    /// <summary>How hard the drive bends what is loud, 0 for none to 10.</summary>
    public double Drive { get; init; }

    /// <summary>Where its filter may stand, in hertz.</summary>
    public static Limits<double> Filters => new(200, 20000);

    /// <summary>From which level on it may hold back.</summary>
    public static Limits<Decibels> Thresholds => new(new(-60), new(0));

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(string place) => Core.Misfits.Unless(
        Filters.Hold(LowPassHz) && Thresholds.Hold(ThresholdDb) && Ratio is 1 or 2 or 4 && InsertPatch.Drives.Hold(Drive),
        place,
        "the filter goes from 200 to 20000 Hz, the threshold from -60 to 0 dB, the ratio is 1, 2 or 4, the drive goes from 0 to 10.");
}
