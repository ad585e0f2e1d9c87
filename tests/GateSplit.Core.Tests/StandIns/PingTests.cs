using GateSplit.Core.Demo;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;

namespace GateSplit.Core.Tests.StandIns;

/// <summary>The round trip of a looped-back pair, planted and measured.</summary>
public sealed class PingTests : IDisposable
{
    private readonly TempFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    [InlineData(777)]
    [InlineData(48000)]
    public void A_ping_finds_the_round_trip_that_was_planted_whatever_the_outboard_does(int samples)
    {
        var split = Stairwell.Session.Split;
        var pair = split.Banks.First(b => b.Kind == BankKind.Loopback);
        var late = Sessions.After(split, new SetSimulatedInterface(split.Interface with { RoundTripSamples = samples, NoiseDb = new Decibels(-60), LatencySamples = 64 }));
        Assert.Equal(samples, Ping.RoundTrip(late, pair));
        Assert.Equal(samples, Ping.RoundTrip(late, pair with { OutboardDb = new Decibels(-20), OutboardDrive = 6, OutboardNoiseDb = new Decibels(-60) }));
    }

    [Fact]
    public void What_is_recorded_through_the_pair_is_late_and_noisy_as_the_room_is_not_as_the_split_says()
    {
        var split = Sessions.After(Stairwell.Session.Split, new SetPass(Stairwell.Session.Split.Pass with { LengthBars = 2, TailSeconds = 0.1 }));
        var song = Song.Of(Stairwell.Session.Song);
        var said = Print(split, song);
        var late = Print(Sessions.After(split, new SetSimulatedInterface(split.Interface with { RoundTripSamples = 1256 })), song);
        Assert.Equal(said[..^1000], late[1000..]);
        var pair = split.Banks.First(b => b.Kind == BankKind.Loopback);
        var noisy = Print(Sessions.After(split, new SetBank(pair with { OutboardNoiseDb = new Decibels(-50) })), song);
        var rest = noisy.Zip(said, (a, b) => (double)a - b).ToList();
        Assert.Equal(-50, 10 * Math.Log10(rest.Average(x => x * x)), 0.1);
    }

    [Theory]
    [InlineData(-20)]
    [InlineData(double.NaN)]
    public void The_noise_of_outboard_has_bounds(double db)
    {
        var pair = Stairwell.Session.Split.Banks.First(b => b.Kind == BankKind.Loopback);
        Assert.False(new SetBank(pair with { OutboardNoiseDb = new Decibels(db) }).Apply(Stairwell.Session.Split).Ok);
    }

    private float[] Print(Split split, Song song)
    {
        var path = _folder[$"{Guid.NewGuid():N}.wav"];
        new StandInRecorder(Sessions.View(split, song), song).Print(_ => path, DateTime.UnixEpoch);
        return Recorded.Samples(path);
    }
}
