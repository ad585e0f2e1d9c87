using System.Collections.Immutable;
using GateSplit.Core.Views;

namespace GateSplit.Core.Drawing;

/// <summary>
/// Where everything of a split stands on paper: elements, the gate with its openings, the recorder's inputs, the
/// tracks, and the rails between them. Numbers only; the page makes strokes of them.
/// </summary>
public sealed record SplitDrawing
{
    /// <summary>Width of the drawing.</summary>
    public const double Width = 1000;

    /// <summary>Where rails leave the elements.</summary>
    public const double ElementX = 226;

    /// <summary>The wall.</summary>
    public const double GateX = 424;

    /// <summary>Where rails reach the recorder's inputs.</summary>
    public const double InputX = 506;

    /// <summary>Where rails leave the inputs.</summary>
    public const double InputEndX = 634;

    /// <summary>Where rails reach the tracks.</summary>
    public const double TrackX = 762;

    /// <summary>Distance between rows.</summary>
    public const double Row = 26;

    /// <summary>Distance of the two strokes of a pair from their middle.</summary>
    public const double PairOffset = 2.5;

    private SplitDrawing()
    {
    }

    /// <summary>Height of the drawing.</summary>
    public required double Height { get; init; }

    /// <summary>The headings.</summary>
    public required ImmutableArray<DrawnUnit> Units { get; init; }

    /// <summary>The left column.</summary>
    public required ImmutableArray<DrawnElement> Elements { get; init; }

    /// <summary>Groups drawn as one row.</summary>
    public required ImmutableArray<DrawnFold> Folds { get; init; }

    /// <summary>The gate and the inputs.</summary>
    public required ImmutableArray<DrawnPort> Ports { get; init; }

    /// <summary>The right column.</summary>
    public required ImmutableArray<DrawnTrack> Tracks { get; init; }

    /// <summary>The strokes.</summary>
    public required ImmutableArray<DrawnRail> Rails { get; init; }

    /// <summary>Where several elements merge.</summary>
    public required ImmutableArray<Point> Junctions { get; init; }

    /// <summary>Where a signal goes nowhere.</summary>
    public required ImmutableArray<Point> BufferStops { get; init; }

    /// <summary>Pairs of rails that change order between two columns.</summary>
    public required int Crossings { get; init; }

    /// <summary>Draws a split.</summary>
    /// <param name="view">The split.</param>
    /// <param name="wish">What of it.</param>
    public static SplitDrawing Of(SplitView view, DrawingWish wish)
    {
        var numbers = view.Split.Tracks.Select((t, i) => (t.Id, Number: i + 1)).ToDictionary(t => t.Id, t => t.Number);
        var seen = wish.Pass is { } pass ? view.InPass(pass) : view;
        var layout = new DrawingLayout(seen, wish, numbers);
        var rails = new DrawingRails(seen, layout);
        return new SplitDrawing
        {
            Height = layout.Height,
            Units = layout.Units,
            Elements = layout.Elements,
            Folds = layout.Folds,
            Ports = layout.Ports,
            Tracks = layout.Tracks,
            Rails = rails.Rails,
            Junctions = rails.Junctions,
            BufferStops = rails.BufferStops,
            Crossings = rails.Crossings,
        };
    }

    /// <summary>Counts the pairs whose order on the right contradicts that on the left.</summary>
    /// <param name="ends">Heights of both ends of each rail.</param>
    public static int CountCrossings(IReadOnlyList<(double Left, double Right)> ends)
    {
        var count = 0;
        for (var a = 0; a < ends.Count; a++)
        {
            for (var b = a + 1; b < ends.Count; b++)
            {
                if ((ends[a].Left - ends[b].Left) * (ends[a].Right - ends[b].Right) < 0)
                {
                    count++;
                }
            }
        }

        return count;
    }
}
