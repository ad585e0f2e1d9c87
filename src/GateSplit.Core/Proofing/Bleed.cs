using GateSplit.Core.Quantities;

namespace GateSplit.Core.Proofing;

/// <summary>What a track holds of another element.</summary>
/// <param name="From">The file that is the other element's own.</param>
/// <param name="Level">Its energy here against that in its own file.</param>
/// <param name="About">True where its level is not known to 1 dB: most of it lies so deep under other sounds that it is taken from the rest, or it is not as loud at every hit as it should be.</param>
public readonly record struct Bleed(int From, Decibels Level, bool About = false);
