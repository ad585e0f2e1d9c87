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
    public void A_rail_between_two_columns_never_turns_back_on_its_way()
    {
        var split = Sessions.After(Sessions.Fog.Split, new MoveTrack(Sessions.Fog.Split.Tracks[0].Id, 5), new MoveTrack(Sessions.Fog.Split.Tracks[^1].Id, -4));
        var rails = SplitDrawing.Of(Sessions.View(split, Sessions.Fog.Song), new DrawingWish(WithSilent: true)).Rails.Where(r => r.Points[0].X < r.Points[^1].X).ToList();
        Assert.Contains(rails, r => r.Points[^1].Y - r.Points[0].Y > 14);
        Assert.Contains(rails, r => r.Points[^1].Y - r.Points[0].Y < -14);
        foreach (var (points, way) in rails.Select(r => (r.Points, Math.Sign(r.Points[^1].Y - r.Points[0].Y))))
        {
            Assert.All(points.Zip(points.Skip(1)), p => Assert.True(p.First.X <= p.Second.X && (p.Second.Y - p.First.Y) * way >= 0, string.Join(' ', points)));
        }
    }

    [Fact]
    public void Rails_turn_at_equal_distances_in_the_middle_of_their_column()
    {
        // Five of the twelve change rows between the columns: at a tenth, three tenths and so on of what two margins of 21 leave.
        ElementRef Of(string id) => new(new UnitId("u1"), new ElementId(id));
        var split = Sessions.After(Sessions.Kit.Split, new AssignPort(Of("tom1"), 7), new AssignPort(Of("tom2"), 8), new AssignPort(Of("tom3"), 6));
        var turns = SplitDrawing.Of(Sessions.View(split, Sessions.Kit.Song), new DrawingWish()).Rails
            .Where(r => r.Points[0].X == SplitDrawing.ElementX && r.Points.Length > 2).Select(r => r.Points[2].X).Order();
        var (left, width) = (SplitDrawing.ElementX + 21, SplitDrawing.GateX - SplitDrawing.ElementX - 42);
        Assert.Equal([left + 0.1 * width, left + 0.3 * width, left + 0.5 * width, left + 0.7 * width, left + 0.9 * width], turns, (a, b) => Math.Abs(a - b) < 1e-9);
    }

    [Theory]
    [InlineData(2, new[] { "tom1", "tom2" })]
    [InlineData(3, new string[0])]
    public void A_track_of_two_is_on_the_line_of_both_and_one_of_more_is_a_mix(int elements, string[] drawn)
    {
        ElementRef Of(string id) => new(new UnitId("u1"), new ElementId(id));
        Edit[] merge = [new AssignPort(Of("tom2"), 6), new AssignPort(Of("tom3"), 6)];
        var split = Sessions.After(Sessions.Kit.Split, merge[..(elements - 1)]);
        var drawing = SplitDrawing.Of(Sessions.View(split, Sessions.Kit.Song), new DrawingWish { Only = [new Place("track:t6")] });
        Assert.Equal(drawn, drawing.Elements.Select(e => e.Ref.ElementId.Value));
        Assert.Equal(["t6"], drawing.Tracks.Select(t => t.Track.Id.Value));
        Assert.Equal([6], drawing.Ports.Select(p => p.Number));
    }

    [Fact]
    public void Folds_stand_a_row_apart_below_all_that_is_shown_and_hide_the_ports_of_theirs_alone()
    {
        var (split, song) = Sessions.Laid(TansyGrid.Chart);
        var view = Sessions.View(split, song).InPass(1);
        var plain = SplitDrawing.Of(view, new DrawingWish { Pass = 1 });
        var fourth = SplitDrawing.Of(Sessions.View(split, song).InPass(4), new DrawingWish { Pass = 4 });
        Assert.All([plain, fourth], d => Assert.Equal(split.Units[0].Chart.Ports.Select(p => p.Number), d.Ports.Select(p => p.Number)));
        Assert.Equal((19, 15), (plain.Ports.Count(p => p.Used), fourth.Ports.Count(p => p.Used)));
        var folded = SplitDrawing.Of(view, new DrawingWish { Pass = 1, Folded = ["u1/Group A"] });
        Assert.Equal([1, .. Enumerable.Range(14, 7)], folded.Ports.Select(p => p.Number));
        Assert.Equal([3], SplitDrawing.Of(view, new DrawingWish { Pass = 1, Folded = ["u1/Group A"], Only = [Place.OfPort(new UnitId("u1"), 3)] }).Ports.Select(p => p.Number)); // it was asked for
        var nothingElse = SplitDrawing.Of(view, new DrawingWish { Pass = 1, Folded = ["u1/Group A", "u1/Group B"] });
        Assert.Equal((1, 2, 0, 1), (nothingElse.Units.Length, nothingElse.Folds.Length, nothingElse.Elements.Length, nothingElse.Ports.Length));
        var all = SplitDrawing.Of(Sessions.View(split, song), new DrawingWish { Folded = ["u1/Group A", "u1/Group B"] });
        Assert.Equal(["Group A", "Group B"], all.Folds.Select(f => f.Name));
        foreach (var drawing in new[] { folded, all })
        {
            var last = drawing.Elements.Select(e => e.At.Y).Concat(drawing.Ports.Select(p => p.At.Y)).Max();
            Assert.Equal(drawing.Folds.Select((_, i) => last + (i + 1) * SplitDrawing.Row), drawing.Folds.Select(f => f.At.Y));
        }
    }

    [Fact]
    public void An_element_stands_as_far_down_as_its_port_and_the_next_ones_below_it()
    {
        var kickOut = new ElementRef(new UnitId("u1"), new ElementId("kick-out"));
        var drawing = SplitDrawing.Of(Sessions.View(Sessions.After(Sessions.Kit.Split, new AssignPort(kickOut, 8)), Sessions.Kit.Song), new DrawingWish());
        var rows = drawing.Elements.Select(e => (e.At.Y - drawing.Ports[0].At.Y) / SplitDrawing.Row);
        Assert.Equal([0, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17], rows);

        // What is in the main mix only stands in front, as the microphone in the kick does.
        var hall = kickOut with { ElementId = new ElementId("hall") };
        var mixed = SplitDrawing.Of(Sessions.View(Sessions.After(Sessions.Kit.Split, new AssignPort(hall, null)), Sessions.Kit.Song), new DrawingWish());
        Assert.Equal(["kick-in", "hall", "kick-out"], mixed.Elements.Select(e => e.Ref.ElementId.Value).Take(3));
        var asked = SplitDrawing.Of(Sessions.View(Sessions.Kit.Split.With(hall.UnitId, Sessions.Kit.Split.Units[0].Element(hall.ElementId) with { Port = 1 }), Sessions.Kit.Song), new DrawingWish());
        Assert.Equal("hall", asked.Elements[^1].Ref.ElementId.Value); // it was given that port as any other
    }

    [Fact]
    public void A_rail_leaves_a_port_that_carries_something_and_is_open_and_no_other()
    {
        int[] Leaving(Split split, (Split Split, Core.Notes.Song Song) session) =>
        [
            .. SplitDrawing.Of(Sessions.View(split, session.Song), new DrawingWish()).Rails
                .Where(r => r.Points[0].X == SplitDrawing.GateX).Select(r => int.Parse(r.Places.Single().Key.Split('/')[1])),
        ];
        var ride = new ElementRef(new UnitId("u1"), new ElementId("ride"));
        Assert.Equal([1, 2, 3, 4, 5, 6, 7, 8, 10, 11, 12], Leaving(Sessions.After(Sessions.Kit.Split, new AssignPort(ride, null), new SetInMain(ride, false)), Sessions.Kit));

        // Set to its mix only, the drum machine has its other ports closed.
        Assert.Equal([1], Leaving(Sessions.After(Sessions.Drums.Split, new SetMode(new UnitId("u1"), new ModeId("mix"))), Sessions.Drums));
    }

    [Fact]
    public void A_fold_takes_a_track_with_it_only_if_all_on_it_is_folded()
    {
        var hat = new ElementRef(new UnitId("u1"), new ElementId("hat"));
        DrawnFold Toms(Split split) => SplitDrawing.Of(Sessions.View(split, Sessions.Kit.Song), new DrawingWish { Folded = ["u1/Toms"] }).Folds.Single();
        Assert.Equal((3, 3, "6-8"), (Toms(Sessions.Kit.Split).Elements, Toms(Sessions.Kit.Split).Tracks, Toms(Sessions.Kit.Split).Ports));
        var shared = Toms(Sessions.After(Sessions.Kit.Split, new AssignPort(hat, 6)));
        Assert.Equal((3, 2, "6-8"), (shared.Elements, shared.Tracks, shared.Ports));
        Assert.DoesNotContain(new Place("track:t6"), shared.Places);
        Assert.DoesNotContain(Place.OfPort(hat.UnitId, 6), shared.Places);
    }

    [Fact]
    public void A_tracks_rail_begins_at_the_port_of_the_source_that_feeds_it()
    {
        var view = Sessions.View(Sessions.Fog.Split, Sessions.Fog.Song);
        var drawing = SplitDrawing.Of(view, new DrawingWish());
        var fed = drawing.Tracks.Where(t => view.Signal.Into(t.Track.Id).Any()).ToList();
        Assert.Equal(2, fed.SelectMany(t => view.Signal.Into(t.Track.Id)).Select(f => f.UnitId).Distinct().Count());
        Assert.All(fed, t =>
        {
            var feed = view.Signal.Into(t.Track.Id).First();
            var rail = drawing.Rails.Single(r => r.Points[0].X == SplitDrawing.InputEndX && r.Places[0] == Place.Of(t.Track));
            var port = drawing.Ports.Single(p => p.UnitId == feed.UnitId && p.Number == feed.Port);
            Assert.Equal(Place.OfPort(feed.UnitId, feed.Port), rail.Places[1]);
            Assert.True(Math.Abs(rail.Points[0].Y - port.At.Y) < SplitDrawing.Row / 2);
        });
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
        Assert.Equal("2-13", fold.Ports);
        Assert.Equal(whole.Elements.Length - 12, folded.Elements.Length);
        Assert.Equal(whole.Tracks.Length - 12, folded.Tracks.Length);
        Assert.Equal(whole.Tracks[^1].Number, folded.Tracks[^1].Number); // tracks keep their numbers
    }

    [Fact]
    public void A_folded_group_has_the_family_of_its_first_element_and_counts_its_ports_upward()
    {
        var (split, song) = Sessions.Laid(TansyGrid.Chart);
        var chart = split.Units[0].Chart;
        var mixed = chart with { Elements = [.. chart.Elements.Select(e => e.Id.Value == "a1" ? e with { Family = Family.Bass } : e)] };
        var turned = Sessions.After(split with { Units = [split.Units[0] with { Chart = mixed }] }, new AssignPort(new(new UnitId("u1"), new ElementId("a2")), 4), new AssignPort(new(new UnitId("u1"), new ElementId("a3")), 3));
        var fold = Assert.Single(SplitDrawing.Of(Sessions.View(turned, song), new DrawingWish { Folded = ["u1/Group A"] }).Folds);
        Assert.Equal((Family.Bass, "2-13"), (fold.Family, fold.Ports));
    }

    [Theory]
    [InlineData(16, 8)]
    [InlineData(17, 9)]
    [InlineData(18, 9)]
    [InlineData(19, 10)]
    public void A_track_to_which_nothing_leads_stands_at_the_port_of_its_input(int input, int port)
    {
        // The ride has left port 9, whose pair arrives on 17 and 18.
        var (split, song) = Sessions.Kit;
        var ride = new ElementRef(new UnitId("u1"), new ElementId("ride"));
        var moved = Sessions.After(split, new AssignPort(ride, null), new SetInMain(ride, false), new AssignPort(new(new UnitId("u1"), new ElementId("tom3")), 1), new AssignPort(new(new UnitId("u1"), new ElementId("overheads")), 1), new SetTrackInput(new TrackId("t9"), new InputRef(new BankId("b-u1"), input)));
        var rail = SplitDrawing.Of(Sessions.View(moved, song), new DrawingWish()).Rails.Single(r => r.Points[0].X == SplitDrawing.InputEndX && r.Places.Contains(new Place("track:t9")));
        Assert.Contains(new Place($"port:u1/{port}"), rail.Places);
        Assert.Single(rail.Places, p => p.Key.StartsWith("port:", StringComparison.Ordinal));
    }

    [Fact]
    public void A_track_on_a_bus_that_nothing_feeds_has_no_rail()
    {
        var (split, song) = Sessions.Kit;
        var moved = Sessions.After(split, new SetTrackInput(new TrackId("t9"), new InputRef(new BankId("buses"), 3)));
        var drawing = SplitDrawing.Of(Sessions.View(moved, song), new DrawingWish());
        Assert.Contains(drawing.Tracks, t => t.Track.Id.Value == "t9");
        Assert.DoesNotContain(drawing.Rails, r => r.Places.Contains(new Place("track:t9")));
    }

    [Fact]
    public void A_line_that_goes_nowhere_is_drawn_as_far_as_it_goes()
    {
        var ride = new ElementRef(new UnitId("u1"), new ElementId("ride"));
        SplitDrawing Only(Split split, (Split, Core.Notes.Song Song) session, ElementRef element) =>
            SplitDrawing.Of(Sessions.View(split, session.Song), new DrawingWish { Only = [Place.Of(element)] });

        // Without a port and out of the mix: the element alone, and a buffer stop behind it.
        var lost = Only(Sessions.After(Sessions.Kit.Split, new AssignPort(ride, null), new SetInMain(ride, false)), Sessions.Kit, ride);
        Assert.Equal((1, 1, 0, 1), (lost.Units.Length, lost.Elements.Length, lost.Ports.Length, lost.BufferStops.Length));

        // With its port closed: the element and that port.
        var kick = ride with { ElementId = new ElementId("kick") };
        var closed = Only(Sessions.After(Sessions.Drums.Split, new SetMode(ride.UnitId, new ModeId("mix"))), Sessions.Drums, kick);
        Assert.Contains(closed.Ports, p => p.Number == Sessions.Drums.Split.Units[0].Element(kick.ElementId).Port && !p.Open);

        // A main mix that nobody takes is no mistake.
        var drums = SplitDrawing.Of(Sessions.View(Sessions.Drums.Split, Sessions.Drums.Song), new DrawingWish());
        Assert.Contains(drums.Ports, p => p.IsMain && p.Used && !p.Heard);
        Assert.Empty(drums.BufferStops);
    }

    [Fact]
    public void One_pass_is_drawn_with_its_own_lines_only()
    {
        var (split, song) = Sessions.Laid(TansyGrid.Chart);
        var passes = Enumerable.Range(1, split.Passes).Select(p => SplitDrawing.Of(Sessions.View(split, song), new DrawingWish { Pass = p })).ToList();
        Assert.Equal([19, 19, 19, 15], passes.Select(p => p.Tracks.Length));
        Assert.All(passes, p => Assert.Equal(0, p.Crossings));
        Assert.Equal(20, passes[1].Tracks[0].Number);
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

    [Fact]
    public void A_source_of_one_line_stands_where_it_is_worked_out_by_hand()
    {
        var (split, song) = Sessions.Laid(SiskinMono.Chart);
        var drawing = SplitDrawing.Of(Sessions.View(split, song), new DrawingWish());

        // Ten down to the heading, 34 below it the first row; a row is 26, and 0.7 of one stands below the last.
        var unit = Assert.Single(drawing.Units);
        Assert.Equal((10, 44 + 0.7 * 26, "Siskin Mono", "Stereo", 0), (unit.Top, unit.Bottom, unit.Name, unit.Mode, unit.Hidden));
        var element = Assert.Single(drawing.Elements);
        Assert.Equal((new Point(226, 44), 1, true, Width.Stereo, Family.Lead, "Siskin lead"), (element.At, element.Port, element.Sounds, element.Width, element.Family, element.Name));
        var port = Assert.Single(drawing.Ports);
        Assert.Equal((new Point(424, 44), 1, "Output", "Return 1-2", new InputRef(new BankId("b-u1"), 1)), (port.At, port.Number, port.Name, port.InputName, port.Input));
        Assert.True(port is { IsMain: true, Open: true, Used: true, Heard: true, Width: Width.Stereo });
        var track = Assert.Single(drawing.Tracks);
        Assert.Equal((new Point(762, 44), 1, Family.Lead, "Return 1-2"), (track.At, track.Number, track.Family, track.InputName));
        Assert.Equal(44 + 26 + 14, drawing.Height);
        Assert.Equal(
            [(RailKind.Main, "(226,44) (424,44)"), (RailKind.Line, "(424,44) (506,44)"), (RailKind.Line, "(634,44) (762,44)")],
            drawing.Rails.Select(r => (r.Kind, string.Join(' ', r.Points.Select(p => $"({p.X},{p.Y})")))));
        Assert.Empty(drawing.Junctions);
    }

    [Fact]
    public void Everything_stands_level_with_what_it_leads_to_unless_a_row_before_it_is_in_the_way()
    {
        var split = Sessions.After(Sessions.Fog.Split, new MoveTrack(Sessions.Fog.Split.Tracks[^1].Id, -4));
        var drawing = SplitDrawing.Of(Sessions.View(split, Sessions.Fog.Song), new DrawingWish());
        var above = double.NegativeInfinity;
        foreach (var track in drawing.Tracks)
        {
            var level = drawing.Rails.FirstOrDefault(r => r.Points[0].X == SplitDrawing.InputEndX && r.Places[0] == Place.Of(track.Track));
            var port = level is null ? null : drawing.Ports.First(p => level.Places.Contains(Place.OfPort(p.UnitId, p.Number)));
            Assert.Equal(Math.Max(Math.Max(above + 26, 44), port?.At.Y ?? 0), track.At.Y);
            above = track.At.Y;
        }

        foreach (var unit in drawing.Units)
        {
            var ports = drawing.Ports.Where(p => p.UnitId == unit.UnitId).ToList();
            Assert.Equal(ports.Select((_, i) => unit.Top + 34 + 26 * i), ports.Select(p => p.At.Y));
            Assert.All(drawing.Elements.Where(e => e.Ref.UnitId == unit.UnitId), e => Assert.InRange(e.At.Y, unit.Top + 34, unit.Bottom - 18));
        }

        Assert.Equal(drawing.Units.Skip(1).Select(u => u.Top), drawing.Units.SkipLast(1).Select(u => u.Bottom + 6));
    }

    [Fact]
    public void What_is_silent_is_hidden_and_counted_unless_it_is_wished_or_was_given_a_port()
    {
        var (split, song) = Sessions.Fog;
        var view = Sessions.View(split, song);
        var silent = view.Elements.Where(e => e.Unit.Id.Value == "u1" && !view.Sounding.Contains(e.Ref)).Select(e => e.Chart.Name).ToList();
        Assert.NotEmpty(silent);
        var plain = SplitDrawing.Of(view, new DrawingWish());
        Assert.Equal(silent.Count, plain.Units[0].Hidden);
        Assert.DoesNotContain(plain.Elements, e => e.Ref.UnitId.Value == "u1" && silent.Contains(e.Name));
        var whole = SplitDrawing.Of(view, new DrawingWish(WithSilent: true));
        Assert.Equal(0, whole.Units[0].Hidden);
        Assert.All(silent, name => Assert.False(whole.Elements.Single(e => e.Ref.UnitId.Value == "u1" && e.Name == name).Sounds));

        // Horn is silent in this song; a port given to it by hand shows it.
        var horn = new ElementRef(new UnitId("u2"), new ElementId("horn"));
        Assert.DoesNotContain(plain.Elements, e => e.Ref == horn);
        var given = Sessions.After(split, new AssignPort(horn, 4));
        Assert.Contains(SplitDrawing.Of(Sessions.View(given, song), new DrawingWish()).Elements, e => e.Ref == horn);
    }

    [Fact]
    public void A_mono_track_leaves_a_pair_on_its_side_and_lost_signals_end_a_little_way_on()
    {
        var kit = Sessions.Kit.Split;
        var hat = kit.Tracks[4];
        IReadOnlyList<Point> Rail(int channel) => SplitDrawing.Of(Sessions.View(kit.With(hat with { Input = hat.Input! with { Channel = channel } }), Sessions.Kit.Song), new DrawingWish())
            .Rails.Single(r => r.Points[0].X == SplitDrawing.InputEndX && r.Places[0] == Place.Of(hat)).Points;
        var level = Rail(9)[^1].Y;
        Assert.Equal((level - 2.5, level + 2.5), (Rail(9)[0].Y, Rail(10)[0].Y));

        var lost = Sessions.After(kit, new RemoveTrack(hat.Id));
        var drawing = SplitDrawing.Of(Sessions.View(lost, Sessions.Kit.Song), new DrawingWish());
        Assert.Equal(new Point(424 + 44, drawing.Ports.Single(p => p.Number == 5).At.Y), Assert.Single(drawing.BufferStops));
        var nowhere = Sessions.After(kit, new AssignPort(Sessions.Element(kit, "hat"), null), new SetInMain(Sessions.Element(kit, "hat"), false));
        drawing = SplitDrawing.Of(Sessions.View(nowhere, Sessions.Kit.Song), new DrawingWish());
        Assert.Equal(drawing.Elements.Single(e => e.Name == "Hat").At with { X = 226 + 24 }, Assert.Single(drawing.BufferStops));
    }

    [Fact]
    public void A_bus_goes_out_eight_below_its_track_and_each_further_one_eight_to_the_left()
    {
        var bank = new Bank(new BankId("in9"), "Bus", BankKind.Buses, 4, null);
        InputRef At(int channel) => new(bank.Id, channel);
        var split = Sessions.Kit.Split with { Banks = Sessions.Kit.Split.Banks.Add(bank) };
        split = split.With(split.Tracks[0] with { Bus = At(1) }).With(split.Tracks[1] with { Bus = At(2) }).With(split.Tracks[2] with { Input = At(1) }).With(split.Tracks[3] with { Input = At(2) });
        var drawing = SplitDrawing.Of(Sessions.View(split, Sessions.Kit.Song), new DrawingWish());
        var rails = drawing.Rails.Where(r => r.Points[0].X == SplitDrawing.TrackX).ToList();
        string Text(DrawnRail rail, DrawnTrack from, DrawnTrack to) => string.Join(' ', rail.Points.Select(p => $"{p.X}:{(p.Y < (from.At.Y + to.At.Y) / 2 ? p.Y - from.At.Y : p.Y - to.At.Y)}"));
        Assert.Equal("762:8 746:8 742:12 742:-4 746:0 762:0", Text(rails[0], drawing.Tracks[0], drawing.Tracks[2]));
        Assert.Equal("762:8 738:8 734:12 734:-4 738:0 762:0", Text(rails[1], drawing.Tracks[1], drawing.Tracks[3]));

        // Into itself: out below and back in.
        var self = Sessions.Kit.Split with { Banks = split.Banks };
        self = self.With(self.Tracks[2] with { Input = At(1), Bus = At(1) });
        drawing = SplitDrawing.Of(Sessions.View(self, Sessions.Kit.Song), new DrawingWish());
        var loop = Assert.Single(drawing.Rails, r => r.Kind == RailKind.Loop);
        Assert.Equal("762:8 746:8 742:4 742:4 746:0 762:0", string.Join(' ', loop.Points.Select(p => $"{p.X}:{p.Y - drawing.Tracks[2].At.Y}")));
    }

    [Fact]
    public void Each_family_has_a_glyph_and_a_name_of_its_own()
    {
        var families = Enum.GetValues<Family>();
        Assert.Equal(["LD", "SN", "HC", "TP", "BA", "KY", "LE", "RR"], families.Select(Glyphs.Of));
        Assert.Equal(["low drum", "snare", "hat and cymbal", "tom and percussion", "bass", "keys", "lead", "room and return"], families.Select(Glyphs.Name));
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
