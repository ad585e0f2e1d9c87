namespace GateSplit.Core;

/// <summary>Tells a disk that has no room left from one that refuses for another reason.</summary>
public static class FullDisk
{
    /// <summary>ENOSPC of errno.h.</summary>
    internal const int NoSpace = 28;

    /// <summary>True if there was no room: by the number of the system, or by its words where a wrapper has lost the number.</summary>
    public static bool Is(IOException e) => (e.HResult & 0xFFFF) == NoSpace || e.Message.Contains("No space left", StringComparison.OrdinalIgnoreCase);
}
