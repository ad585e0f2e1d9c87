using GateSplit.Core.Sound;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Sound;

/// <summary>Recordings that are made of others while they are read, sample by sample as reckoned by hand.</summary>
public sealed class RecordingsMadeTests
{
    [Theory]
    [InlineData(0, 10)]
    [InlineData(-3, 5)]
    [InlineData(7, 9)]
    [InlineData(12, 4)]
    [InlineData(-20, 5)]
    public void An_excerpt_is_the_stretch_and_silence_where_there_is_nothing(int start, int frames)
    {
        var from = Held.Of(48000, [.. Enumerable.Range(1, 10).Select(i => i / 16f)]);
        float[] expected = [.. Enumerable.Range(start, frames).Select(i => i is >= 0 and < 10 ? (i + 1) / 16f : 0)];
        Assert.Equal(expected, Held.Samples(new ExcerptRecording(from, start, frames), 0));
    }

    [Fact]
    public void Silence_of_eight_bit_is_its_middle()
    {
        var excerpt = new ExcerptRecording(new Held(new AudioFormat(1, 48000, SampleFormat.Pcm8), [1, 2]), -1, 4);
        var bytes = new byte[4];
        Assert.Equal(4, excerpt.Read(0, bytes));
        Assert.Equal([0x80, 1, 2, 0x80], bytes);
        Assert.Equal(1, excerpt.Read(3, bytes));
        Assert.Equal(0, excerpt.Read(4, bytes));
    }

    [Fact]
    public void A_sum_takes_of_each_channel_what_it_should_and_is_as_long_as_the_longest()
    {
        var mono = Held.Of(48000, [.. Enumerable.Range(0, 20_000).Select(i => i / 65536f)]);
        var stereo = Held.Of(48000, [.. Enumerable.Repeat(0.25f, 9_000)], [.. Enumerable.Repeat(-0.5f, 9_000)]);
        var sum = new SummedRecording(48000, [new(mono, [0.5], [2]), new(stereo, [1, 0.25], [0, -1])]);
        Assert.Equal((2, 20_000L), (sum.Format.Channels, sum.Frames.Count));
        var (left, right) = (Held.Samples(sum, 0), Held.Samples(sum, 1));
        Assert.All([0, 1, 8_191, 8_192, 8_999], i => Assert.Equal((i / 131072f + 0.125f, i / 32768f + 0.5f), (left[i], right[i])));
        Assert.All([9_000, 16_384, 19_999], i => Assert.Equal((i / 131072f, i / 32768f), (left[i], right[i])));
    }

    [Theory]
    [InlineData(48000, 44100)]
    [InlineData(44100, 96000)]
    public void What_is_resampled_is_the_same_tone_at_the_other_rate_from_wherever_it_is_read(int from, int to)
    {
        float[] Tone(int rate, int frames) => [.. Enumerable.Range(0, frames).Select(i => (float)(0.5 * Math.Sin(2 * Math.PI * 1000 * i / rate)))];
        var resampled = new ResampledRecording(Held.Of(from, Tone(from, from)), to);
        var made = Held.Samples(resampled, 0);
        Assert.Equal(to, made.Length);
        var wanted = Tone(to, to);
        Assert.All(Enumerable.Range(500, to - 1000), i => Assert.Equal(wanted[i], made[i], 1e-4f));
        var late = new byte[4 * 100];
        Assert.Equal(100, resampled.Read(20_000, late));
        Assert.Equal(made[20_000..20_100], Enumerable.Range(0, 100).Select(i => BitConverter.ToSingle(late, 4 * i)));
    }
}
