namespace GateSplit.Core.Charts;

/// <summary>What an element is to the ear. Gives its colour and its two-letter glyph.</summary>
public enum Family
{
    /// <summary>Kick and other low drums.</summary>
    LowDrum,

    /// <summary>Snare, rim and clap.</summary>
    Snare,

    /// <summary>Hats and cymbals.</summary>
    HatAndCymbal,

    /// <summary>Toms and percussion.</summary>
    TomAndPercussion,

    /// <summary>Bass.</summary>
    Bass,

    /// <summary>Keys and pads.</summary>
    Keys,

    /// <summary>Lead lines.</summary>
    Lead,

    /// <summary>Room microphones, effect returns, mixes.</summary>
    RoomAndReturn,
}
