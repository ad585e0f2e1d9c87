namespace GateSplit.Core.Drawing;

/// <summary>One axis of a plot: where a value lies along it, and which round values are written beside it.</summary>
/// <param name="Low">The value at its start.</param>
/// <param name="High">The value at its end; more than that at its start.</param>
/// <param name="From">Where it starts, in units of the picture.</param>
/// <param name="To">Where it ends; less than <paramref name="From"/> for one that goes up.</param>
/// <param name="ByOctaves">True if each doubling takes the same room.</param>
public sealed record PlotAxis(double Low, double High, double From, double To, bool ByOctaves = false)
{
    private static readonly double[] Rounds = [1, 2, 5];

    /// <summary>An axis that holds some values, with room about them.</summary>
    /// <param name="values">The values; none for an axis about 0.</param>
    /// <param name="least">It is at least so long.</param>
    /// <param name="from">Where it starts.</param>
    /// <param name="to">Where it ends.</param>
    public static PlotAxis Around(IEnumerable<double> values, double least, double from, double to)
    {
        const double Room = 0.08;
        var all = values.DefaultIfEmpty().ToList();
        var (low, high) = (all.Min(), all.Max());
        var more = Math.Max((high - low) * Room, (least - (high - low)) / 2);
        return new(low - more, high + more, from, to);
    }

    /// <summary>Where a value lies; those beyond its ends lie on them.</summary>
    public double At(double value) => From + (To - From) * Math.Clamp(ByOctaves ? Math.Log(value / Low) / Math.Log(High / Low) : (value - Low) / (High - Low), 0, 1);

    /// <summary>Round values along it.</summary>
    /// <param name="most">How many there is room for.</param>
    public IEnumerable<double> Ticks(int most)
    {
        if (ByOctaves)
        {
            return from power in Enumerable.Range((int)Math.Floor(Math.Log10(Low)), (int)Math.Ceiling(Math.Log10(High / Low)) + 2)
                   from round in Rounds
                   let value = round * Math.Pow(10, power)
                   where value >= Low && value <= High
                   select value;
        }

        var step = Enumerable.Range(-9, 20).SelectMany(power => Rounds.Select(r => r * Math.Pow(10, power))).First(s => (High - Low) / s <= most);
        var first = (long)Math.Ceiling(Low / step - 1e-9);
        return Enumerable.Range(0, most + 1).Select(i => (first + i) * step).TakeWhile(v => v <= High + 1e-9 * step);
    }
}
