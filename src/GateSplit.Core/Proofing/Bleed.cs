using GateSplit.Core.Quantities;

namespace GateSplit.Core.Proofing;

/// <summary>What a track holds of another element.</summary>
/// <param name="From">The file that is the other element's own.</param>
/// <param name="Level">Its energy here against that in its own file.</param>
public readonly record struct Bleed(int From, Decibels Level);
