using System.Collections.Immutable;

namespace GateSplit.Core.Charts;

/// <summary>A setting of a source that decides which ports it has.</summary>
/// <param name="Id">Short id, unique in the chart.</param>
/// <param name="Name">Its name on the source.</param>
/// <param name="Ports">Numbers of the ports that carry anything.</param>
/// <param name="NeedsRestart">True if it holds only after the source was started again.</param>
public sealed record ChartMode(ModeId Id, string Name, ImmutableArray<int> Ports, bool NeedsRestart)
{
    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(Chart chart, string place)
    {
        if (!Names.Fit(Id.Value) || !Names.Fit(Name) || Ports.IsDefaultOrEmpty || Ports.Length > ChartRules.MostChannels)
        {
            yield return new Misfit(place, "an id, a name and at least one port are needed.");
        }
        else if (Ports.FirstOrDefault(p => chart.Port(p) is null, -1) is > -1 and var lost)
        {
            yield return new Misfit($"{place}.ports", $"there is no port {lost}.");
        }
    }
}
