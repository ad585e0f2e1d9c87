using System.Collections.Immutable;

namespace GateSplit.Core.Splits;

/// <summary>The movement of a control of an element during a pass: straight from point to point, and still before the first and after the last.</summary>
/// <param name="Element">Whose.</param>
/// <param name="Control">Which.</param>
/// <param name="Points">In the order of time.</param>
public sealed record Ride(ElementRef Element, RideControl Control, ImmutableArray<RidePoint> Points)
{
    /// <summary>The most points a ride has.</summary>
    public const int MostPoints = 4000;

    /// <summary>The value at which a control changes nothing.</summary>
    public static double Rest(RideControl control) => control switch
    {
        RideControl.Filter => 20000,
        RideControl.Decay => 1,
        _ => 0,
    };

    /// <summary>The lowest and the highest value of a control.</summary>
    public static (double Low, double High) Range(RideControl control) => control switch
    {
        RideControl.Level or RideControl.Send => (-60, 12),
        RideControl.Filter => (100, 20000),
        RideControl.Tune => (-24, 24),
        RideControl.Decay => (0.1, 4),
        _ => (0, 1),
    };
}
