using System.Collections.Immutable;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>Mends change what is rendered and never a printed file; what is only moved keeps its samples bit by bit.</summary>
public sealed class MendTests : IDisposable
{
    private const int Rate = 48000;
    private static readonly TrackId Kick = new("t1");
    private static readonly TrackId Pair = new("t2");
    private readonly TempFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Theory]
    [InlineData("16", "s16le")]
    [InlineData("24", "s24le")]
    [InlineData("32", "s32le")]
    public void A_nudge_keeps_every_sample(string bits, string raw)
    {
        var path = Noise(bits, 2);
        var later = Rendered(path, new MoveTrack(Kick, -100.0 / Rate));
        var earlier = Rendered(path, new MoveTrack(Kick, 100.0 / Rate));
        var frame = 2 * int.Parse(bits) / 8;
        var own = Programs.Decode(path, raw);
        Assert.Equal([.. new byte[100 * frame], .. own], Programs.Decode(later, raw));
        Assert.Equal(own[(100 * frame)..], Programs.Decode(earlier, raw));
        Assert.Equal(own, Programs.Decode(path, raw));
    }

    [Fact]
    public void Drift_that_another_tool_made_is_undone()
    {
        // sox plays it slower by 100 millionths: 1.0001 times as long.
        var path = Noise("24", 1, "sine", "997", "sine", "2999");
        var slow = Path.Combine(_folder.Path, "slow.wav");
        Programs.Run("sox", path, "-b", "32", "-e", "floating-point", slow, "speed", $"{1 / 1.0001:0.0000000000}", "rate", "-v", $"{Rate}");
        var mended = Rendered(slow, new MoveTake(0, 100));
        var (one, other) = (Programs.Samples(path), Programs.Samples(mended));
        Assert.InRange(other.Length, one.Length - 2, one.Length + 2);
        var (left, whole) = (0.0, 0.0);
        for (var i = 2000; i < one.Length - 2000; i++)
        {
            left += (one[i] - other[i]) * (double)(one[i] - other[i]);
            whole += (double)one[i] * one[i];
        }

        Assert.True(10 * Math.Log10(left / whole) < -80, $"{10 * Math.Log10(left / whole):0.0} dB are left");
    }

    [Fact]
    public void Gain_polarity_sides_dc_and_fades_are_what_they_say()
    {
        var path = Noise("24", 2);
        var (left, right) = Sides(path);
        void Is(Mend mend, Func<int, float> wanted, int channel = 0)
        {
            var rendered = Sides(Rendered(path, mend), channel);
            for (var i = 0; i < rendered.Length; i += 37)
            {
                Assert.Equal(wanted(i), rendered[i], 1e-6f);
            }
        }

        Is(new TurnPolarity(Kick), i => -left[i]);
        Is(new TurnPolarity(Kick), i => -right[i], 1);
        Is(new TurnPolarity(Kick, RightOnly: true), i => left[i]);
        Is(new TurnPolarity(Kick, RightOnly: true), i => -right[i], 1);
        Is(new ExchangeSides(Kick), i => right[i]);
        Is(new MakeMono(Kick, MonoOf.Left), i => left[i]);
        Is(new MakeMono(Kick, MonoOf.Right), i => right[i]);
        Is(new MakeMono(Kick, MonoOf.Mean), i => (left[i] + right[i]) / 2);
        Is(new ChangeGain([Kick], new Decibels(-6)), i => left[i] * (float)Math.Pow(10, -0.3));
        Is(new RemoveDc(Kick, [0.125, -0.25]), i => left[i] - 0.125f);
        Is(new RemoveDc(Kick, [0.125, -0.25]), i => right[i] + 0.25f, 1);

        var trimmed = Sides(Rendered(path, new Trim(0.25, 0.75, 0.01)), 0);
        Assert.Equal(Rate / 2, trimmed.Length);
        Assert.Equal(left[Rate / 4 + 10000], trimmed[10000], 1e-6f);
        Assert.Equal(0, trimmed[0], 1e-4f);
        Assert.Equal(0, trimmed[^1], 1e-4f);
        Assert.Equal(left[Rate / 4 + 240] / 2, trimmed[240], 1e-3f); // half way of the fade
        Assert.Equal(left[3 * Rate / 4 - 240] / 2, trimmed[^240], 1e-3f);

        // From the start on there is nothing to fade in.
        Assert.Equal(left[1], Sides(Rendered(path, new Trim(0, 0.5, 0.01)), 0)[1], 1e-6f);
    }

    [Fact]
    public void Mends_follow_each_other()
    {
        var path = Noise("24", 2);
        var (left, _) = Sides(path);
        var mended = Sides(Rendered(path, new MoveTrack(Kick, 1000.0 / Rate), new TurnPolarity(Kick), new MoveTrack(Kick, 500.0 / Rate), new TurnPolarity(Kick)), 0);
        Assert.Equal(left.Length - 1500, mended.Length);
        Assert.Equal(left[1500..], mended);

        // Moved and drawn out: what lay at 1 s lies where both say.
        var plan = RenderPlan.AsItIs(1, new Frames(100000)).Placed(1000, 0).Placed(0, 0.001);
        Assert.Equal((1000.0, 1.001), (plan.Start, plan.Step));
        plan = RenderPlan.AsItIs(1, new Frames(100000)).Placed(0, 0.001).Placed(1000, 0);
        Assert.Equal(1001, plan.Start, 1e-9);
        Assert.True(RenderPlan.AsItIs(2, new Frames(9)).IsAsItIs(new Frames(9)));
        Assert.False(RenderPlan.AsItIs(2, new Frames(9)).Placed(1, 0).IsAsItIs(new Frames(9)));
    }

    [Fact]
    public void Names_are_exchanged_and_what_is_no_pair_has_no_sides()
    {
        var take = new MendedTake([Track(Kick, "Kick", 0, 1), Track(Pair, "Overheads", 1, 2)]);
        var exchanged = new ExchangeNames(Kick, Pair).Apply(take).Value!;
        Assert.Equal([(Kick, "Kick", 1, 2), (Pair, "Overheads", 0, 1)], exchanged.Tracks.Select(t => (t.Id, t.Name, t.File, t.Plan.Gains.Length)));
        Assert.Equal(take.Tracks, new ExchangeNames(Pair, Kick).Apply(exchanged).Value!.Tracks);
        Assert.Equal("Kick is no pair, so it has no sides.", new MakeMono(Kick, MonoOf.Mean).Apply(take).Trouble);
        Assert.Equal("Kick is no pair, so it has no sides.", new ExchangeSides(Kick).Apply(take).Trouble);
        Assert.Equal("Kick is no pair.", new TurnPolarity(Kick, RightOnly: true).Apply(take).Trouble);
        Assert.False(new ExchangeNames(Kick, Kick).Apply(take).Ok);
        Assert.False(new TurnPolarity(new TrackId("t9")).Apply(take).Ok);
        Assert.False(new ChangeGain([Kick], new Decibels(41)).Apply(take).Ok);
        Assert.True(new ChangeGain([Kick], new Decibels(40)).Apply(take).Ok);
        Assert.False(new MoveTake(600.1, 0).Apply(take).Ok);
        Assert.False(new MoveTake(0, 2001).Apply(take).Ok);
        Assert.False(new MoveTake(double.NaN, 0).Apply(take).Ok);
        Assert.False(new Trim(1, 1, 0).Apply(take).Ok);
        Assert.False(new RemoveDc(Kick, [0.1, 0.1]).Apply(take).Ok);
        Assert.Equal("This take has no such track.", take.With([new TurnPolarity(Kick), new TurnPolarity(new TrackId("t9"))]).Trouble);
    }

    [Fact]
    public void Every_mend_is_kept_and_comes_back()
    {
        ImmutableArray<Mend> mends =
        [
            new MoveTake(0.25, -12), new MoveTrack(Kick, 0.001), new TurnPolarity(Kick, true), new ExchangeNames(Kick, Pair), new ExchangeSides(Pair),
            new MakeMono(Pair, MonoOf.Right), new ChangeGain([Kick, Pair], new Decibels(-3)), new RemoveDc(Kick, [0.01]), new Trim(1, 2, 0.01),
        ];
        var kinds = typeof(Mend).Assembly.GetTypes().Where(t => t.IsSubclassOf(typeof(Mend))).ToHashSet();
        Assert.True(kinds.SetEquals(mends.Select(m => m.GetType())));
        var back = ProofJson.ReadMends(ProofJson.Write(mends));
        Assert.Equal(ProofJson.Write(mends), ProofJson.Write(back));
        Assert.Equal(mends.Select(m => m.GetType()), back.Select(m => m.GetType()));

        // The database gives the parts of an object back in another order.
        Assert.Equal(new TurnPolarity(Kick), ProofJson.ReadMends("""[{"trackId": "t1", "rightOnly": false, "mend": "turnPolarity"}]""").Single());
        var take = new MendedTake([Track(Kick, "Kick", 0, 1), Track(Pair, "Overheads", 1, 2)]);
        Assert.Equal(
            [
                "All tracks 250.00 ms earlier, and undo -12.0 ppm", "Kick 1.00 ms earlier", "Turn the polarity of Kick, right side", "Exchange Kick and Overheads", "Exchange the sides of Overheads",
                "Right side of Overheads as mono", "Kick and Overheads −3.0 dB", "Take the DC off Kick", "Trim to 1.000 to 2.000 s",
            ],
            mends.Select(m => m.Name(take)));
    }

    private static MendedTrack Track(TrackId id, string name, int file, int channels) => new(id, name, file, Rate, RenderPlan.AsItIs(channels, new Frames(Rate)));

    private string Noise(string bits, int channels, params string[] kind)
    {
        var path = Path.Combine(_folder.Path, $"{bits}-{channels}.wav");
        string[] sounds = kind.Length > 0 ? kind : channels == 2 ? ["whitenoise", "pinknoise"] : ["whitenoise"];
        Programs.Run("sox", ["-n", "-R", "-D", "-r", $"{Rate}", "-b", bits, "-c", $"{channels}", path, "synth", kind.Length > 0 ? "20" : "1", .. sounds, "gain", "-9"]);
        return path;
    }

    private string Rendered(string path, params Mend[] mends)
    {
        using var reader = WaveReader.Open(path).Value!;
        var take = new MendedTake([new MendedTrack(Kick, "Kick", 0, reader.Format.SampleRate, RenderPlan.AsItIs(reader.Format.Channels, reader.Frames))]).With(mends);
        Assert.True(take.Ok, take.Trouble);
        var made = Path.Combine(_folder.Path, $"{Guid.NewGuid():N}.wav");
        TakeRenderer.Render(reader, take.Value.Tracks[0].Plan, made);
        return made;
    }

    private static (float[] Left, float[] Right) Sides(string path) => (Sides(path, 0), Sides(path, 1));

    private static float[] Sides(string path, int channel)
    {
        var all = Programs.Samples(path);
        var channels = int.Parse(Programs.Run("soxi", "-c", path));
        return [.. Enumerable.Range(0, all.Length / channels).Select(i => all[i * channels + channel])];
    }
}
