
namespace GateSplit.Core.Setup;

/// <summary>One thing to do on the real gear.</summary>
/// <param name="Sentence">What, complete in itself: who follows it needs nothing else.</param>
public sealed record SetupStep(string Sentence)
{
    /// <summary>What helps while doing it, such as the numbers on the other side; nothing that is needed.</summary>
    public string Note { get; init; } = "";

    /// <summary>How many actions it takes.</summary>
    public int Actions { get; init; } = 1;

    /// <summary>How many it would take one at a time.</summary>
    public int OneByOne { get; init; } = 1;
}
