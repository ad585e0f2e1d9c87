namespace GateSplit.Data;

/// <summary>One edit of a split.</summary>
/// <param name="Number">The revision it made.</param>
/// <param name="Edit">What it did.</param>
/// <param name="CreatedAt">When.</param>
public sealed record Revision(int Number, string Edit, DateTime CreatedAt);
