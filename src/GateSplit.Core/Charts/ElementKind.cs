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
}
