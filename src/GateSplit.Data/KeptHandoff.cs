using GateSplit.Core.Quantities;

namespace GateSplit.Data;

/// <summary>A handoff that was made, without what is in it.</summary>
public sealed record KeptHandoff
{
    /// <summary>It.</summary>
    public long Id { get; init; }

    /// <summary>Its session.</summary>
    public long SessionId { get; init; }

    /// <summary>Counted from 1 within the session.</summary>
    public int Number { get; init; }

    /// <summary>When it was made.</summary>
    public DateTime MadeAt { get; init; }

    /// <summary>The takes it is of, in words.</summary>
    public string Takes { get; init; } = "";

    /// <summary>How many audio files it has.</summary>
    public int Files { get; init; }

    /// <summary>The length of its zip.</summary>
    public Bytes Bytes { get; init; }

    /// <summary>The stored files it is made from, by the hashes of their bytes.</summary>
    public string[] Audio { get; init; } = [];

    /// <summary>For each of them the file of the handoff that needs it, by its track.</summary>
    public string[] Tracks { get; init; } = [];

    /// <summary>What can no longer be made, by its tracks.</summary>
    /// <param name="find">Where a stored file lies, by the hash of its bytes; null if it is there no longer.</param>
    public IReadOnlyList<string> Missing(Func<string, string?> find) => [.. Audio.Zip(Tracks).Where(a => find(a.First) is null).Select(a => a.Second).Distinct()];
}
