using GateSplit.Core.Quantities;

namespace GateSplit.Core.Proofing;

/// <summary>A file that holds what another holds.</summary>
/// <param name="File">The other.</param>
/// <param name="LagFrames">By how much later it is here, with fractions.</param>
/// <param name="Gain">How much louder it is here.</param>
/// <param name="Polarity">-1 where it is upside down against the other.</param>
/// <param name="Likeness">0 to 1: the normalised cross-correlation.</param>
public sealed record DoubleOf(int File, double LagFrames, Decibels Gain, int Polarity, double Likeness)
{
    /// <summary>Where the first notch of the comb lies when both sound together, in hertz; null where they do not differ in time.</summary>
    /// <param name="rate">Frames a second.</param>
    public double? FirstNotch(SampleRate rate) => Math.Abs(LagFrames) < 0.5 ? null : rate.Hz / (2 * Math.Abs(LagFrames));
}
