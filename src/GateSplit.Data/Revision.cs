namespace GateSplit.Data;

/// <summary>One edit of a split.</summary>
/// <param name="Number">The revision it made.</param>
/// <param name="Edit">What it did, and that it stands for others that went.</param>
/// <param name="Name">The name somebody gave to the split as it was then; empty for none.</param>
/// <param name="CreatedAt">When.</param>
public sealed record Revision(int Number, string Edit, string Name, DateTime CreatedAt);
