namespace GateSplit.Core;

/// <summary>One thing in a document that does not fit the rules of its type.</summary>
/// <param name="Place">Where it stands in the file, such as split.tracks[3].pan.</param>
/// <param name="Sentence">What is possible there, in words for the person who wants to change it.</param>
public readonly record struct Misfit(string Place, string Sentence)
{
    /// <summary>The sentence with its place, for a document that came from outside.</summary>
    public override string ToString() => $"{Place}: {Sentence}";
}
