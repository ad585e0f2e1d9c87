namespace GateSplit.Core.Splits;

/// <summary>What somebody does to the notes of an element while it plays.</summary>
public enum StepKind
{
    /// <summary>It is struck again and again, so many times a quarter.</summary>
    Roll,

    /// <summary>A short stretch, so many to a bar, comes round and round.</summary>
    Repeat,

    /// <summary>The notes of another bar take the place of its own.</summary>
    Variation,
}
