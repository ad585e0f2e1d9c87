using System.Collections.Immutable;

namespace GateSplit.Core.Sound;

/// <summary>One file to be cut out of a many-channel recording.</summary>
/// <param name="Track">The track's name, for sentences.</param>
/// <param name="Channels">1-based channels of the recording, in the order they get in the file.</param>
/// <param name="Path">Final name of the file to write.</param>
public sealed record CutLine(string Track, ImmutableArray<int> Channels, string Path);
