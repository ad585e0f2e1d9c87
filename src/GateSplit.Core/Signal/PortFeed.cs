using GateSplit.Core.Splits;

namespace GateSplit.Core.Signal;

/// <summary>An element that comes out of a port, with the gain at which it does.</summary>
/// <param name="Element">The element.</param>
/// <param name="UnitId">The unit.</param>
/// <param name="Port">The port's number.</param>
/// <param name="Gain">From the element before its fader to the port.</param>
public sealed record PortFeed(ElementRef Element, UnitId UnitId, int Port, Gain2x2 Gain)
{
    /// <summary>True if it is fed there beside its usual way, from before its fader.</summary>
    public bool Straight { get; init; }

    /// <summary>True if it is taken from before its own effect.</summary>
    public bool Dry { get; init; }
}
