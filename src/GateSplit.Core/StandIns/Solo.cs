using GateSplit.Core.Charts;

namespace GateSplit.Core.StandIns;

/// <summary>What is let through of a simulated source.</summary>
/// <param name="ElementId">The only element; null for all.</param>
/// <param name="MainMuted">True if the main mix is muted.</param>
public sealed record Solo(ElementId? ElementId, bool MainMuted = false)
{
    /// <summary>True if an element is heard at a port.</summary>
    public bool Hears(ChartPort port, ChartElement element) =>
        (ElementId is null || element.Id == ElementId) && !(MainMuted && port.IsMain);
}
