using GateSplit.Core.Proofing;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>Which tracks are upside down in a mix, though several hear the same and one is missing.</summary>
public sealed class MixSignsTests
{
    private const int Length = 400_000;
    private static readonly long[] Places = [.. Enumerable.Range(1, 40).Select(i => i * 9000L)];

    [Fact]
    public void Each_of_two_microphones_of_one_drum_is_told_by_itself()
    {
        var (drum, hat) = (Hits(1, 0, 20000, 0.999), Hits(2, 7000, 15000, 0.99));
        var under = Later(Low(drum, 0.3), 6, -1);
        var mix = Sum(drum, under, hat);
        Assert.Equal([1, 1, 1], Signs(mix, drum, under, hat));
        Assert.Equal([-1, 1, 1], Signs(mix, Turned(drum), under, hat));
        Assert.Equal([1, -1, -1], Signs(mix, drum, Turned(under), Turned(hat)));
    }

    [Fact]
    public void What_no_track_holds_leads_nobody_astray()
    {
        // A loud drum is in the mix and its track is lost; the overheads hear it later, and are upside down.
        var (kick, snare, lost) = (Hits(1, 0, 20000, 0.999), Hits(2, 9000, 20000, 0.998), Hits(3, 30000, 60000, 0.9995));
        var overheads = Later(Sum(kick, snare, lost), 140, 0.5);
        var mix = Sum(kick, snare, overheads, Later(lost, 0, 4));
        Assert.Equal([1, 1, -1], Signs(mix, kick, snare, Turned(overheads)));
    }

    [Fact]
    public void Of_what_is_not_in_the_mix_nothing_is_told()
    {
        var (kick, snare) = (Hits(1, 0, 20000, 0.999), Hits(2, 9000, 20000, 0.998));
        Assert.Equal([1, null], Signs(kick, kick, snare));
        Assert.Empty(MixSigns.Of(At(kick), [], Places, default).Tracks);
        Assert.Equal([(int?)null], Signs(new float[Length], kick));
    }

    [Theory]
    [InlineData(0.3, 1)]
    [InlineData(0.4, null)]
    [InlineData(0.55, -1)]
    public void What_is_upside_down_in_its_lows_alone_is_told_only_where_these_or_the_rest_are_much_clearer(double lows, int? sign)
    {
        // Something else that is as loud is in the mix as well.
        var (low, high, other) = (Low(Hits(1, 0, 20000, 0.999), 0.05), Hits(2, 0, 20000, 0.99), Hits(3, 9000, 20000, 0.999));
        var mix = Sum(Later(low, 0, -12 * lows), high, other);
        Assert.Equal([sign], Signs(mix, Sum(Later(low, 0, 12 * lows), high)));
    }

    private static int?[] Signs(float[] mix, params float[][] tracks) => [.. MixSigns.Of(At(mix), [.. tracks.Select(At)], Places, default).Tracks.Select(t => t.Sign)];

    private static Placed At(float[] samples) => new(new Samples(samples), (0, 0));

    private static float[] Hits(int seed, int first, int every, double keep)
    {
        var random = new Random(seed);
        var (sound, level) = (new float[Length], 0.0);
        for (var i = 0; i < Length; i++)
        {
            level = i >= first && (i - first) % every == 0 ? 0.5 : level * keep;
            sound[i] = (float)(level * (2 * random.NextDouble() - 1));
        }

        return sound;
    }

    private static float[] Low(float[] sound, double share)
    {
        var low = 0.0;
        return [.. sound.Select(s => (float)(low += share * (s - low)))];
    }

    private static float[] Later(float[] sound, int frames, double gain) => [.. sound.Select((_, i) => i < frames ? 0 : (float)(gain * sound[i - frames]))];

    private static float[] Turned(float[] sound) => Later(sound, 0, -1);

    private static float[] Sum(params float[][] sounds) => [.. Enumerable.Range(0, Length).Select(i => sounds.Sum(s => s[i]))];
}
