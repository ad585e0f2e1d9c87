using System.Globalization;
using System.Text.Json.Serialization;

namespace GateSplit.Core.Quantities;

/// <summary>A length or a moment in recorded sound: one sample of every channel is a frame.</summary>
/// <param name="Count">Frames of a length, or before a moment.</param>
[JsonConverter(typeof(CountConverter<Frames>))]
public readonly record struct Frames(long Count) : ICount<Frames>, IComparable<Frames>
{
    /// <summary>A moment that never comes.</summary>
    public static Frames Never => new(long.MaxValue);

    /// <summary>How long they are.</summary>
    /// <param name="sampleRate">Frames a second.</param>
    public double Seconds(SampleRate sampleRate) => Count / sampleRate;

    /// <summary>In which of many stretches of one length a moment lies, 0 the one that begins at 0, and how far behind its beginning.</summary>
    /// <param name="length">Frames of each.</param>
    public (long Number, int Within) In(int length)
    {
        var number = Math.DivRem(Count, length, out var within);
        return within < 0 ? (number - 1, (int)within + length) : (number, (int)within);
    }

    /// <summary>How many stretches of one length are needed to hold them all.</summary>
    /// <param name="length">Frames of each.</param>
    public long Stretches(int length) => (Count + length - 1) / length;

    /// <inheritdoc/>
    public static Frames Of(long count) => new(count);

    /// <summary>A number written in code, or counted within a block, is meant to be frames; a larger number has to say so.</summary>
    public static implicit operator Frames(int count) => new(count);

    /// <inheritdoc/>
    public int CompareTo(Frames other) => Count.CompareTo(other.Count);

    /// <summary>The smaller of two.</summary>
    public static Frames Min(Frames left, Frames right) => left < right ? left : right;

    /// <summary>The larger of two.</summary>
    public static Frames Max(Frames left, Frames right) => left > right ? left : right;

    /// <summary>True if the left are fewer.</summary>
    public static bool operator <(Frames left, Frames right) => left.Count < right.Count;

    /// <summary>True if the left are more.</summary>
    public static bool operator >(Frames left, Frames right) => left.Count > right.Count;

    /// <summary>True if the left are not more.</summary>
    public static bool operator <=(Frames left, Frames right) => left.Count <= right.Count;

    /// <summary>True if the left are not fewer.</summary>
    public static bool operator >=(Frames left, Frames right) => left.Count >= right.Count;

    /// <summary>Both together.</summary>
    public static Frames operator +(Frames left, Frames right) => new(left.Count + right.Count);

    /// <summary>From the right to the left.</summary>
    public static Frames operator -(Frames left, Frames right) => new(left.Count - right.Count);

    /// <summary>So many times as many.</summary>
    public static Frames operator *(Frames one, long times) => new(one.Count * times);

    /// <summary>The plain number, as pages and sheets have it.</summary>
    public override string ToString() => Count.ToString(CultureInfo.InvariantCulture);
}
