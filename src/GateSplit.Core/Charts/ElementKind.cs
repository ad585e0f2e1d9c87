namespace GateSplit.Core.Charts;

/// <summary>Where an element's sound comes from.</summary>
public enum ElementKind
{
    /// <summary>A voice, pad or part that notes play.</summary>
    Voice,

    /// <summary>A microphone that hears several voices.</summary>
    Microphone,

    /// <summary>The output of a shared effect.</summary>
    Return,

    /// <summary>What comes in at the source's external input and leaves with the rest.</summary>
    External,

    /// <summary>A part that only sends notes on and makes no sound: it needs no port.</summary>
    NoteOnly,
}
