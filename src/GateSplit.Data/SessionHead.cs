namespace GateSplit.Data;

/// <summary>What is cheap to know of a session.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Revision">Its revision; a revision's split and its song never change.</param>
/// <param name="Undo">The edit that undo takes back; null for none.</param>
/// <param name="Redo">The edit that redo makes again; null for none.</param>
public sealed record SessionHead(string Name, int Revision, string? Undo, string? Redo);
