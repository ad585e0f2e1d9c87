using System.Numerics.Tensors;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>
/// How well the pitches of tracks fit the notes that parts hold. In windows all along the take the spectrum is folded into the twelve pitch
/// classes (T. Fujishima, "Realtime chord recognition of musical sound"), and correlated with the classes that each part holds there.
/// </summary>
internal static class PitchFit
{
    private const int Window = 1 << 14; // frames at 48 kHz
    private const int MostWindows = 32;
    private const int Classes = 12;
    private const double Lowest = 50; // Hz
    private const double Highest = 4000;
    private const double Behind = 0.06; // s after a note begins: what is held has risen
    private const int LeastWindows = 4;
    private const float Silence = 1e-8f;
    private const float Soft = 0.05f; // 13 dB under what three quarters of the windows do not pass

    /// <summary>Compares all tracks with all parts that are held.</summary>
    /// <param name="sounds">The tracks; null for a silent one.</param>
    /// <param name="parts">The parts.</param>
    /// <param name="time">The time of the take.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>A correlation for each track and part, -1 to 1; null where the part is struck, or holds the same all along.</returns>
    public static double?[,] Of(IReadOnlyList<IMonoSound?> sounds, IReadOnlyList<Part> parts, TakeTime time, CancellationToken cancel)
    {
        var fits = new double?[sounds.Count, parts.Count];
        var starts = parts.SelectMany(p => p.Tones).Select(t => t.Start).Distinct().Order().ToList();
        if (starts.Count < LeastWindows)
        {
            return fits;
        }

        List<double> windows = [.. starts.Select((s, i) => (s, Part: i * MostWindows / starts.Count)).GroupBy(p => p.Part).Select(g => g.First().s + Behind)];
        Parallel.For(0, sounds.Count, new ParallelOptions { CancellationToken = cancel, MaxDegreeOfParallelism = Environment.ProcessorCount }, track =>
        {
            if (sounds[track] is not { } sound)
            {
                return;
            }

            // Where a file begins late or breaks off, nothing is missing in it.
            var length = (double)Lasting.Frames(Window, sound.Rate) / sound.Rate.Hz;
            var inside = windows.FindAll(w => time.Of(w) >= 0 && time.Of(w) + length <= (double)sound.Frames.Count / sound.Rate.Hz);
            if (inside.Count < LeastWindows)
            {
                return;
            }

            var heard = Heard(sound, [.. inside.Select(time.Of)]);
            for (var part = 0; part < parts.Count; part++)
            {
                fits[track, part] = parts[part].Tones.IsEmpty ? null : Correlation([.. inside.SelectMany(w => Held(parts[part], w, w + length))], heard);
            }
        });
        return fits;
    }

    /// <summary>The share of a window that each pitch class is held.</summary>
    private static float[] Held(Part part, double from, double until)
    {
        var held = new float[Classes];
        foreach (var tone in part.Tones.Where(t => t.Start < until && t.End > from))
        {
            var share = (Math.Min(until, tone.End) - Math.Max(from, tone.Start)) / (until - from);
            held[tone.Key % Classes] = (float)Math.Min(1, held[tone.Key % Classes] + share);
        }

        return held;
    }

    /// <summary>The pitch classes of all windows: what is far softer than most of the loud ones counts less, for where a part rests, others bleed in.</summary>
    private static float[] Heard(IMonoSound sound, double[] windows)
    {
        List<(float[] Classes, float Energy)> heard = [.. windows.Select(w => Heard(sound, w))];
        var soft = Soft * heard.Select(h => h.Energy).Order().ElementAt(windows.Length * 3 / 4);
        return [.. heard.SelectMany(h => h.Classes.Select(c => h.Energy < soft ? c * MathF.Sqrt(h.Energy / soft) : c))];
    }

    private static (float[] Classes, float Energy) Heard(IMonoSound sound, double at)
    {
        var (rate, window, heard) = (sound.Rate.Hz, Lasting.Frames(Window, sound.Rate), new float[Classes]);
        var samples = new float[window];
        sound.Read((long)(at * rate), samples);
        var energy = TensorPrimitives.SumOfSquares<float>(samples) / window;
        if (energy < Silence)
        {
            return (heard, 0);
        }

        Hann.Fade(samples);
        var bins = RealFourier.Forward(samples, window);
        for (var bin = (int)Math.Ceiling(Lowest * window / rate); bin < Math.Min(Highest * window / rate, window / 2.0); bin++)
        {
            var key = 69 + 12 * Math.Log2((double)bin * rate / window / 440);
            heard[((int)Math.Round(key) % Classes + Classes) % Classes] += (float)(((bins[bin].Real * bins[bin].Real) + (bins[bin].Imaginary * bins[bin].Imaginary)) / bin);
        }

        // Amplitudes, the strongest as 1, and what all classes have is none of them.
        for (var i = 0; i < Classes; i++)
        {
            heard[i] = MathF.Sqrt(heard[i]);
        }

        var (least, most) = (TensorPrimitives.Min<float>(heard), TensorPrimitives.Max<float>(heard));
        TensorPrimitives.Subtract(heard, least, heard);
        TensorPrimitives.Divide(heard, Math.Max(most, float.Epsilon), heard);
        return (heard, energy);
    }

    /// <summary>Pearson's, over what both have at least something of.</summary>
    private static double? Correlation(float[] held, float[] heard)
    {
        var (mean, other) = (TensorPrimitives.Average<float>(held), TensorPrimitives.Average<float>(heard));
        var (both, one, two) = (0.0, 0.0, 0.0);
        for (var i = 0; i < held.Length; i++)
        {
            both += (held[i] - mean) * (heard[i] - other);
            one += (held[i] - mean) * (held[i] - mean);
            two += (heard[i] - other) * (heard[i] - other);
        }

        return one == 0 ? null : two == 0 ? 0 : both / Math.Sqrt(one * two);
    }
}
