using System.Text.Json.Serialization;

namespace GateSplit.Core.Quantities;

/// <summary>A ratio of amplitudes on the decibel scale. Minus infinity is silence.</summary>
/// <param name="Value">20 log10 of the ratio.</param>
[JsonConverter(typeof(QuantityConverter<Decibels>))]
public readonly record struct Decibels(double Value) : IQuantity<Decibels>, IComparable<Decibels>
{
    /// <summary>No change.</summary>
    public static Decibels Unity => new(0);

    /// <summary>Nothing at all.</summary>
    public static Decibels Silence => new(double.NegativeInfinity);

    /// <summary>The ratio of amplitudes: 10^(dB/20).</summary>
    public double Ratio => double.IsNegativeInfinity(Value) ? 0 : Math.Pow(10, Value / 20);

    /// <summary>From a ratio of amplitudes; the sign is dropped, zero gives silence.</summary>
    public static Decibels FromRatio(double ratio) => ratio == 0 ? Silence : new(20 * Math.Log10(Math.Abs(ratio)));

    /// <inheritdoc/>
    public static Decibels Of(double value) => new(value);

    /// <summary>Reads what people type: "-6", "−6,5 dB".</summary>
    /// <returns>The level, within any limits or not; null where there is no number.</returns>
    public static Decibels? Read(string? text) => NumberText.Read(text, "dB") is { } value ? new(value) : null;

    /// <inheritdoc/>
    public int CompareTo(Decibels other) => Value.CompareTo(other.Value);

    /// <summary>True if the left is quieter.</summary>
    public static bool operator <(Decibels left, Decibels right) => left.Value < right.Value;

    /// <summary>True if the left is louder.</summary>
    public static bool operator >(Decibels left, Decibels right) => left.Value > right.Value;

    /// <summary>True if the left is not louder.</summary>
    public static bool operator <=(Decibels left, Decibels right) => left.Value <= right.Value;

    /// <summary>True if the left is not quieter.</summary>
    public static bool operator >=(Decibels left, Decibels right) => left.Value >= right.Value;

    /// <summary>One gain after another.</summary>
    public static Decibels operator +(Decibels left, Decibels right) => new(left.Value + right.Value);

    /// <summary>How much the left is louder than the right.</summary>
    public static Decibels operator -(Decibels left, Decibels right) => new(left.Value - right.Value);

    /// <summary>The gain that takes this one back.</summary>
    public static Decibels operator -(Decibels gain) => new(-gain.Value);

    /// <summary>With one decimal and a true minus sign: "−12.3 dB", "+1.0 dB", "silence".</summary>
    public override string ToString() => double.IsNegativeInfinity(Value)
        ? "silence"
        : $"{(Value < -0.05 ? "−" : Value > 0.05 ? "+" : "")}{Math.Abs(Value):0.0} dB";
}
