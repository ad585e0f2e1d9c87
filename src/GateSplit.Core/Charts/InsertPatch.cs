using GateSplit.Core.Quantities;

namespace GateSplit.Core.Charts;

/// <summary>An effect of an element's own, before its fader: a crusher that holds samples, rounds them coarsely and drives them.</summary>
/// <param name="Name">Its name on the source.</param>
public sealed record InsertPatch(string Name)
{
    /// <summary>How often a new sample is taken, 500 to 48000 a second; null to take all.</summary>
    public double? HoldHz { get; init; }

    /// <summary>Bits that are left of a sample, 2 to 16; null for all.</summary>
    public int? Bits { get; init; }

    /// <summary>How hard the drive bends what is loud, 0 for none to 10.</summary>
    public double Drive { get; init; }

    /// <summary>How often a second it may take a sample.</summary>
    public static Limits<double> Holds => new(500, 48000);

    /// <summary>How hard it may bend what is loud.</summary>
    public static Limits<double> Drives => new(0, 10);

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(string place) => Core.Misfits.Unless(
        Names.Fit(Name) && Holds.Hold(HoldHz) && Bits is null or (>= 2 and <= 16) && Drives.Hold(Drive),
        place,
        "it needs a name, 500 to 48000 samples a second, 2 to 16 bits and a drive from 0 to 10.");
}
