using System.Diagnostics;

namespace GateSplit.Core.Tests;

/// <summary>Independent programs that check what ours did.</summary>
internal static class Tools
{
    /// <summary>Runs a program and gives its standard output; fails the test if it fails.</summary>
    public static string Run(string program, params string[] arguments) => System.Text.Encoding.UTF8.GetString(RunBytes(program, arguments));

    /// <summary>Runs a program and gives its standard output as bytes; fails the test if it fails.</summary>
    public static byte[] RunBytes(string program, params string[] arguments)
    {
        using var process = Process.Start(new ProcessStartInfo(program, arguments)
        {
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            UseShellExecute = false,
        })!;
        var errors = process.StandardError.ReadToEndAsync(TestContext.Current.CancellationToken);
        using var output = new MemoryStream();
        process.StandardOutput.BaseStream.CopyTo(output);
        process.WaitForExit();
        Assert.True(process.ExitCode == 0, $"{program} {string.Join(' ', arguments)}: {errors.Result}");
        return output.ToArray();
    }

    /// <summary>Raw samples of a file as ffmpeg decodes them, in one of its sample formats ("s24le", "f32le").</summary>
    public static byte[] Decode(string path, string format) =>
        RunBytes("ffmpeg", "-v", "error", "-i", path, "-f", format, "-c:a", "pcm_" + format, "-");
}
