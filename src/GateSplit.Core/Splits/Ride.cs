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

    /// <summary>The control in words.</summary>
    public string Word => Control switch
    {
        RideControl.Level => "level",
        RideControl.Send => "send",
        RideControl.Filter => "filter",
        RideControl.Tune => "tune",
        RideControl.Decay => "decay",
        _ => "mute",
    };

    /// <summary>What in it does not fit in a pass of so many bars. The pass may have become shorter since: what lies behind its end does no harm.</summary>
    internal IEnumerable<Misfit> Misfits(Split split, string place, int bars = PassSettings.MostBars)
    {
        if (!split.HasElement(Element))
        {
            return [new Misfit($"{place}.element", $"There is no element {Element} in this split any more.")];
        }

        if (!Enum.IsDefined(Control) || Points.IsDefaultOrEmpty || Points.Length > MostPoints || Points.Any(p => p is null))
        {
            return [new Misfit($"{place}.points", $"A ride has up to {MostPoints} points.")];
        }

        var (low, high) = Range(Control);
        var end = bars + 1;
        var wrong = Points.FirstOrDefault(p => !(p.Value >= low && p.Value <= high) || !(p.Bar >= 1 && p.Bar <= end));
        return Core.Misfits.Unless(wrong is null, $"{place}.points", $"The {Word} goes from {low} to {high}, and the bars from 1 to {end}: {wrong?.Value} at bar {wrong?.Bar} does not fit.")
            .Concat(Core.Misfits.Unless(Points.Zip(Points.Skip(1)).All(p => p.First.Bar <= p.Second.Bar), $"{place}.points", "The points of a ride stand in the order of time."));
    }
}
