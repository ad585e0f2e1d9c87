using System.Collections.Immutable;
using GateSplit.Core.Notes;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Demo;

/// <summary>A session that ships.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Song">Its music.</param>
/// <param name="Split">Its split.</param>
/// <param name="Steps">What was done to it since, in order.</param>
public sealed record DemoSession(string Name, MidiFile Song, Split Split, ImmutableArray<DemoStep> Steps);
