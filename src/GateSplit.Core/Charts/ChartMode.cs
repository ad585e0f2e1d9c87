using System.Collections.Immutable;

namespace GateSplit.Core.Charts;

/// <summary>A setting of a source that decides which ports it has.</summary>
/// <param name="Id">Short id, unique in the chart.</param>
/// <param name="Name">Its name on the source.</param>
/// <param name="Ports">Numbers of the ports that carry anything.</param>
/// <param name="NeedsRestart">True if it holds only after the source was started again.</param>
public sealed record ChartMode(string Id, string Name, ImmutableArray<int> Ports, bool NeedsRestart);
