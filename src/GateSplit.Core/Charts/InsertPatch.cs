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
}
