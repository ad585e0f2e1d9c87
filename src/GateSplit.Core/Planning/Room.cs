using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Planning;

/// <summary>What one pass has space for.</summary>
/// <param name="Gates">The ports of each source.</param>
/// <param name="Sockets">The inputs for cables; null if they do not matter.</param>
/// <param name="HardPan">True if two mono lines may share a pair.</param>
internal sealed record Room(IReadOnlyDictionary<UnitId, IReadOnlyList<ChartPort>> Gates, Sockets? Sockets, bool HardPan)
{
    /// <summary>How many cables fit.</summary>
    public int Cables { get; } = Sockets?.Free.Length ?? int.MaxValue;

    /// <summary>How many pairs of cables fit.</summary>
    public int CablePairs { get; } = Sockets?.Pairs ?? int.MaxValue;

    /// <summary>Lines of one source take at least so many passes, whatever else there is.</summary>
    public int FewestOf(UnitId unitId, IReadOnlyList<PassPlan.Need> lines)
    {
        var ports = Gates[unitId];
        var pairs = ports.Count(p => p.Width == Width.Stereo);

        // Counted in halves of a port: a stereo line takes both, and so does a mono line that does not share.
        int Weight(PassPlan.Need need) => need.Width == Width.Stereo || (!HardPan && need.Ports.IsEmpty) ? 2 : 1;
        var halves = ports.Sum(p => p.Width == Width.Stereo || !HardPan ? 2 : 1);
        return new[]
        {
            Rounds(lines.Count(l => l.Width == Width.Stereo), pairs),
            Rounds(lines.Sum(Weight), halves),
            lines.Where(l => l.Ports.Length == 1).GroupBy(l => l.Ports[0]).Select(g => Rounds(g.Sum(l => (int)l.Width), (int)(ports.FirstOrDefault(p => p.Number == g.Key)?.Width ?? Width.Mono))).DefaultIfEmpty(1).Max(),
            lines.Where(l => l.Voice is not null).GroupBy(l => l.Voice).Select(g => g.Count()).DefaultIfEmpty(1).Max(),
        }.Max();
    }

    /// <summary>Lines that come in over cables take at least so many passes.</summary>
    public int FewestOverCables(IReadOnlyList<PassPlan.Need> lines) => Sockets is null
        ? 1
        : Math.Max(Rounds(lines.Count(l => l.Width == Width.Stereo), CablePairs), Rounds(lines.Sum(l => (int)l.Width), Cables));

    private static int Rounds(int wanted, int space) => wanted == 0 ? 1 : (wanted + space - 1) / Math.Max(1, space);
}
