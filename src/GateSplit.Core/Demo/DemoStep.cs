using System.Collections.Immutable;
using GateSplit.Core.Edits;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Demo;

/// <summary>What was done to a session before it is opened for the first time.</summary>
public abstract record DemoStep;

/// <summary>An edit.</summary>
/// <param name="Edit">Which.</param>
public sealed record DemoEdit(Edit Edit) : DemoStep;

/// <summary>A print of all passes.</summary>
public sealed record DemoPrint : DemoStep;

/// <summary>Recordings that were made elsewhere, one file for each track, named like it, and brought in.</summary>
/// <param name="TrackIds">The tracks.</param>
/// <param name="LateMs">By how much the sources lag in them.</param>
public sealed record DemoBringIn(ImmutableArray<TrackId> TrackIds, double LateMs) : DemoStep;
