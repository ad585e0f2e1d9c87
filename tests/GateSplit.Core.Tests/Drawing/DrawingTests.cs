using CsCheck;
using GateSplit.Core.Charts;
using GateSplit.Core.Drawing;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Drawing;

public sealed class DrawingTests
{
    [Fact]
    public void A_laid_kit_is_all_straight_rails_without_a_crossing()
    {
        var drawing = SplitDrawing.Of(Sessions.View(Sessions.Kit.Split, Sessions.Kit.Song), new DrawingWish());
        Assert.Equal(0, drawing.Crossings);
        Assert.All(drawing.Rails.Where(r => r.Points[0].X == SplitDrawing.ElementX), r => Assert.Equal(r.Points[0].Y, r.Points[^1].Y));
        Assert.Empty(drawing.BufferStops);
    }

    [Fact]
    public void Every_stroke_is_horizontal_vertical_or_at_45_degrees()
    {
        var loop = new Track("t90", "Echo", Width.Mono) { Input = new InputRef("buses", 1), Bus = new InputRef("buses", 1) };
        var split = Sessions.After(Sessions.Fog.Split, new AddTrack(loop));
        foreach (var rail in SplitDrawing.Of(Sessions.View(split, Sessions.Fog.Song), new DrawingWish(WithSilent: true)).Rails)
        {
            foreach (var (a, b) in rail.Points.Zip(rail.Points.Skip(1)))
            {
                var (dx, dy) = (Math.Abs(a.X - b.X), Math.Abs(a.Y - b.Y));
                Assert.True(dx < 1e-9 || dy < 1e-9 || Math.Abs(dx - dy) < 1e-9, $"{a} to {b}");
            }
        }
    }

    [Fact]
    public void Crossings_of_a_permutation_are_its_inversions()
    {
        Gen.Shuffle(Enumerable.Range(0, 9).ToArray()).Sample(order =>
        {
            // Bubble sort needs exactly as many swaps of neighbours as there are inversions.
            var list = order.ToArray();
            var swaps = 0;
            for (var pass = 0; pass < list.Length; pass++)
            {
                for (var i = 0; i + 1 < list.Length; i++)
                {
                    if (list[i] > list[i + 1])
                    {
                        (list[i], list[i + 1]) = (list[i + 1], list[i]);
                        swaps++;
                    }
                }
            }

            return SplitDrawing.CountCrossings([.. order.Select((to, from) => ((double)from, (double)to))]) == swaps;
        });
    }

    [Fact]
    public void A_port_nobody_hears_ends_in_a_buffer_stop_and_a_merge_has_a_junction()
    {
        var drawing = SplitDrawing.Of(Sessions.View(Sessions.Fog.Split, Sessions.Fog.Song), new DrawingWish());
        var clap = drawing.Ports.Single(p => p is { UnitId: "u1", Number: 5 });
        Assert.Contains(drawing.BufferStops, s => s.Y == clap.At.Y && s.X > clap.At.X);
        var pair = drawing.Ports.Single(p => p is { UnitId: "u2", Number: 2 });
        Assert.Contains(pair.At, drawing.Junctions);
    }

    [Fact]
    public void No_two_elements_or_tracks_share_a_row()
    {
        var drawing = SplitDrawing.Of(Sessions.View(Sessions.Fog.Split, Sessions.Fog.Song), new DrawingWish(WithSilent: true));
        Assert.Equal(drawing.Elements.Length, drawing.Elements.Select(e => e.At.Y).Distinct().Count());
        Assert.Equal(drawing.Tracks.Length, drawing.Tracks.Select(t => t.At.Y).Distinct().Count());
        Assert.All(drawing.Tracks, t => Assert.True(t.At.Y < drawing.Height));
    }
}
