using CsCheck;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Signal;

public sealed class SignalTests
{
    private static readonly Split Kit = Sessions.Kit.Split;
    private static readonly Split Drums = Sessions.Drums.Split;

    [Fact]
    public void Pan_is_equal_power_and_exact_at_its_ends()
    {
        Assert.Equal(new Gain2x2(1, 0, 0, 0), Gain2x2.Panned(new Pan(-1)));
        Assert.Equal(new Gain2x2(0, 0, 1, 0), Gain2x2.Panned(new Pan(1)));
        var centre = Gain2x2.Panned(new Pan(0));
        Assert.Equal(-3.0103, 20 * Math.Log10(centre.LL), 0.0001);
        Assert.Equal(centre.LL, centre.RL, 1e-15);
        Gen.Double[-1, 1].Sample(pan => Math.Abs(Math.Pow(Gain2x2.Panned(new Pan(pan)).LL, 2) + Math.Pow(Gain2x2.Panned(new Pan(pan)).RL, 2) - 1) < 1e-12);
    }

    [Theory]
    [InlineData(-3, 1, -2, 2)]
    [InlineData(2, -3, 1, -2)]
    [InlineData(-2, 2, -3, 1)]
    [InlineData(1, -2, 2, -3)]
    [InlineData(3, 0, 0, 0)]
    [InlineData(0, 0, 3, 0)]
    public void The_largest_of_four_gains_counts_whatever_its_polarity(double ll, double lr, double rl, double rr) =>
        Assert.Equal(3, new Gain2x2(ll, lr, rl, rr).Largest);

    [Theory]
    [InlineData(1, 0, 0, 0, true, false)]
    [InlineData(0, 1, 0, 0, true, false)]
    [InlineData(0, 0, 1, 0, false, true)]
    [InlineData(0, 0, 0, 1, false, true)]
    [InlineData(0, 0, 0, 0, false, false)]
    public void A_path_reaches_the_side_into_which_either_of_its_gains_leads(double ll, double lr, double rl, double rr, bool left, bool right)
    {
        var gain = new Gain2x2(ll, lr, rl, rr);
        Assert.Equal((left, right, !left && !right), (gain.ReachesLeft, gain.ReachesRight, gain.IsZero));
    }

    [Fact]
    public void A_pair_passes_unchanged_or_half_of_each_side_into_one_channel()
    {
        Assert.Equal(new Gain2x2(1, 0, 0, 1), Gain2x2.Unity);
        Assert.Equal(new Gain2x2(0.5, 0.5, 0, 0), Gain2x2.SumToMono);
    }

    [Fact]
    public void A_pair_is_one_feed_of_both_sides_and_a_port_that_arrives_late_besides_is_another()
    {
        var room = Sessions.TrackOf(Kit, "Room");
        Assert.Equal((11, Gain2x2.Unity), SplitSignal.Of(Kit).Into(room.Id).Select(f => (f.Port, f.Gain)).Single());
        var across = Sessions.After(Kit, new SetTrackInput(room.Id, room.Input! with { Channel = room.Input.Channel + 1 })); // right of 11, left of 12
        Assert.Equal([(11, new Gain2x2(0, 1, 0, 0)), (12, new Gain2x2(0, 0, 1, 0))], SplitSignal.Of(across).Into(room.Id).Select(f => (f.Port, f.Gain)));
        var halves = Kit with { Cables = [new Cable(new UnitId("u1"), 21, new InputRef(new BankId("in1"), 1)), new Cable(new UnitId("u1"), 21, new InputRef(new BankId("in1"), 2))], Banks = Kit.Banks.Add(new Bank(new BankId("in1"), "Socket", BankKind.Analog, 2, null)) };
        Assert.Equal([(11, new Gain2x2(1, 0, 1, 0))], SplitSignal.Of(halves.With(room with { Input = new InputRef(new BankId("in1"), 1) })).Into(room.Id).Select(f => (f.Port, f.Gain)));
    }

    [Fact]
    public void Two_sources_on_one_pair_are_two_feeds_though_their_ports_have_one_number()
    {
        var pair = new InputRef(new BankId("in1"), 1);
        var split = StartingSplit.Of([MudlarkNine.Chart, MudlarkNine.Chart], 4, 48000);
        split = split with
        {
            Banks = split.Banks.Add(new Bank(pair.BankId, "Back", BankKind.Loopback, 2, null)),
            Cables = [new Cable(new UnitId("u1"), 1, pair), new Cable(new UnitId("u2"), 1, pair)],
            Tracks = [new Track(new TrackId("t1"), "Both", Width.Stereo) { Input = pair }],
        };
        Assert.Equal([("u1", 1, Gain2x2.Unity with { RR = 0 }), ("u2", 1, Gain2x2.Unity with { RR = 0 })], SplitSignal.Of(split).Into(new TrackId("t1")).Select(f => (f.UnitId.Value, f.Port, f.Gain)));
    }

    [Fact]
    public void A_loop_is_told_in_the_order_of_the_sound_and_without_what_hangs_on_it()
    {
        TrackId[] t = [.. Enumerable.Range(1, 5).Select(n => new TrackId(n))];

        // Three hear each other in a circle; the first also feeds two that do not.
        Assert.Equal([t[0], t[1], t[2]], Assert.Single(LoopFinder.Find([.. t], [(t[0], t[3]), (t[0], t[1]), (t[3], t[4]), (t[1], t[2]), (t[2], t[0])])));
        Assert.Equal([t[1]], Assert.Single(LoopFinder.Find([.. t], [(t[0], t[1]), (t[1], t[1]), (t[1], t[2])])));
        Assert.Equal([[t[0], t[1]], [t[3], t[4]]], LoopFinder.Find([.. t], [(t[4], t[3]), (t[3], t[4]), (t[1], t[0]), (t[0], t[1]), (t[1], t[3])]).OrderBy(l => l[0].Number).Select(l => l.ToArray()));
    }

    [Fact]
    public void What_feeds_a_track_over_buses_is_found_to_the_first_and_nothing_else()
    {
        // One feeds two, two feeds three; four is fed by three and five by nobody.
        var split = Sessions.Drums.Split;
        InputRef At(int channel) => new(new BankId("buses"), channel);
        split = split.With(split.Tracks[0] with { Bus = At(1) }).With(split.Tracks[1] with { Input = At(1), Bus = At(2) })
            .With(split.Tracks[2] with { Input = At(2), Bus = At(3) }).With(split.Tracks[3] with { Input = At(3) });
        var ids = split.Tracks.Select(t => t.Id).ToList();
        var signal = SplitSignal.Of(split);
        Assert.Equal(ids[..3].ToHashSet(), signal.WithFeeding([ids[2]]));
        Assert.Equal([ids[0]], signal.WithFeeding([ids[0]]));
        Assert.Equal(new[] { ids[0], ids[1], ids[4] }.ToHashSet(), signal.WithFeeding([ids[1], ids[4]]));
    }

    [Fact]
    public void A_return_sounds_where_something_that_sounds_is_sent_to_it()
    {
        // The only note is the hat's; in the kit it sends to the hall unless its send is taken away, the room has none.
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        writer.Hold(10, 36, 100, 0, 0.25);
        var song = Song.Of(writer.ToFile("One", 1));
        var kick = Kit.Units[0].Chart.Voices.First(v => v.Plays(10, 36)).Id;
        var own = Kit.Units[0].Chart.Elements.Where(e => e.Hears.Any(h => !h.Bleed && h.VoiceId == kick)).Select(e => e.Id).ToHashSet();
        Split WithSends(Func<UnitElement, bool> sends) => Kit.With(Kit.Units[0] with { Elements = [.. Kit.Units[0].Elements.Select(e => e with { SendDb = new Decibels(sends(e) ? -6 : -120), Muted = e.Muted || (!sends(e) && own.Contains(e.ElementId)) })] });
        var hall = Sessions.Element(Kit, "hall");
        Assert.Contains(hall, Sounding.Elements(WithSends(e => own.Contains(e.ElementId)), song));

        // What is muted sends nothing; what does not sound sends nothing that is heard.
        Assert.DoesNotContain(hall, Sounding.Elements(WithSends(e => !own.Contains(e.ElementId)), song));
    }

    [Fact]
    public void Balance_turns_only_the_far_side_down()
    {
        Assert.Equal(new Gain2x2(1, 0, 0, 0.75), Gain2x2.Balanced(new Pan(-0.25)));
        Assert.Equal(new Gain2x2(0.5, 0, 0, 1), Gain2x2.Balanced(new Pan(0.5)));
    }

    [Fact]
    public void Paths_multiply_like_matrices()
    {
        var g = Gen.Double[-2, 2];
        Gen.Select(g, g, g, g).Select(x => new Gain2x2(x.Item1, x.Item2, x.Item3, x.Item4)).Array[2].Select(Gen.Double[-1, 1].Array[2]).Sample((m, x) =>
        {
            (double L, double R) Through(Gain2x2 a, (double L, double R) v) => (a.LL * v.L + a.LR * v.R, a.RL * v.L + a.RR * v.R);
            var both = Through(m[1].After(m[0]), (x[0], x[1]));
            var one = Through(m[1], Through(m[0], (x[0], x[1])));
            return Math.Abs(both.L - one.L) < 1e-9 && Math.Abs(both.R - one.R) < 1e-9;
        });
    }

    [Fact]
    public void A_laid_kit_arrives_at_unity_each_on_its_own_track()
    {
        var signal = SplitSignal.Of(Kit);
        foreach (var track in Kit.Tracks)
        {
            var arrives = Assert.Single(signal.In(track.Id), c => !c.Gain.IsZero);
            Assert.Equal(track.Name, Kit.NameOf(arrives.Element));
            Assert.Equal(1, arrives.Gain.LL);
        }
    }

    [Fact]
    public void The_fader_is_printed_where_the_port_listens_after_it()
    {
        var split = Sessions.After(Drums, new SetFader(Sessions.Element(Drums, "kick"), new Decibels(-6)));
        var arrives = SplitSignal.Of(split).Reaching(Sessions.Element(split, "kick")).Single();
        Assert.Equal(-6, 20 * Math.Log10(arrives.Gain.LL), 1e-9);
        var before = Drums.Units[0].Chart;
        var tapped = split.With(split.Units[0] with
        {
            Chart = before with { Ports = [.. before.Ports.Select(p => p with { Tap = Tap.BeforeFader })] },
        });
        Assert.Equal(1, SplitSignal.Of(tapped).Reaching(Sessions.Element(split, "kick")).Single().Gain.LL);
    }

    [Fact]
    public void Two_elements_panned_hard_apart_on_one_pair_are_two_clean_channels()
    {
        var one = Sessions.Element(Kit, "tom1");
        var two = Sessions.Element(Kit, "tom2");
        var port = Kit.Units[0].Element(new ElementId("tom1")).Port!.Value;
        var second = Sessions.TrackOf(Kit, "Mid tom");
        var split = Sessions.After(Kit, new AssignPort(two, port), new SetPan(two, new Pan(1)), new SetTrackInput(second.Id, new InputRef(new BankId("b-u1"), 2 * port)));
        var signal = SplitSignal.Of(split);
        Assert.Equal(one, Assert.Single(signal.In(Sessions.TrackOf(split, "High tom").Id), c => !c.Gain.IsZero).Element);
        var clean = Assert.Single(signal.In(second.Id), c => !c.Gain.IsZero);
        Assert.Equal(two, clean.Element);
        Assert.Equal(1, clean.Gain.LL);
    }

    [Fact]
    public void A_mode_closes_ports_for_the_signal_too()
    {
        var split = Sessions.After(Drums, new SetMode(new UnitId("u1"), new ModeId("mix")));
        Assert.All(SplitSignal.Of(split).PortFeeds, f => Assert.Equal(1, f.Port));
    }

    [Fact]
    public void A_return_carries_what_is_sent_to_it_but_not_directly()
    {
        var hall = Sessions.TrackOf(Kit, "Hall return");
        var snare = SplitSignal.Of(Kit).Reaching(Sessions.Element(Kit, "snare-top")).Single(c => c.TrackId == hall.Id);
        Assert.True(snare.Gain.IsZero);

        // It leaves by the left side of its pair, but in the music it stands in the centre, and so does its send: 3.01 dB less on each side.
        Assert.Equal(-14 + 10 * Math.Log10(0.5), 20 * Math.Log10(snare.ThroughReturn.LL), 1e-9);
        Assert.Equal(-14 + 10 * Math.Log10(0.5), 20 * Math.Log10(snare.ThroughReturn.RL), 1e-9);
    }

    [Fact]
    public void Buses_carry_on_and_loops_are_found_with_their_way()
    {
        var kick = Drums.Tracks[0];
        var stem = new Track(new TrackId("t90"), "Stem", Width.Mono) { Input = new InputRef(new BankId("buses"), 1) };
        var split = Sessions.After(Drums, new SetTrackBus(kick.Id, new InputRef(new BankId("buses"), 1)), new AddTrack(stem));
        Assert.Contains(SplitSignal.Of(split).In(new TrackId("t90")), c => c.Element == Sessions.Element(split, "kick") && c.Gain.LL == 1);
        Assert.Empty(SplitSignal.Of(split).Loops);
        var two = new Track(new TrackId("t91"), "Two", Width.Mono) { Input = new InputRef(new BankId("buses"), 2), Bus = new InputRef(new BankId("buses"), 1) };
        var loop = Sessions.After(split, new AddTrack(two), new SetTrackBus(new TrackId("t90"), new InputRef(new BankId("buses"), 2)));
        Assert.Equal(["t90", "t91"], Assert.Single(SplitSignal.Of(loop).Loops).Select(i => i.Value));
        var quiet = Sessions.After(loop, new SetMonitor(new TrackId("t91"), MonitorMode.Never));
        Assert.Empty(SplitSignal.Of(quiet).Loops);
    }

    [Fact]
    public void Loops_agree_with_brute_force_over_all_small_graphs()
    {
        var edges = Gen.Select(Gen.Int[0, 4], Gen.Int[0, 4]).Array[0, 8];
        edges.Sample(list =>
        {
            TrackId[] nodes = [new("a"), new("b"), new("c"), new("d"), new("e")];
            var found = LoopFinder.Find([.. nodes], [.. list.Select(e => (nodes[e.Item1], nodes[e.Item2]))]);

            // Reachability by repeated squaring of the adjacency relation.
            var reach = new bool[5, 5];
            foreach (var (from, to) in list)
            {
                reach[from, to] = true;
            }

            for (var k = 0; k < 5; k++)
            {
                for (var i = 0; i < 5; i++)
                {
                    for (var j = 0; j < 5; j++)
                    {
                        reach[i, j] |= reach[i, k] && reach[k, j];
                    }
                }
            }

            var groups = Enumerable.Range(0, 5).Where(i => reach[i, i])
                .GroupBy(i => string.Concat(Enumerable.Range(0, 5).Where(j => reach[i, j] && reach[j, i]))).Count();
            var isPath = found.All(l => l.Zip([.. l.Skip(1), l[0]]).All(s => list.Any(e => nodes[e.Item1] == s.First && nodes[e.Item2] == s.Second)));
            return found.Length == groups && isPath;
        });
    }

    [Fact]
    public void Elements_sound_if_their_own_voice_has_notes_and_bleed_does_not_count()
    {
        var song = Sessions.Fog.Song;
        var sounding = Sounding.Elements(Sessions.Fog.Split, song);
        Assert.DoesNotContain(new ElementRef(new UnitId("u1"), new ElementId("rim")), sounding);
        Assert.Contains(new ElementRef(new UnitId("u1"), new ElementId("clap")), sounding);
        Assert.Contains(new ElementRef(new UnitId("u2"), new ElementId("hall")), sounding);
        Assert.DoesNotContain(new ElementRef(new UnitId("u2"), new ElementId("horn")), sounding);
    }
}
