using CsCheck;
using GateSplit.Core.Charts;
using GateSplit.Core.Drawing;
using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

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
        var loop = new Track(new TrackId("t90"), "Echo", Width.Mono) { Input = new InputRef(new BankId("buses"), 1), Bus = new InputRef(new BankId("buses"), 1) };
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
    public void A_folded_group_is_one_row_and_takes_its_ports_and_tracks_with_it()
    {
        var (split, song) = Sessions.Laid(TansyGrid.Chart);
        var view = Sessions.View(split, song);
        var whole = SplitDrawing.Of(view, new DrawingWish());
        var folded = SplitDrawing.Of(view, new DrawingWish { Folded = ["u1/Group A"] });
        var fold = Assert.Single(folded.Folds);
        Assert.Equal(("Group A", 12, 12), (fold.Name, fold.Elements, fold.Tracks));
        Assert.Equal("1-12", fold.Ports);
        Assert.Equal(whole.Elements.Length - 12, folded.Elements.Length);
        Assert.Equal(whole.Tracks.Length - 12, folded.Tracks.Length);
        Assert.Equal(whole.Tracks[^1].Number, folded.Tracks[^1].Number); // tracks keep their numbers
    }

    [Fact]
    public void One_pass_is_drawn_with_its_own_lines_only()
    {
        var (split, song) = Sessions.Laid(TansyGrid.Chart);
        var passes = Enumerable.Range(1, split.Passes).Select(p => SplitDrawing.Of(Sessions.View(split, song), new DrawingWish { Pass = p })).ToList();
        Assert.Equal([20, 20, 20, 12], passes.Select(p => p.Tracks.Length));
        Assert.All(passes, p => Assert.Equal(0, p.Crossings));
        Assert.Equal(21, passes[1].Tracks[0].Number);
    }

    [Fact]
    public void Only_the_lines_with_something_to_mend_are_drawn()
    {
        var view = Sessions.View(Sessions.Fog.Split, Sessions.Fog.Song);
        var drawing = SplitDrawing.Of(view, new DrawingWish { Only = [new Place("element:u1/tom-low"), new Place("port:u1/5")] });
        Assert.Equal(["Clap", "Low tom"], drawing.Elements.Select(e => e.Name));
        Assert.Equal([5, 8], drawing.Ports.Where(p => p.UnitId.Value == "u1" && !p.IsMain).Select(p => p.Number));
        Assert.Contains(drawing.Tracks, t => t.Track.Name == "Low tom");
        Assert.DoesNotContain(drawing.Tracks, t => t.Track.Name == "Kick");
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
        var clap = drawing.Ports.Single(p => p is { UnitId.Value: "u1", Number: 5 });
        Assert.Contains(drawing.BufferStops, s => s.Y == clap.At.Y && s.X > clap.At.X);
        var pair = drawing.Ports.Single(p => p is { UnitId.Value: "u2", Number: 2 });
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

    [Theory]
    [InlineData(0, 3)]
    [InlineData(3, 0)]
    public void A_bus_goes_from_its_track_to_the_other_without_turning_back(int from, int to)
    {
        var bank = new Bank(new BankId("in9"), "Bus", BankKind.Buses, 2, null);
        var split = Sessions.Kit.Split with { Banks = Sessions.Kit.Split.Banks.Add(bank) };
        split = split.With(split.Tracks[from] with { Bus = new InputRef(bank.Id, 1) }).With(split.Tracks[to] with { Input = new InputRef(bank.Id, 1) });
        var drawing = SplitDrawing.Of(Sessions.View(split, Sessions.Kit.Song), new DrawingWish(WithSilent: true));
        var rail = Assert.Single(drawing.Rails, r => r.Places.SequenceEqual([Place.Of(split.Tracks[from]), Place.Of(split.Tracks[to])]));
        var heights = rail.Points.Select(p => p.Y).ToList();
        Assert.Equal(heights, from < to ? heights.Order() : heights.OrderDescending());
        Assert.Equal(RailKind.Line, rail.Kind);
    }

    [Fact]
    public void A_return_is_dashed_what_is_in_the_mix_alone_dotted_and_all_else_plain()
    {
        var hat = Sessions.Element(Sessions.Kit.Split, "hat");
        var split = Sessions.After(Sessions.Kit.Split, new AssignPort(hat, null));
        var rails = SplitDrawing.Of(Sessions.View(split, Sessions.Kit.Song), new DrawingWish()).Rails.Where(r => r.Points[0].X == SplitDrawing.ElementX).ToDictionary(r => r.Places[0]);
        Assert.Equal(RailKind.Return, rails[Place.Of(Sessions.Element(split, "hall"))].Kind);
        Assert.Equal(RailKind.Main, rails[Place.Of(hat)].Kind);
        Assert.Equal(RailKind.Main, rails[Place.Of(Sessions.Element(split, "kick-in"))].Kind); // it never had a port of its own
        Assert.Equal(9, rails.Values.Count(r => r.Kind == RailKind.Line));
    }

    [Fact]
    public void Tracks_that_hear_themselves_are_joined_by_loops_and_a_track_they_feed_by_a_line()
    {
        // One feeds two, two feeds one and three.
        var bank = new Bank(new BankId("in9"), "Bus", BankKind.Buses, 3, null);
        InputRef At(int channel) => new(bank.Id, channel);
        var split = Sessions.Kit.Split with { Banks = Sessions.Kit.Split.Banks.Add(bank) };
        var (one, two, three) = (split.Tracks[0].Id, split.Tracks[1].Id, split.Tracks[2].Id);
        split = split.With(split.Tracks[0] with { Input = At(2), Bus = At(1) }).With(split.Tracks[1] with { Input = At(1), Bus = At(2) }).With(split.Tracks[2] with { Input = At(2) });
        var rails = SplitDrawing.Of(Sessions.View(split, Sessions.Kit.Song), new DrawingWish(WithSilent: true)).Rails.Where(r => r.Points[0].X == SplitDrawing.TrackX).ToList();
        RailKind Kind(TrackId from, TrackId to) => Assert.Single(rails, r => r.Places.SequenceEqual([Place.Of(from), Place.Of(to)])).Kind;
        Assert.Equal((RailKind.Loop, RailKind.Loop, RailKind.Line), (Kind(one, two), Kind(two, one), Kind(two, three)));
        Assert.Equal(3, rails.Select(r => r.Points.Min(p => p.X)).Distinct().Count()); // none upon another
    }

    [Fact]
    public void Two_rails_cross_where_their_order_changes_and_nowhere_else()
    {
        var ports = Sessions.Kit.Split.Units[0].Chart.Ports.Select(p => p.Number).ToArray();
        Gen.Shuffle(ports).Select(Gen.Shuffle(ports)).Sample(
            (leaves, listens) =>
            {
                var split = Sessions.Kit.Split;
                var unit = split.Units[0];
                split = split.With(unit with { Elements = [.. unit.Elements.Select((e, i) => e with { Port = leaves[i] })] });
                split = split with { Tracks = [.. split.Tracks.Select((t, i) => t with { Width = Width.Mono, Input = new InputRef(new BankId("b-u1"), 2 * listens[i] - 1) })] };
                var drawing = SplitDrawing.Of(Sessions.View(split, Sessions.Kit.Song), new DrawingWish(WithSilent: true));
                var crossings = 0;
                foreach (var rails in new[] { SplitDrawing.ElementX, SplitDrawing.InputEndX }.Select(x => drawing.Rails.Where(r => r.Points[0].X == x).ToList()))
                {
                    Assert.Equal(12, rails.Count);
                    for (var a = 0; a < rails.Count; a++)
                    {
                        for (var b = a + 1; b < rails.Count; b++)
                        {
                            var (one, other) = (rails[a].Points, rails[b].Points);
                            var turned = one[0].Y < other[0].Y != one[^1].Y < other[^1].Y;
                            Assert.Equal(turned, Meet(one, other));
                            crossings += turned ? 1 : 0;
                        }
                    }
                }

                Assert.Equal(crossings, drawing.Crossings);
            },
            iter: 100);
    }

    private static bool Meet(IReadOnlyList<Point> one, IReadOnlyList<Point> other) =>
        one.Zip(one.Skip(1)).Any(s => other.Zip(other.Skip(1)).Any(t => Meet(s.First, s.Second, t.First, t.Second)));

    /// <summary>True if two strokes have a point in common: each has its ends on both sides of the other, or on it.</summary>
    private static bool Meet(Point a, Point b, Point c, Point d)
    {
        static double Side(Point p, Point q, Point r) => (q.X - p.X) * (r.Y - p.Y) - (q.Y - p.Y) * (r.X - p.X);
        static bool Apart(double a, double b, double c, double d) => Math.Max(a, b) < Math.Min(c, d) - 1e-9 || Math.Max(c, d) < Math.Min(a, b) - 1e-9;
        return !Apart(a.X, b.X, c.X, d.X) && !Apart(a.Y, b.Y, c.Y, d.Y) && Side(a, b, c) * Side(a, b, d) <= 1e-9 && Side(c, d, a) * Side(c, d, b) <= 1e-9;
    }
}
