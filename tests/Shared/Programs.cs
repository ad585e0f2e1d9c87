using System.Diagnostics;

namespace GateSplit.Tests.Shared;

/// <summary>Independent programs that check what ours did.</summary>
public static class Programs
{
    /// <summary>Runs one and gives its standard output as bytes; fails if it fails.</summary>
    public static byte[] RunBytes(string program, params string[] arguments)
    {
        using var process = Process.Start(new ProcessStartInfo(program, arguments)
        {
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            UseShellExecute = false,
        })!;
        var errors = process.StandardError.ReadToEndAsync();
        using var output = new MemoryStream();
        process.StandardOutput.BaseStream.CopyTo(output);
        process.WaitForExit();
        return process.ExitCode == 0 ? output.ToArray() : throw new InvalidOperationException($"{program}: {errors.Result}");
    }

    /// <summary>Runs one and gives what it complains about, where it does not fail.</summary>
    public static string RunErrors(string program, params string[] arguments)
    {
        using var process = Process.Start(new ProcessStartInfo(program, arguments) { RedirectStandardOutput = true, RedirectStandardError = true, UseShellExecute = false })!;
        var output = process.StandardOutput.ReadToEndAsync();
        var errors = process.StandardError.ReadToEnd().Trim();
        process.WaitForExit();
        return process.ExitCode == 0 ? errors : throw new InvalidOperationException($"{program}: {errors} {output.Result}");
    }

    /// <summary>Runs one that must fail with 1, and gives what it complains about.</summary>
    public static string RunRefused(string program, params string[] arguments)
    {
        using var process = Process.Start(new ProcessStartInfo(program, arguments) { RedirectStandardOutput = true, RedirectStandardError = true, UseShellExecute = false })!;
        var output = process.StandardOutput.ReadToEndAsync();
        var errors = process.StandardError.ReadToEnd();
        process.WaitForExit();
        return process.ExitCode == 1 ? errors : throw new InvalidOperationException($"{program} ended with {process.ExitCode}: {errors} {output.Result}");
    }

    /// <summary>Runs one and gives its standard output.</summary>
    public static string Run(string program, params string[] arguments) => System.Text.Encoding.UTF8.GetString(RunBytes(program, arguments)).Trim();

    /// <summary>Raw samples of a file as ffmpeg decodes them, in one of its sample formats ("s24le", "f32le").</summary>
    public static byte[] Decode(string path, string format) =>
        RunBytes("ffmpeg", "-v", "error", "-i", path, "-f", format, "-c:a", "pcm_" + format, "-");

    /// <summary>The samples of a mono file as floats, decoded by ffmpeg.</summary>
    public static float[] Samples(string path)
    {
        var bytes = Decode(path, "f32le");
        var samples = new float[bytes.Length / 4];
        Buffer.BlockCopy(bytes, 0, samples, 0, bytes.Length);
        return samples;
    }

    /// <summary>
    /// Where sounds begin: the first sample of each stretch that rises above a level after a silence of its own.
    /// </summary>
    /// <param name="samples">One channel.</param>
    /// <param name="above">What counts as sound.</param>
    /// <param name="rise">How many times louder than the 5 ms before a sound must be.</param>
    public static List<int> Onsets(float[] samples, float above, float rise)
    {
        const int window = 240, apart = 2400;
        var onsets = new List<int>();
        for (var i = window; i < samples.Length; i++)
        {
            if (Math.Abs(samples[i]) < above || (onsets.Count > 0 && i - onsets[^1] < apart))
            {
                continue;
            }

            var before = 0f;
            for (var j = i - window; j < i - 24; j++)
            {
                before = Math.Max(before, Math.Abs(samples[j]));
            }

            if (Math.Abs(samples[i]) > before * rise)
            {
                onsets.Add(i);
            }
        }

        return onsets;
    }
}
