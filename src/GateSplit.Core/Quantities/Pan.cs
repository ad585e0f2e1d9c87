using System.Text.Json.Serialization;

namespace GateSplit.Core.Quantities;

/// <summary>Where something stands between left and right: the pan of something mono, the balance of something stereo.</summary>
/// <param name="Value">-1 hard left, 0 in the centre, 1 hard right.</param>
[JsonConverter(typeof(QuantityConverter<Pan>))]
public readonly record struct Pan(double Value) : IQuantity<Pan>, IComparable<Pan>
{
    /// <summary>Only the left side.</summary>
    public static Pan HardLeft => new(-1);

    /// <summary>Both sides alike.</summary>
    public static Pan Centre => new(0);

    /// <summary>Only the right side.</summary>
    public static Pan HardRight => new(1);

    /// <summary>From side to side.</summary>
    public static Limits<Pan> Limits => new(HardLeft, HardRight);

    /// <summary>As forms have it: -100 hard left to 100 hard right.</summary>
    public double Percent => Value * 100;

    /// <inheritdoc/>
    public static Pan Of(double value) => new(value);

    /// <summary>Reads what forms have: -100 hard left to 100 hard right.</summary>
    /// <returns>The pan, within its limits or not; null where there is no number.</returns>
    public static Pan? Read(string? text) => NumberText.Read(text, "%") is { } percent ? new(percent / 100) : null;

    /// <inheritdoc/>
    public int CompareTo(Pan other) => Value.CompareTo(other.Value);

    /// <summary>True if the left operand stands further to the left.</summary>
    public static bool operator <(Pan left, Pan right) => left.Value < right.Value;

    /// <summary>True if the left operand stands further to the right.</summary>
    public static bool operator >(Pan left, Pan right) => left.Value > right.Value;

    /// <summary>True if the left operand does not stand further to the right.</summary>
    public static bool operator <=(Pan left, Pan right) => left.Value <= right.Value;

    /// <summary>True if the left operand does not stand further to the left.</summary>
    public static bool operator >=(Pan left, Pan right) => left.Value >= right.Value;

    /// <summary>"hard left", "30 % right", "in the centre".</summary>
    public override string ToString() => Value switch
    {
        -1 => "hard left",
        1 => "hard right",
        > -0.005 and < 0.005 => "in the centre",
        _ => $"{Math.Abs(Value) * 100:0} % {(Value < 0 ? "left" : "right")}",
    };
}
