using System.Globalization;

namespace GateSplit.Core.Quantities;

/// <summary>A length or a moment in a song, in the unit its file counts in.</summary>
/// <param name="Count">Ticks of a length, or before a moment.</param>
public readonly record struct Ticks(long Count) : ICount<Ticks>, IComparable<Ticks>
{
    /// <inheritdoc/>
    public static Ticks Of(long count) => new(count);

    /// <summary>A number written in code, or counted within a block, is meant to be ticks; a larger number has to say so.</summary>
    public static implicit operator Ticks(int count) => new(count);

    /// <inheritdoc/>
    public int CompareTo(Ticks other) => Count.CompareTo(other.Count);

    /// <summary>The smaller of two.</summary>
    public static Ticks Min(Ticks left, Ticks right) => left < right ? left : right;

    /// <summary>The larger of two.</summary>
    public static Ticks Max(Ticks left, Ticks right) => left > right ? left : right;

    /// <summary>True if the left are fewer.</summary>
    public static bool operator <(Ticks left, Ticks right) => left.Count < right.Count;

    /// <summary>True if the left are more.</summary>
    public static bool operator >(Ticks left, Ticks right) => left.Count > right.Count;

    /// <summary>True if the left are not more.</summary>
    public static bool operator <=(Ticks left, Ticks right) => left.Count <= right.Count;

    /// <summary>True if the left are not fewer.</summary>
    public static bool operator >=(Ticks left, Ticks right) => left.Count >= right.Count;

    /// <summary>Both together.</summary>
    public static Ticks operator +(Ticks left, Ticks right) => new(left.Count + right.Count);

    /// <summary>From the right to the left.</summary>
    public static Ticks operator -(Ticks left, Ticks right) => new(left.Count - right.Count);

    /// <summary>So many times as many.</summary>
    public static Ticks operator *(Ticks one, long times) => new(one.Count * times);

    /// <summary>The plain number.</summary>
    public override string ToString() => Count.ToString(CultureInfo.InvariantCulture);
}
