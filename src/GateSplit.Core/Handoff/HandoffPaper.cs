namespace GateSplit.Core.Handoff;

/// <summary>A small file that leaves with the audio: notes, sheets, documents.</summary>
/// <param name="Path">Where it lies in the handoff.</param>
/// <param name="Body">Its bytes.</param>
public sealed record HandoffPaper(string Path, byte[] Body);
