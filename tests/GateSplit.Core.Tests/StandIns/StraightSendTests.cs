using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Tests.StandIns;

/// <summary>A parallel feed is what its formula says, to the sample, and disturbs nothing of the usual way.</summary>
public sealed class StraightSendTests : IDisposable
{
    private static readonly UnitId U1 = new("u1");
    private static readonly ElementRef Clap = new(U1, new ElementId("clap"));
    private static readonly string Name = FennelSampler.Chart.Element(Clap.ElementId)!.Name;
    private readonly TempFolder _folder = new();
    private int _prints;

    public void Dispose() => _folder.Dispose();

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public void Dry_and_wet_are_printed_together_and_each_is_what_its_gains_make_of_it(bool before)
    {
        var (plain, song, free) = Sampler();
        var wet = Print(plain, song)[Name];
        var dry = Print(Sessions.After(plain, new SetInsert(Clap, false)), song)[Name];
        Assert.NotEqual(wet[0], dry[0]); // the effect is heard

        // The send 6 dB down, the port 3 dB down, the fader half down: the usual way follows the fader, the straight one does not.
        var split = Sessions.After(
            plain,
            new SetFader(Clap, new Decibels(-20)),
            new SetStraight(Clap, new StraightSend(free.Number) { LevelDb = new Decibels(-6), BeforeEffects = before }),
            new SetPortLevel(U1, free.Number, new Decibels(-3)),
            new AddTrack(new Track(new TrackId("t90"), Name + " straight", Width.Stereo) { Input = plain.InputOf(plain.Units[0], free.FirstChannel), MeantFor = [Meant.For(Clap)] }));
        var both = Print(split, song);
        var chart = plain.Units[0].Chart.Element(Clap.ElementId)!;
        var source = before ? dry : wet;
        var usual = Math.Pow(10, -20 / 20.0);
        var straight = Math.Pow(10, -9 / 20.0);

        // A mono element stands in the middle of the pair, each side 3.01 dB down; its own line went to one side whole.
        var side = chart.Width == Width.Mono ? Math.Sqrt(0.5) : 1;
        for (var i = 0; i < source[0].Length; i++)
        {
            Assert.Equal(usual * wet[0][i], both[Name][0][i], 1e-6);
            Assert.Equal(straight * side * source[0][i], both[Name + " straight"][0][i], 1e-6);
            Assert.Equal(straight * side * source[^1][i], both[Name + " straight"][1][i], 1e-6);
        }

        Assert.DoesNotContain(AllChecks.Look(SplitView.Of(split, song)), f => f.Check is "Doubled" or "Merged" or "MeantElsewhere" or "EmptyTrack" or "UnheardPort");
    }

    [Fact]
    public void A_group_is_fed_straight_with_the_faders_of_its_elements_and_without_its_own()
    {
        var song = Song.Of(CheckPattern.Of([TansyGrid.Chart], Tempo.Default));
        var start = StartingSplit.Of([TansyGrid.Chart], (int)song.Bars, 48000);
        var grouped = Layer.Propose(SplitView.Of(start, song), new LayWish(ByGroup: true)).After;
        grouped = Sessions.After(grouped, new SetPass(grouped.Pass with { Format = SampleFormat.Float32, CountInBars = 0, TailSeconds = 2 }), new SetFader(new(U1, new ElementId("a1")), new Decibels(-4)));
        var usual = Print(grouped, song)["Group A"];
        var free = grouped.Units[0].Chart.Ports[^1];
        var fed = Sessions.After(
            grouped,
            new SetGroup(U1, grouped.Units[0].Group("Group A") with { FaderDb = new Decibels(-12), Straight = new StraightSend(free.Number) { LevelDb = new Decibels(-6) } }),
            new AddTrack(new Track(new TrackId("t90"), "A straight", Width.Stereo) { Input = grouped.InputOf(grouped.Units[0], free.FirstChannel) }));
        var both = Print(fed, song);
        var (send, fader) = (Math.Pow(10, -6 / 20.0), Math.Pow(10, -12 / 20.0));
        for (var i = 0; i < usual[0].Length; i++)
        {
            Assert.Equal(send * usual[0][i], both["A straight"][0][i], 1e-6);
            Assert.Equal(fader * usual[1][i], both["Group A"][1][i], 1e-6);
        }
    }

    [Fact]
    public void A_track_for_a_straight_send_that_listens_elsewhere_is_put_back_on_its_port()
    {
        var (plain, song, free) = Sampler();
        var usual = plain.Tracks.First(t => t.Name == Name);
        var meant = Meant.For(Clap) with { Straight = true };
        var clean = Sessions.After(
            plain,
            new SetStraight(Clap, new StraightSend(free.Number)),
            new AddTrack(new Track(new TrackId("t90"), "Second", usual.Width) { Input = plain.InputOf(plain.Units[0], free.FirstChannel), MeantFor = [meant] }));
        var right = clean.Track(new TrackId("t90"))!.Input;
        Assert.DoesNotContain(AllChecks.Look(SplitView.Of(clean, song)), f => f.Check == "MeantElsewhere");

        // The two ways of one element exchanged: each track holds the other's.
        var exchanged = Sessions.After(clean, new SetTrackInput(new TrackId("t90"), usual.Input), new SetTrackInput(usual.Id, right));
        var told = Assert.Single(AllChecks.Look(SplitView.Of(exchanged, song)), f => f.Check == "MeantElsewhere");
        Assert.Contains($"{Name} straight", told.Sentence, StringComparison.Ordinal);
        Assert.Equal(clean.Tracks, told.Fix!.Apply(exchanged).Value!.Tracks);

        // A plain line for the element has nothing to do with its straight port.
        var lone = Sessions.After(clean, new SetTrackInput(new TrackId("t90"), null));
        var without = Assert.Single(AllChecks.Look(SplitView.Of(lone, song)), f => f.Check == "MeantElsewhere");
        Assert.Equal(right, without.Fix!.Apply(lone).Value!.Track(new TrackId("t90"))!.Input);
        Assert.Equal(meant, Meant.Read($"{meant}"));
    }

    [Fact]
    public void A_straight_port_that_nobody_takes_is_told_and_one_that_it_leaves_by_already_is_refused()
    {
        var (plain, song, free) = Sampler();
        var fed = Sessions.After(plain, new SetStraight(Clap, new StraightSend(free.Number)));
        var told = Assert.Single(AllChecks.Look(SplitView.Of(fed, song)), f => f.Check == "UnheardPort");
        var mended = Sessions.After(fed, told.Fix!);
        Assert.Contains(mended.Tracks, t => t.Name == Name + " straight");
        Assert.DoesNotContain(AllChecks.Look(SplitView.Of(mended, song)), f => f.ToMend);
        Assert.False(new SetStraight(Clap, new StraightSend(plain.Units[0].Element(Clap.ElementId).Port!.Value)).Apply(plain).Ok);
        Assert.False(new SetStraight(Clap, new StraightSend(1)).Apply(plain).Ok);
        Assert.False(new SetStraight(Clap, new StraightSend(99)).Apply(plain).Ok);
        Assert.NotNull(SplitRules.Trouble(fed.With(fed.Units[0] with { PortLevels = [new(2, new Decibels(1)), new(2, new Decibels(2))] })));

        // Muted it is fed nowhere; in the other passes neither; and no line is laid on its port.
        Assert.DoesNotContain(SplitView.Of(Sessions.After(fed, new SetMuted(Clap, true)), song).Signal.PortFeeds, f => f.Straight);
        Assert.DoesNotContain(SplitView.Of(Sessions.After(fed, new SetElementPass(Clap, 2)).InPass(1), song).Signal.PortFeeds, f => f.Straight);
        var anew = Layer.Propose(SplitView.Of(fed, song), new LayWish(Anew: true));
        Assert.DoesNotContain(anew.Lines, l => l.Port.Number == free.Number);
    }

    /// <summary>A sampler with a port more than it has lines, all laid.</summary>
    private static (Split Split, Song Song, ChartPort Free) Sampler()
    {
        var chart = FennelSampler.Chart;
        var song = Song.Of(CheckPattern.Of([chart], Tempo.Default));
        var start = Sessions.After(
            StartingSplit.Of([chart], (int)song.Bars, 48000),
            new DeclarePorts(U1, chart.Elements.Length + 1, Width.Stereo, "Out", 2),
            new MarkRestarted(U1));
        var laid = Layer.Propose(SplitView.Of(start, song), new LayWish { Unity = true }).After;
        laid = Sessions.After(laid, new SetPass(laid.Pass with { Format = SampleFormat.Float32, CountInBars = 0, TailSeconds = 2 }));
        return (laid, song, laid.Units[0].Chart.Ports[^1]);
    }

    private Dictionary<string, float[][]> Print(Split split, Song song) =>
        PrintedLines.Of(_folder, $"{_prints++}", split, song).ToDictionary(p => p.Track.Name, p => p.Sides);
}
