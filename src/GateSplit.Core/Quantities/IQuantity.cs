namespace GateSplit.Core.Quantities;

/// <summary>A number that is of one kind, so that two kinds cannot be mixed up. Plain numbers in JSON.</summary>
/// <typeparam name="TSelf">The kind.</typeparam>
public interface IQuantity<TSelf>
    where TSelf : struct, IQuantity<TSelf>
{
    /// <summary>The number, in the unit of its kind.</summary>
    double Value { get; }

    /// <summary>The quantity of a number.</summary>
    static abstract TSelf Of(double value);
}
