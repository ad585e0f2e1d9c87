using GateSplit.Core.Quantities;

namespace GateSplit.Core.Splits;

/// <summary>Where a control stands at a place of the music.</summary>
/// <param name="Bar">From 1; 3.5 is the middle of the third bar.</param>
/// <param name="Value">In the unit of the control.</param>
public sealed record RidePoint(double Bar, double Value)
{
    private static readonly char[] Between = [',', ';', '\n'];

    /// <summary>Reads points as people write them, "1 -6, 2.5 0, 4 -12": bar and value.</summary>
    /// <returns>The points in the order in which they stand; or a sentence.</returns>
    public static Result<IReadOnlyList<RidePoint>> ReadAll(string text)
    {
        var points = new List<RidePoint>();
        foreach (var pair in text.Split(Between, StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            if (pair.Split(' ', StringSplitOptions.RemoveEmptyEntries) is not [var bar, var value]
                || NumberText.Read(bar) is not { } at || NumberText.Read(value) is not { } stands)
            {
                return new Refusal($"A ride is written as bar and value, one after the other: 1 0, 2.5 -6. This does not fit: {pair}");
            }

            points.Add(new RidePoint(at, stands));
        }

        return points;
    }
}
