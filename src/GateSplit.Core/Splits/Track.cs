using GateSplit.Core.Charts;

namespace GateSplit.Core.Splits;

/// <summary>A destination in the recorder.</summary>
/// <param name="Id">Short id, unique in the split.</param>
/// <param name="Name">Its name.</param>
/// <param name="Width">Mono or stereo.</param>
public sealed record Track(string Id, string Name, Width Width)
{
    /// <summary>What it listens to; null for nothing.</summary>
    public InputRef? Input { get; init; }

    /// <summary>The pass it is recorded in, from 1.</summary>
    public int Pass { get; init; } = 1;

    /// <summary>True if its pass records it.</summary>
    public bool Armed { get; init; } = true;

    /// <summary>When its input is heard.</summary>
    public MonitorMode Monitor { get; init; } = MonitorMode.WhileArmed;

    /// <summary>The bus it feeds; null for the recorder's main output.</summary>
    public InputRef? Bus { get; init; }

    /// <summary>The group it belongs to; null for none.</summary>
    public string? GroupId { get; init; }

    /// <summary>Its fader in dB, after the recording.</summary>
    public double LevelDb { get; init; }

    /// <summary>Its pan or balance in the recorder's mix, -1 left to 1 right, after the recording.</summary>
    public double Pan { get; init; }

    /// <summary>True for a channel that is only heard and mixed, never recorded.</summary>
    public bool Live { get; init; }

    /// <summary>True if the notes of what it records are kept on a note track beside it.</summary>
    public bool KeepsNotes { get; init; } = true;

    /// <summary>True if its input is heard now.</summary>
    public bool Heard => Live || Monitor == MonitorMode.Always || (Monitor == MonitorMode.WhileArmed && Armed);

    /// <summary>Its name, or words that stand in for one.</summary>
    public string Title => string.IsNullOrWhiteSpace(Name) ? "a track with no name" : Name;
}
