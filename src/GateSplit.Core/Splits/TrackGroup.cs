namespace GateSplit.Core.Splits;

/// <summary>Tracks that are turned up and down together. Recording is not touched by it: tracks record what arrives.</summary>
/// <param name="Id">Short id, unique in the split.</param>
/// <param name="Name">Its name.</param>
/// <param name="Sums">True if its tracks are summed in it and leave by its output; false if it only sets levels.</param>
public sealed record TrackGroup(string Id, string Name, bool Sums)
{
    /// <summary>Level in dB.</summary>
    public double LevelDb { get; init; }

    /// <summary>Where the sum goes; null for the recorder's main output.</summary>
    public InputRef? Bus { get; init; }
}
