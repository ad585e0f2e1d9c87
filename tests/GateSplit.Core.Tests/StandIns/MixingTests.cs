using GateSplit.Core.StandIns;

namespace GateSplit.Core.Tests.StandIns;

public sealed class MixingTests
{
    [Theory]
    [InlineData(0, 64)]
    [InlineData(1, 31)]
    [InlineData(3, 32)]
    [InlineData(12, 512)]
    [InlineData(5, 77)]
    public void A_mix_is_the_sum_of_its_parts(int count, int frames)
    {
        var random = new Random(count * 1000 + frames);
        MixedPart[] parts =
        [
            .. Enumerable.Range(0, count).Select(i => new MixedPart(
                [.. Enumerable.Range(0, frames + 3 * i).Select(_ => random.NextSingle() - 0.5f)], 2 * i, random.NextSingle() - 0.5f, random.NextSingle() - 0.5f)),
        ];
        float Sum(int at, Func<MixedPart, float> gain) => (float)parts.Sum(p => (double)p.Samples[p.From + at] * gain(p));
        float[] left = [.. Enumerable.Repeat(9f, frames)], right = [.. left], only = [.. left];
        Mixing.Mix(parts, left, right);
        Mixing.Mix(parts, only, []);
        for (var at = 0; at < frames; at++)
        {
            Assert.Equal(Sum(at, p => p.Left), left[at], 1e-6f);
            Assert.Equal(Sum(at, p => p.Right), right[at], 1e-6f);
        }

        Assert.Equal(left, only);
    }

    [Fact]
    public void A_sample_is_the_same_wherever_the_block_begins()
    {
        var random = new Random(7);
        float[][] channels = [.. Enumerable.Range(0, 6).Select(_ => Enumerable.Range(0, 300).Select(_ => random.NextSingle() - 0.5f).ToArray())];
        MixedPart[] From(int at) => [.. channels.Select((c, i) => new MixedPart(c, at, 0.1f * i, 0.7f - 0.1f * i))];
        float[] left = new float[300], right = new float[300];
        Mixing.Mix(From(0), left, right);
        foreach (var at in new[] { 1, 5, 31, 33, 250 })
        {
            float[] laterLeft = new float[300 - at], laterRight = new float[300 - at];
            Mixing.Mix(From(at), laterLeft, laterRight);
            Assert.Equal(left[at..], laterLeft);
            Assert.Equal(right[at..], laterRight);
        }
    }

    [Fact]
    public void A_part_that_is_too_short_is_refused()
    {
        Assert.Throws<ArgumentOutOfRangeException>(() => Mixing.Mix([new MixedPart(new float[64], 1, 1, 1)], new float[64], []));
        Assert.Throws<ArgumentOutOfRangeException>(() => Mixing.Mix([new MixedPart(new float[64], -1, 1, 1)], new float[32], []));
    }
}
