using GateSplit.Core.Sound;

namespace GateSplit.Tests.Shared;

/// <summary>Takes of sounds that sox makes, placed and mixed in plain loops: none of it made by Core but the WAVE files around the samples.</summary>
/// <param name="folder">Where they are written.</param>
/// <param name="rate">Frames a second.</param>
public sealed class SoxTake(string folder, int rate = SoxTake.Rate)
{
    /// <summary>Frames a second where nothing else is said.</summary>
    public const int Rate = 48000;

    private static readonly Dictionary<string, string> Effects = new()
    {
        ["Thud"] = "synth 0.30 sine 55 fade l 0 0.30 0.29 gain -6",
        ["Crack"] = "synth 0.12 whitenoise fade l 0 0.12 0.11 gain -9",
        ["Pluck"] = "synth 0.40 pluck 330 fade 0 0.40 0.20 gain -8",
        ["Chirp"] = "synth 0.15 sine 3000-900 fade l 0 0.15 0.14 gain -10",
        ["Tick"] = "synth 0.04 whitenoise highpass 7000 fade l 0 0.04 0.03 gain -8",
    };

    /// <summary>What there is to place.</summary>
    public static IReadOnlyList<string> Names { get; } = [.. Effects.Keys];

    /// <summary>Times at which each sound plays, from one second on: some together, most alone.</summary>
    /// <param name="seconds">How long.</param>
    /// <param name="seed">Gives the same again.</param>
    public static Dictionary<string, double[]> Times(double seconds, int seed = 1)
    {
        var random = new Random(seed);
        var times = Names.ToDictionary(n => n, _ => new List<double>());
        for (var at = 1.0; at < seconds - 1; at += 0.25)
        {
            times[Names[random.Next(Names.Count)]].Add(at);
            if (random.Next(5) == 0 && times[Names[random.Next(Names.Count)]] is var other && (other.Count == 0 || other[^1] < at))
            {
                other.Add(at);
            }
        }

        return times.ToDictionary(t => t.Key, t => t.Value.ToArray());
    }

    /// <summary>A sound at some times.</summary>
    public float[] Placed(string name, IEnumerable<double> times, double seconds)
    {
        var sound = Sound(name);
        var placed = new float[(int)(seconds * rate)];
        foreach (var time in times)
        {
            Add(placed, sound, (int)Math.Round(time * rate), 1);
        }

        return placed;
    }

    /// <summary>Adds one sound to another.</summary>
    public static void Add(float[] into, float[] sound, int at, double gain)
    {
        for (var i = Math.Max(0, -at); i < sound.Length && at + i < into.Length; i++)
        {
            into[at + i] += (float)(gain * sound[i]);
        }
    }

    /// <summary>Adds noise of so many dBFS RMS.</summary>
    public static float[] Noisy(float[] sound, double level, int seed = 7)
    {
        var random = new Random(seed);
        var amplitude = Math.Pow(10, level / 20) * Math.Sqrt(3);
        return [.. sound.Select(s => s + (float)(amplitude * (2 * random.NextDouble() - 1)))];
    }

    /// <summary>Writes a file of one channel or more.</summary>
    public string Save(string name, params float[][] channels)
    {
        var path = Path.Combine(folder, $"{name}.wav");
        using var writer = new WaveWriter(path, new AudioFormat(channels.Length, rate, SampleFormat.Float32), channels[0].Length, null);
        var frames = new float[channels[0].Length * channels.Length];
        for (var i = 0; i < frames.Length; i++)
        {
            frames[i] = channels[i % channels.Length][i / channels.Length];
        }

        var bytes = new byte[frames.Length * 4];
        Buffer.BlockCopy(frames, 0, bytes, 0, bytes.Length);
        writer.Write(bytes);
        writer.Finish();
        writer.TakeName();
        return path;
    }

    /// <summary>One sound as sox makes it.</summary>
    public float[] Sound(string name)
    {
        var raw = Path.Combine(folder, $"{name}.f32");
        if (!File.Exists(raw))
        {
            Programs.Run("sox", ["-n", "-R", "-r", $"{rate}", "-c", "1", "-e", "floating-point", "-b", "32", "-t", "raw", raw, .. Effects[name].Split(' ')]);
        }

        var bytes = File.ReadAllBytes(raw);
        var samples = new float[bytes.Length / 4];
        Buffer.BlockCopy(bytes, 0, samples, 0, bytes.Length);
        return samples;
    }
}
