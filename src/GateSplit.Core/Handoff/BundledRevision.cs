namespace GateSplit.Core.Handoff;

/// <summary>A state of the split in a bundle.</summary>
/// <param name="Number">The revision.</param>
/// <param name="Parent">The revision that undo leads to; null for none.</param>
/// <param name="Steps">How many edits lie between them.</param>
/// <param name="Edit">What was done.</param>
/// <param name="Name">The name it was given; empty for none.</param>
/// <param name="Made">When, in UTC.</param>
/// <param name="File">An exported session with its split and its song.</param>
public sealed record BundledRevision(int Number, int? Parent, int Steps, string Edit, string Name, DateTime Made, string File);
