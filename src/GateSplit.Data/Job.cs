namespace GateSplit.Data;

/// <summary>Long work in the background.</summary>
public sealed record Job
{
    /// <summary>The job.</summary>
    public long Id { get; init; }

    /// <summary>Its session; 0 while it is only being brought in.</summary>
    public long SessionId { get; init; }

    /// <summary>Print or bring-in, as in <see cref="TakeKind"/>.</summary>
    public string Kind { get; init; } = "";

    /// <summary>One of <see cref="JobState"/>.</summary>
    public string State { get; init; } = "";

    /// <summary>What was asked for, as JSON.</summary>
    public string Request { get; init; } = "";

    /// <summary>The share done, 0 to 1.</summary>
    public double Share { get; init; }

    /// <summary>What to tell the user about it.</summary>
    public string Sentence { get; init; } = "";

    /// <summary>True once a person wants it to stop.</summary>
    public bool StopRequested { get; init; }

    /// <summary>The take it made.</summary>
    public long? TakeId { get; init; }

    /// <summary>For a print: the print that this pass belongs to.</summary>
    public long? PrintId { get; init; }

    /// <summary>For a print: which pass, from 1.</summary>
    public int Pass { get; init; }

    /// <summary>How many workers have begun it.</summary>
    public int Tries { get; init; }

    /// <summary>Peaks of the tracks just now, a line for each: its name, a tab, the peak as a ratio; empty while nobody tells.</summary>
    public string Levels { get; init; } = "";

    /// <summary>When it was asked for.</summary>
    public DateTime CreatedAt { get; init; }

    /// <summary>Seconds since a worker took it; null before.</summary>
    public double? Seconds { get; init; }

    /// <summary>True while it waits or runs.</summary>
    public bool IsActive => State is JobState.Queued or JobState.Running;

    /// <summary>Seconds it will still take, by its pace so far; null while nobody can tell.</summary>
    public double? SecondsLeft => State == JobState.Running && Share > 0.02 && Seconds is { } spent ? spent * (1 - Share) / Share : null;
}
