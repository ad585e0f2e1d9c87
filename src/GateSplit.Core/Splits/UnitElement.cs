namespace GateSplit.Core.Splits;

/// <summary>How an element is set in this session.</summary>
/// <param name="ElementId">The element of the chart.</param>
public sealed record UnitElement(string ElementId)
{
    /// <summary>The port of its own; null if it is only in the main mix.</summary>
    public int? Port { get; init; }

    /// <summary>True if it is in the main mix.</summary>
    public bool InMain { get; init; } = true;

    /// <summary>False if it leaves its group and goes straight into the main mix; of no matter where it has no such group.</summary>
    public bool FollowsGroup { get; init; } = true;

    /// <summary>The only pass it plays in, from 1; in the others it is muted on the source. Null if it plays in all.</summary>
    public int? Pass { get; init; }

    /// <summary>Fader in dB.</summary>
    public double FaderDb { get; init; }

    /// <summary>Pan of a mono element, balance of a stereo one: -1 left to 1 right.</summary>
    public double Pan { get; init; }

    /// <summary>True if it is muted on the source.</summary>
    public bool Muted { get; init; }

    /// <summary>How much more or less a microphone hears of what it is not meant for, in dB.</summary>
    public double BleedDb { get; init; }
}
