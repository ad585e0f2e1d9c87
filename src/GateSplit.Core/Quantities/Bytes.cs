using System.Text.Json.Serialization;

namespace GateSplit.Core.Quantities;

/// <summary>A size of a file or of a disk, or a place in a file.</summary>
/// <param name="Count">Bytes of it, or before it.</param>
[JsonConverter(typeof(CountConverter<Bytes>))]
public readonly record struct Bytes(long Count) : ICount<Bytes>, IComparable<Bytes>
{
    /// <inheritdoc/>
    public static Bytes Of(long count) => new(count);

    /// <summary>A number written in code, or counted within a block, is meant to be bytes; a larger number has to say so.</summary>
    public static implicit operator Bytes(int count) => new(count);

    /// <inheritdoc/>
    public int CompareTo(Bytes other) => Count.CompareTo(other.Count);

    /// <summary>The smaller of two.</summary>
    public static Bytes Min(Bytes left, Bytes right) => left < right ? left : right;

    /// <summary>The larger of two.</summary>
    public static Bytes Max(Bytes left, Bytes right) => left > right ? left : right;

    /// <summary>True if the left are fewer.</summary>
    public static bool operator <(Bytes left, Bytes right) => left.Count < right.Count;

    /// <summary>True if the left are more.</summary>
    public static bool operator >(Bytes left, Bytes right) => left.Count > right.Count;

    /// <summary>True if the left are not more.</summary>
    public static bool operator <=(Bytes left, Bytes right) => left.Count <= right.Count;

    /// <summary>True if the left are not fewer.</summary>
    public static bool operator >=(Bytes left, Bytes right) => left.Count >= right.Count;

    /// <summary>Both together.</summary>
    public static Bytes operator +(Bytes left, Bytes right) => new(left.Count + right.Count);

    /// <summary>From the right to the left.</summary>
    public static Bytes operator -(Bytes left, Bytes right) => new(left.Count - right.Count);

    /// <summary>So many times as many.</summary>
    public static Bytes operator *(Bytes one, long times) => new(one.Count * times);

    /// <summary>In the unit a person would say: "14.2 MB", "3.1 GB" (powers of ten).</summary>
    public override string ToString() => Count switch
    {
        >= 1_000_000_000 => $"{Count / 1e9:0.0} GB",
        >= 1_000_000 => $"{Count / 1e6:0.0} MB",
        >= 1_000 => $"{Count / 1e3:0} kB",
        _ => Words.Count(Count, "byte"),
    };
}
