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

    /// <summary>The pan it has in the music, if it is panned hard only to share a pair; null if its pan is meant.</summary>
    public double? MusicalPan { get; init; }

    /// <summary>True if it is muted on the source.</summary>
    public bool Muted { get; init; }

    /// <summary>True if its own effect is switched off, so that it leaves without it.</summary>
    public bool InsertOff { get; init; }

    /// <summary>Its send to the shared effect in dB; null for the chart's.</summary>
    public double? SendDb { get; init; }

    /// <summary>Where its send stands in the effect, -1 left to 1 right; null for where its own pan is.</summary>
    public double? SendPan { get; init; }

    /// <summary>Whether it sounds in this song, told by hand; null to go by the notes.</summary>
    public bool? Sounds { get; init; }

    /// <summary>How much more or less a microphone hears of what it is not meant for, in dB.</summary>
    public double BleedDb { get; init; }
}
