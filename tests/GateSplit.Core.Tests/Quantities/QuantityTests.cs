using System.Text.Json;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Tests.Quantities;

/// <summary>Quantities: their arithmetic by hand, their words, and reading what people type.</summary>
public sealed class QuantityTests
{
    [Theory]
    [InlineData(0, 1)]
    [InlineData(20, 10)]
    [InlineData(-20, 0.1)]
    [InlineData(6.020599913279624, 2)]
    [InlineData(double.NegativeInfinity, 0)]
    public void A_level_is_a_ratio_of_amplitudes(double db, double ratio)
    {
        Assert.Equal(ratio, new Decibels(db).Ratio, 1e-12);
        Assert.Equal(db, Decibels.FromRatio(ratio).Value, 1e-12);
        Assert.Equal(Decibels.FromRatio(ratio), Decibels.FromRatio(-ratio));
    }

    [Fact]
    public void Levels_add_up_and_compare()
    {
        Assert.Equal(new Decibels(-9), new Decibels(-6) + new Decibels(-3));
        Assert.Equal(new Decibels(-3), new Decibels(-6) - new Decibels(-3));
        Assert.Equal(new Decibels(6), -new Decibels(-6));
        Assert.Equal(default, Decibels.Unity);
        Assert.True(Decibels.Silence < new Decibels(-120));
        Assert.True(new Decibels(-6) < Decibels.Unity && Decibels.Unity > new Decibels(-6));
        Assert.True(new Decibels(-6) <= new Decibels(-6) && new Decibels(-6) >= new Decibels(-6));
        Assert.False(new Decibels(-6) < new Decibels(-6) || new Decibels(-6) > new Decibels(-6));
        Assert.False(new Decibels(-5.9) <= new Decibels(-6) || new Decibels(-6.1) >= new Decibels(-6));
        Assert.Equal(new Decibels(12), new[] { new Decibels(-6), new Decibels(12), Decibels.Silence }.Max());
    }

    [Theory]
    [InlineData(-12.34, "−12.3 dB")]
    [InlineData(1, "+1.0 dB")]
    [InlineData(0, "0.0 dB")]
    [InlineData(-0.05, "0.1 dB")]
    [InlineData(-0.06, "−0.1 dB")]
    [InlineData(0.06, "+0.1 dB")]
    [InlineData(double.NegativeInfinity, "silence")]
    public void A_level_has_words(double db, string words) => Assert.Equal(words, new Decibels(db).ToString());

    [Theory]
    [InlineData("-6", -6.0)]
    [InlineData("−6,5 dB", -6.5)]
    [InlineData(" +3 db ", 3.0)]
    [InlineData("dB", null)]
    [InlineData("", null)]
    [InlineData(null, null)]
    [InlineData("loud", null)]
    [InlineData("NaN", null)]
    [InlineData("1e999", null)]
    [InlineData("-∞", null)]
    public void A_level_is_read_as_people_type_it(string? text, double? db) => Assert.Equal(db, Decibels.Read(text)?.Value);

    [Theory]
    [InlineData("-100", -1.0)]
    [InlineData("25 %", 0.25)]
    [InlineData("0", 0.0)]
    [InlineData("left", null)]
    public void A_pan_is_read_in_percent(string text, double? pan) => Assert.Equal(pan, Pan.Read(text)?.Value);

    [Theory]
    [InlineData(-1, "hard left")]
    [InlineData(1, "hard right")]
    [InlineData(0.3, "30 % right")]
    [InlineData(-0.3, "30 % left")]
    [InlineData(0, "in the centre")]
    [InlineData(0.0049, "in the centre")]
    [InlineData(-0.0049, "in the centre")]
    [InlineData(0.006, "1 % right")]
    public void A_pan_has_words(double pan, string words) => Assert.Equal(words, new Pan(pan).ToString());

    [Fact]
    public void Pans_compare_from_left_to_right()
    {
        Assert.Equal((-1.0, 0.0, 1.0), (Pan.HardLeft.Value, Pan.Centre.Value, Pan.HardRight.Value));
        Assert.True(Pan.HardLeft < Pan.Centre && Pan.HardRight > Pan.Centre && Pan.Centre <= Pan.Centre && Pan.Centre >= Pan.Centre);
        Assert.False(Pan.Centre < Pan.Centre || Pan.Centre > Pan.Centre || Pan.HardRight <= Pan.Centre || Pan.HardLeft >= Pan.Centre);
        Assert.Equal(-30, new Pan(-0.3).Percent, 1e-12);
        Assert.Equal((Pan.HardLeft, Pan.HardRight), (Pan.Limits.Low, Pan.Limits.High));
    }

    [Fact]
    public void Limits_hold_both_ends_and_nothing_that_is_no_number()
    {
        var limits = new Limits<Decibels>(new(-120), new(12));
        Assert.True(limits.Hold(new Decibels(-120)) && limits.Hold(new Decibels(12)) && limits.Hold(Decibels.Unity));
        Assert.False(limits.Hold(new Decibels(-120.1)) || limits.Hold(new Decibels(12.1)) || limits.Hold(new Decibels(double.NaN)) || limits.Hold(Decibels.Silence));
        Assert.True(limits.Hold((Decibels?)null) && limits.Hold((Decibels?)Decibels.Unity));
        Assert.False(limits.Hold((Decibels?)new Decibels(13)));
        Assert.Equal("−120.0 dB to +12.0 dB", limits.ToString());
    }

    [Fact]
    public void Quantities_are_numbers_in_json_and_nothing_else()
    {
        Assert.Equal("-6.5", JsonSerializer.Serialize(new Decibels(-6.5)));
        Assert.Equal("-6.5", JsonSerializer.Serialize((Decibels?)new Decibels(-6.5)));
        Assert.Equal("null", JsonSerializer.Serialize((Pan?)null));
        Assert.Equal(new Pan(0.25), JsonSerializer.Deserialize<Pan>("0.25"));
        Assert.Null(JsonSerializer.Deserialize<Decibels?>("null"));
        Assert.Throws<JsonException>(() => JsonSerializer.Deserialize<Decibels>("\"-6\""));
        Assert.Throws<JsonException>(() => JsonSerializer.Deserialize<Decibels>("null"));
    }

    [Theory]
    [InlineData(120, 500_000)]
    [InlineData(90, 666_667)]
    [InlineData(7, 8_571_429)]
    public void A_tempo_is_kept_to_the_microsecond(double quarters, int microseconds)
    {
        Assert.Equal(microseconds, Tempo.FromQuartersPerMinute(quarters).MicrosecondsPerQuarter);
        Assert.Equal(quarters, new Tempo(microseconds).QuartersPerMinute, 1e-4);
        Assert.Equal(500_000, Tempo.Default.MicrosecondsPerQuarter);
    }
}
