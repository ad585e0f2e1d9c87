namespace GateSplit.Data;

/// <summary>A row of the database whose document no version of this program has kept: a newer one wrote it, or somebody else.</summary>
/// <param name="message">Which row it is, and what in it cannot be read, in a sentence for whoever looks at it.</param>
public sealed class UnreadableException(string message) : Exception(message);
