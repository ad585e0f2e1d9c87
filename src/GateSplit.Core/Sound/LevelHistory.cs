using System.Collections.Immutable;

namespace GateSplit.Core.Sound;

/// <summary>How loud a file is along its time.</summary>
/// <param name="StepSeconds">From one point to the next.</param>
/// <param name="Points">In order.</param>
public sealed record LevelHistory(double StepSeconds, ImmutableArray<HistoryPoint> Points);
