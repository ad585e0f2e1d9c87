namespace GateSplit.Core.Quantities;

/// <summary>From where to where a quantity may go, both ends included.</summary>
/// <typeparam name="T">The quantity.</typeparam>
/// <param name="Low">The lowest.</param>
/// <param name="High">The highest.</param>
public readonly record struct Limits<T>(T Low, T High)
    where T : struct, IComparable<T>
{
    /// <summary>True of a value within; never of one that is no number.</summary>
    public bool Hold(T value) => value.CompareTo(Low) >= 0 && value.CompareTo(High) <= 0;

    /// <summary>True of a value within, and of none.</summary>
    public bool Hold(T? value) => value is not { } there || Hold(there);

    /// <summary>"-120.0 dB to +12.0 dB".</summary>
    public override string ToString() => $"{Low} to {High}";
}
