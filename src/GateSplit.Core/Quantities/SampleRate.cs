using System.Text.Json.Serialization;

namespace GateSplit.Core.Quantities;

/// <summary>How many frames make a second.</summary>
/// <param name="Hz">Frames a second.</param>
[JsonConverter(typeof(CountConverter<SampleRate>))]
public readonly record struct SampleRate(int Hz) : ICount<SampleRate>, IComparable<SampleRate>
{
    /// <summary>The rates a file may have here.</summary>
    public static Limits<SampleRate> Limits => new(1, 384_000);

    /// <inheritdoc/>
    public long Count => Hz;

    /// <summary>The rate of a number; one that is too large for any rate becomes the largest there is, which no rule takes.</summary>
    public static SampleRate Of(long count) => new((int)Math.Clamp(count, int.MinValue, int.MaxValue));

    /// <summary>A number written in code is meant to be a rate.</summary>
    public static implicit operator SampleRate(int hz) => new(hz);

    /// <inheritdoc/>
    public int CompareTo(SampleRate other) => Hz.CompareTo(other.Hz);

    /// <summary>True if the left is slower.</summary>
    public static bool operator <(SampleRate left, SampleRate right) => left.Hz < right.Hz;

    /// <summary>True if the left is faster.</summary>
    public static bool operator >(SampleRate left, SampleRate right) => left.Hz > right.Hz;

    /// <summary>True if the left is not faster.</summary>
    public static bool operator <=(SampleRate left, SampleRate right) => left.Hz <= right.Hz;

    /// <summary>True if the left is not slower.</summary>
    public static bool operator >=(SampleRate left, SampleRate right) => left.Hz >= right.Hz;

    /// <summary>The frames of a time, with their fraction.</summary>
    /// <param name="seconds">The time.</param>
    /// <param name="rate">Frames a second.</param>
    public static double operator *(double seconds, SampleRate rate) => seconds * rate.Hz;

    /// <summary>The turns of a frequency, or the part of anything that goes by the second, from one frame to the next.</summary>
    /// <param name="hertz">The frequency.</param>
    /// <param name="rate">Frames a second.</param>
    public static double operator /(double hertz, SampleRate rate) => hertz / rate.Hz;

    /// <summary>"48000 Hz".</summary>
    public override string ToString() => $"{Hz} Hz";
}
