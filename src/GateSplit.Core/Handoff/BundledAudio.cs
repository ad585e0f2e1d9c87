using GateSplit.Core.Quantities;

namespace GateSplit.Core.Handoff;

/// <summary>A recording that goes into a bundle.</summary>
/// <param name="Path">What it is called there.</param>
/// <param name="Stored">The stored file, by the hash of its bytes.</param>
/// <param name="Bytes">Its length.</param>
public sealed record BundledAudio(string Path, string Stored, Bytes Bytes);
