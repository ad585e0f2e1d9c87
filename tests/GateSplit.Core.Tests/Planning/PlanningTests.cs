using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Demo;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Tests.Planning;

public sealed class PlanningTests
{
    [Theory]
    [InlineData(false, 1_144_000)]
    [InlineData(true, 1_144_001)]
    public void Eight_bars_at_90_and_a_tail_are_exact_unless_the_file_is_taken_at_its_word(bool toTheMicrosecond, long frames)
    {
        var song = Song.Of(CheckPattern.Of([MudlarkNine.Chart], Tempo.FromQuartersPerMinute(90)));
        var split = Sessions.After(
            StartingSplit.Of([MudlarkNine.Chart], 8, 48000),
            new SetPass(new PassSettings(8, 0, 2.5, 48000, SampleFormat.Pcm24) { TempoToMicrosecond = toTheMicrosecond }));
        var view = SplitView.Of(split, song);
        Assert.Equal(frames, PassTimes.Of(view, view.Song!).Frames.Count);
    }

    [Fact]
    public void The_length_of_a_pass_is_worked_out_by_hand()
    {
        // Lamp Lit: 24 bars of 6/8 are 72 quarters at 114 a minute, 1,818,947.37 frames; one bar of count-in is 3 of them, 75,789.47.
        var view = Sessions.View(LampLit.Session.Split, Song.Of(LampLit.Session.Song));
        var times = PassTimes.Of(view, Song.Of(LampLit.Session.Song));
        Assert.Equal(1_818_947, times.BodyFrames);
        Assert.Equal(75_789, times.CountInFrames);

        // 9 mono and 3 stereo tracks make 15 channels of 3 bytes.
        Assert.Equal(times.Frames.Count * 45, times.Bytes.Count);
    }

    [Theory]
    [InlineData(1, 3, true, 3 * 8)]
    [InlineData(3, 2, true, 2 * 6)]
    [InlineData(3, 2, false, 0)]
    public void A_loop_goes_round_from_the_bar_where_it_starts(int start, int loops, bool looped, int bars)
    {
        // Eight bars; those before the first that is played are no part of the loop. A bar of 4/4 at 120 is 96,000 frames.
        var song = Song.Of(new PatternWriter(480, Tempo.FromQuartersPerMinute(120), Metre.Common).ToFile("Empty", 8));
        var split = StartingSplit.Of([MudlarkNine.Chart], 8, 48000);
        var times = PassTimes.Of(Sessions.View(split with { Pass = split.Pass with { StartBar = start, Looped = looped, SettleLoops = loops, CountInBars = 2 } }, song), song);
        Assert.Equal((96_000L * (start - 1), 96_000L * bars, 8 * 96_000L, 2 * 96_000L), (times.StartFrame.Count, times.SettleFrames.Count, times.BodyFrames.Count, times.CountInFrames.Count));
        Assert.Equal((times.CountInFrames + times.SettleFrames + times.Frames - times.StartFrame).Count / 48000.0, times.PlayedSeconds);
    }

    [Fact]
    public void The_tail_is_the_longest_decay_that_reaches_an_armed_track_unless_it_is_set()
    {
        var (split, song) = Sessions.Drums;
        Assert.Equal(1.3, PassTimes.Of(Sessions.View(split, song), song).TailFrames.Seconds(48000), 0.001); // the cymbal
        var without = Sessions.After(split, new SetArmed(Sessions.TrackOf(split, "Cymbal").Id, false));
        Assert.Equal(0.65, PassTimes.Of(Sessions.View(without, song), song).TailFrames.Seconds(48000), 0.001); // the kick
        var ridden = Sessions.After(split, new SetRide(new Ride(Sessions.Element(split, "cymbal"), RideControl.Decay, [new RidePoint(1, 0.5), new RidePoint(3, 2.5)])));
        Assert.Equal(2.5 * 1.3, PassTimes.Of(Sessions.View(ridden, song), song).TailFrames.Seconds(48000), 0.001);
        var set = Sessions.After(split, new SetPass(split.Pass with { TailSeconds = 3 }));
        Assert.Equal(144_000, PassTimes.Of(Sessions.View(set, song), song).TailFrames);
    }

    [Fact]
    public void Laying_twice_changes_nothing_and_keeps_what_is_there()
    {
        foreach (var (split, song) in new[] { Sessions.Drums, Sessions.Kit })
        {
            Assert.Null(Layer.Propose(Sessions.View(split, song), new LayWish()).Edit);
        }
    }

    [Fact]
    public void Laying_gives_every_sounding_element_of_the_kit_a_line_in_order()
    {
        var split = LampLit.Session.Split;
        Assert.Equal(
            ["Kick in", "Kick out", "Snare top", "Snare bottom", "Hat", "High tom", "Mid tom", "Floor tom", "Ride", "Overheads", "Room", "Hall return"],
            split.Tracks.Select(t => t.Name));
        Assert.Equal(Enumerable.Range(0, 12).Select(i => 2 * i + 1), split.Tracks.Select(t => t.Input!.Channel));
    }

    [Fact]
    public void Where_ports_run_short_there_are_more_passes_and_no_line_is_dropped()
    {
        var song = Song.Of(CheckPattern.Of([WickerKeys.Chart], Tempo.Default));
        var start = StartingSplit.Of([WickerKeys.Chart], 3, 48000);
        var split = Layer.Propose(Sessions.View(start, song), new LayWish(HardPan: false)).Edit!.Apply(start).Value!;
        Assert.Equal(13, split.Tracks.Length);
        Assert.Equal(4, split.Passes);
        Assert.DoesNotContain(AllChecks.Look(Sessions.View(split, song)), f => f.Check is "UnheardPort" or "SilentLine");
    }
}
