using System.Diagnostics;

namespace GateSplit.Cli.Tests;

/// <summary>The command as a shell calls it.</summary>
internal static class Cli
{
    /// <summary>Runs it to its end.</summary>
    public static (int Code, string Output, string Errors) Run(params string[] arguments)
    {
        using var process = Process.Start(new ProcessStartInfo("dotnet", [Path.Combine(AppContext.BaseDirectory, "gatesplit.dll"), .. arguments])
        {
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            UseShellExecute = false,
        })!;
        var errors = process.StandardError.ReadToEndAsync();
        var output = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        return (process.ExitCode, output, errors.Result);
    }
}
