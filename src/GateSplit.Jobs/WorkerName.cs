using System.Diagnostics;

namespace GateSplit.Jobs;

/// <summary>Names the process that runs a job: machine, process number, and when it began.</summary>
internal static class WorkerName
{
    /// <summary>The name of this process.</summary>
    public static string Own { get; } = Of(Process.GetCurrentProcess());

    /// <summary>True if the process was on this machine and is not there any more.</summary>
    public static bool IsGone(string worker)
    {
        var parts = worker.Split(':');
        if (parts.Length != 3 || parts[0] != Environment.MachineName || !int.TryParse(parts[1], out var number))
        {
            return false;
        }

        try
        {
            using var process = Process.GetProcessById(number);
            return Of(process) != worker;
        }
        catch (Exception e) when (e is ArgumentException or InvalidOperationException)
        {
            return true;
        }
    }

    private static string Of(Process process) =>
        $"{Environment.MachineName}:{process.Id}:{new DateTimeOffset(process.StartTime).ToUnixTimeSeconds()}";
}
