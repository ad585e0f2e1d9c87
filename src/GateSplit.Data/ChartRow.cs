using GateSplit.Core;
using GateSplit.Core.Charts;

namespace GateSplit.Data;

/// <summary>A chart on the shelf.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Revision">Counted upward with every change; 0 for a chart that ships.</param>
/// <param name="Chart">The chart; or why it cannot be read, and where it stands.</param>
public sealed record ChartRow(ChartId Id, int Revision, Result<Chart> Chart);
