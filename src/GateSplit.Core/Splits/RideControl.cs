namespace GateSplit.Core.Splits;

/// <summary>What a ride moves.</summary>
public enum RideControl
{
    /// <summary>The element's fader, in dB beside where it stands.</summary>
    Level,

    /// <summary>The element's send, in dB beside where it stands.</summary>
    Send,

    /// <summary>A low-pass on the element before its fader, in Hz.</summary>
    Filter,

    /// <summary>The tune of its voices, in semitones beside where it stands, as each note begins.</summary>
    Tune,

    /// <summary>The decay of its voices, as a multiple of where it stands, as each note begins.</summary>
    Decay,

    /// <summary>Muted from a point on if 1, heard from a point on if 0.</summary>
    Mute,
}
