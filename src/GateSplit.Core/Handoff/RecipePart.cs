using System.Collections.Immutable;
using GateSplit.Core.Proofing;

namespace GateSplit.Core.Handoff;

/// <summary>A stored file in a file of a handoff.</summary>
/// <param name="Audio">The stored file, by the hash of its bytes.</param>
/// <param name="Plan">What its mends make of it.</param>
/// <param name="Left">What the left side of a sum takes of each of its channels; empty where nothing is summed.</param>
/// <param name="Right">What the right side takes.</param>
public sealed record RecipePart(string Audio, RenderPlan Plan, ImmutableArray<double> Left, ImmutableArray<double> Right);
