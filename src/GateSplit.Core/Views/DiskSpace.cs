using GateSplit.Core.Quantities;

namespace GateSplit.Core.Views;

/// <summary>What a recording needs and what is there.</summary>
/// <param name="NeededBytes">Of all passes together.</param>
/// <param name="FreeBytes">On the disk.</param>
public sealed record DiskSpace(Bytes NeededBytes, Bytes FreeBytes);
