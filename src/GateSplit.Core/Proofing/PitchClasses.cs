using System.Numerics.Tensors;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>
/// What is held and what is heard in a stretch of time, folded into the twelve pitch classes (T. Fujishima, "Realtime chord recognition of musical
/// sound").
/// </summary>
internal static class PitchClasses
{
    /// <summary>How many there are.</summary>
    public const int Count = 12;

    private const int Window = 1 << 14; // frames at 48 kHz
    private const double Lowest = 50; // Hz
    private const double Highest = 4000;
    private const float Silence = 1e-8f;
    private const float Soft = 0.05f; // 13 dB under what three quarters of the stretches do not pass

    /// <summary>How long a stretch is, in seconds.</summary>
    public static double Seconds(SampleRate rate) => (double)Lasting.Frames(Window, rate) / rate.Hz;

    /// <summary>The share of a stretch that each class is held.</summary>
    /// <param name="part">The part.</param>
    /// <param name="from">Where it begins, in seconds of the song.</param>
    /// <param name="until">Where it ends.</param>
    public static float[] Held(Part part, double from, double until)
    {
        var held = new float[Count];
        foreach (var tone in part.Tones.Where(t => t.Start < until && t.End > from))
        {
            var share = (Math.Min(until, tone.End) - Math.Max(from, tone.Start)) / (until - from);
            held[tone.Key % Count] = (float)Math.Min(1, held[tone.Key % Count] + share);
        }

        return held;
    }

    /// <summary>The classes that are heard: what is far softer than most of the loud stretches counts less, for where a part rests, others bleed in.</summary>
    /// <param name="sound">The sound.</param>
    /// <param name="starts">Where the stretches begin, in seconds.</param>
    /// <returns>All classes of the first, then those of the next, and so on.</returns>
    public static float[] Heard(IMonoSound sound, double[] starts)
    {
        List<(float[] Classes, float Energy)> heard = [.. starts.Select(s => Heard(sound, s))];
        var soft = Soft * heard.Select(h => h.Energy).Order().ElementAt(starts.Length * 3 / 4);
        return [.. heard.SelectMany(h => h.Classes.Select(c => h.Energy < soft ? c * MathF.Sqrt(h.Energy / soft) : c))];
    }

    /// <summary>Pearson's correlation; null where the same is held all along.</summary>
    public static double? Likeness(ReadOnlySpan<float> held, ReadOnlySpan<float> heard)
    {
        var (mean, other) = (TensorPrimitives.Average(held), TensorPrimitives.Average(heard));
        var both = TensorPrimitives.Dot(held, heard) - ((double)held.Length * mean * other);
        var one = TensorPrimitives.SumOfSquares(held) - ((double)held.Length * mean * mean);
        var two = TensorPrimitives.SumOfSquares(heard) - ((double)heard.Length * other * other);
        const double Nothing = 1e-6; // of the squares: what is left of equal numbers
        return one <= Nothing * held.Length ? null : two <= Nothing * heard.Length ? 0 : both / Math.Sqrt(one * two);
    }

    private static (float[] Classes, float Energy) Heard(IMonoSound sound, double at)
    {
        var (rate, window, heard) = (sound.Rate.Hz, Lasting.Frames(Window, sound.Rate), new float[Count]);
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
            heard[((int)Math.Round(key) % Count + Count) % Count] += (float)(((bins[bin].Real * bins[bin].Real) + (bins[bin].Imaginary * bins[bin].Imaginary)) / bin);
        }

        // Amplitudes, the strongest as 1, and what all classes have is none of them.
        for (var i = 0; i < Count; i++)
        {
            heard[i] = MathF.Sqrt(heard[i]);
        }

        var (least, most) = (TensorPrimitives.Min<float>(heard), TensorPrimitives.Max<float>(heard));
        TensorPrimitives.Subtract(heard, least, heard);
        TensorPrimitives.Divide(heard, Math.Max(most, float.Epsilon), heard);
        return (heard, energy);
    }
}
