namespace GateSplit.Data;

/// <summary>Where a job stands.</summary>
public static class JobState
{
    /// <summary>Waits for a worker.</summary>
    public const string Queued = "queued";

    /// <summary>A worker is at it.</summary>
    public const string Running = "running";

    /// <summary>Finished; its take is there.</summary>
    public const string Done = "done";

    /// <summary>Stopped by a person; nothing was kept.</summary>
    public const string Stopped = "stopped";

    /// <summary>Could not be done; its sentence says why.</summary>
    public const string Failed = "failed";

    /// <summary>The program ended while it ran; nothing was kept.</summary>
    public const string Interrupted = "interrupted";
}
