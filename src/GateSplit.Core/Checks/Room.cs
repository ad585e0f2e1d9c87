namespace GateSplit.Core.Checks;

/// <summary>What a recording needs and what is there.</summary>
/// <param name="NeededBytes">Of all passes together.</param>
/// <param name="FreeBytes">On the disk.</param>
public sealed record Room(long NeededBytes, long FreeBytes);
