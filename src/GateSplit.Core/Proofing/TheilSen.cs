namespace GateSplit.Core.Proofing;

/// <summary>A straight line through points of which many may be wrong: the median of all slopes (Theil; Sen).</summary>
internal static class TheilSen
{
    /// <summary>Fits it.</summary>
    /// <param name="points">At least one; those of one place count as one slope less.</param>
    public static (double Start, double Slope) Fit(IReadOnlyList<(double At, double Value)> points)
    {
        var slopes = new List<double>();
        for (var i = 0; i < points.Count; i++)
        {
            for (var j = i + 1; j < points.Count; j++)
            {
                if (points[j].At != points[i].At)
                {
                    slopes.Add((points[j].Value - points[i].Value) / (points[j].At - points[i].At));
                }
            }
        }

        var slope = slopes.Count == 0 ? 0 : Median(slopes);
        return (Median([.. points.Select(p => p.Value - slope * p.At)]), slope);
    }

    /// <summary>The middle value, or the mean of the two in the middle.</summary>
    public static double Median(IReadOnlyList<double> values)
    {
        var sorted = values.Order().ToList();
        return (sorted[(sorted.Count - 1) / 2] + sorted[sorted.Count / 2]) / 2;
    }
}
