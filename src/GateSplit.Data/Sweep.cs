namespace GateSplit.Data;

/// <summary>What a comparison of the audio store with the database came to.</summary>
/// <param name="Removed">How many files no row named, and were removed.</param>
/// <param name="Missing">Files that rows name and that are not in the store.</param>
public sealed record Sweep(int Removed, IReadOnlyList<string> Missing);
