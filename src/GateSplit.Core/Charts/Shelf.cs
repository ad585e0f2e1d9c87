using System.Collections.Immutable;

namespace GateSplit.Core.Charts;

/// <summary>The charts that ship.</summary>
public static class Shelf
{
    /// <summary>All of them, in the order they are offered.</summary>
    public static ImmutableArray<Chart> Charts { get; } =
    [
        OstlerKitRoom.Chart, FennelSampler.Chart, TansyGrid.Chart, MudlarkNine.Chart, BrindleSix.Chart,
        HeronTen.Chart, WickerKeys.Chart, PocketWeir.Chart, SiskinMono.Chart, RecorderGroups.Chart,
    ];

    /// <summary>Finds one; null if there is none.</summary>
    public static Chart? Find(ChartId id) => Charts.FirstOrDefault(c => c.Id == id);
}
