using System.Text.Json;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Tests.Quantities;

/// <summary>Whole numbers of one kind: their arithmetic by hand, their words, and how they are kept.</summary>
public sealed class CountTests
{
    [Fact]
    public void They_add_up_and_compare_beyond_the_smaller_integers()
    {
        var long1 = new Frames(5_000_000_000);
        Assert.Equal(new Frames(5_000_000_007), long1 + 7);
        Assert.Equal(new Frames(4_999_999_993), long1 - 7);
        Assert.Equal(new Frames(15_000_000_000), long1 * 3);
        Assert.Equal((new Ticks(12), new Ticks(2), new Ticks(35)), (new Ticks(7) + 5, new Ticks(7) - 5, new Ticks(7) * 5));
        Assert.Equal((new Bytes(12), new Bytes(2), new Bytes(35)), (new Bytes(7) + 5, new Bytes(7) - 5, new Bytes(7) * 5));
        Ordered<Frames>((a, b) => (a > b, a < b, a <= b, a >= b), Frames.Min, Frames.Max);
        Ordered<Ticks>((a, b) => (a > b, a < b, a <= b, a >= b), Ticks.Min, Ticks.Max);
        Ordered<Bytes>((a, b) => (a > b, a < b, a <= b, a >= b), Bytes.Min, Bytes.Max);
        Ordered<SampleRate>((a, b) => (a > b, a < b, a <= b, a >= b), (a, b) => a < b ? a : b, (a, b) => a > b ? a : b);
        Assert.True(Frames.Never > long1);
    }

    private static void Ordered<T>(Func<T, T, (bool More, bool Fewer, bool NotMore, bool NotFewer)> compare, Func<T, T, T> min, Func<T, T, T> max)
        where T : struct, ICount<T>
    {
        var (few, many) = (T.Of(-3), T.Of(4));
        Assert.Equal((false, true, true, false), compare(few, many));
        Assert.Equal((true, false, false, true), compare(many, few));
        Assert.Equal((false, false, true, true), compare(many, T.Of(4)));
        Assert.Equal((few, few, many, many), (min(few, many), min(many, few), max(few, many), max(many, few)));
        Assert.Equal([few, T.Of(0), many], new[] { many, few, T.Of(0) }.Order());
        Assert.Equal(4, many.Count);
    }

    [Theory]
    [InlineData(0, 0, 0)]
    [InlineData(63, 0, 63)]
    [InlineData(64, 1, 0)]
    [InlineData(-1, -1, 63)]
    [InlineData(-64, -1, 0)]
    [InlineData(-65, -2, 63)]
    public void A_moment_lies_in_the_stretch_that_begins_before_it_or_with_it(long frame, long number, int within) =>
        Assert.Equal((number, within), new Frames(frame).In(64));

    [Theory]
    [InlineData(0, 0)]
    [InlineData(1, 1)]
    [InlineData(64, 1)]
    [InlineData(65, 2)]
    public void Stretches_hold_all_frames_and_no_more(long frames, long stretches) => Assert.Equal(stretches, new Frames(frames).Stretches(64));

    [Fact]
    public void Frames_last_as_long_as_the_rate_says_and_take_as_much_as_the_format()
    {
        Assert.Equal(1.5, new Frames(72_000).Seconds(48_000));
        var format = new AudioFormat(3, 48_000, SampleFormat.Pcm24);
        Assert.Equal(new Bytes(45_000_000_009), format.Bytes(new Frames(5_000_000_001)));
        Assert.Equal((new Frames(2), new Frames(1)), (format.Frames(18), format.Frames(17)));
    }

    [Fact]
    public void A_rate_turns_seconds_into_frames_and_hertz_into_turns()
    {
        SampleRate rate = 44_100;
        Assert.Equal((11_025.0, 0.01), (0.25 * rate, 441 / rate));
        Assert.Equal("44100 Hz", rate.ToString());
        Assert.Equal((false, true, true, false), (SampleRate.Limits.Hold(0), SampleRate.Limits.Hold(1), SampleRate.Limits.Hold(384_000), SampleRate.Limits.Hold(384_001)));
        Assert.Equal(new Bytes(132_300), new AudioFormat(1, rate, SampleFormat.Pcm24).Bytes(rate.Hz));
        Assert.Equal((int.MaxValue, int.MinValue), (SampleRate.Of(5_000_000_000).Hz, SampleRate.Of(-5_000_000_000).Hz));
        Assert.Equal(("48000", new SampleRate(96_000)), (JsonSerializer.Serialize(new SampleRate(48_000)), JsonSerializer.Deserialize<SampleRate>("96000")));
    }

    [Theory]
    [InlineData(0, "0 bytes")]
    [InlineData(1, "1 byte")]
    [InlineData(999, "999 bytes")]
    [InlineData(1_000, "1 kB")]
    [InlineData(1_500, "2 kB")]
    [InlineData(999_499, "999 kB")]
    [InlineData(1_000_000, "1.0 MB")]
    [InlineData(86_040_000, "86.0 MB")]
    [InlineData(1_000_000_000, "1.0 GB")]
    [InlineData(64L << 30, "68.7 GB")]
    public void A_size_has_words(long bytes, string words) => Assert.Equal(words, new Bytes(bytes).ToString());

    [Fact]
    public void Frames_and_ticks_are_written_as_plain_numbers() =>
        Assert.Equal("5000000000 -480", $"{new Frames(5_000_000_000)} {new Ticks(-480)}");

    [Fact]
    public void They_are_whole_numbers_in_json_and_nothing_else()
    {
        Assert.Equal("[5000000000,7,null]", JsonSerializer.Serialize(new object?[] { new Frames(5_000_000_000), new Bytes(7), (Bytes?)null }));
        Assert.Equal(new Frames(5_000_000_000), JsonSerializer.Deserialize<Frames>("5000000000"));
        Assert.Equal(new Bytes(-1), JsonSerializer.Deserialize<Bytes>("-1"));
        Assert.Null(JsonSerializer.Deserialize<Bytes?>("null"));
        foreach (var other in (string[])["\"5\"", "1.5", "1e30", "null", "[5]"])
        {
            Assert.Throws<JsonException>(() => JsonSerializer.Deserialize<Frames>(other));
        }
    }
}
