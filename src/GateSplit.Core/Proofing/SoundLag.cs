using System.Collections.Immutable;
using System.Numerics;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>By how much later one sound is in another than it is expected, told over several windows together.</summary>
/// <param name="Frames">By so many frames, with fractions.</param>
/// <param name="Sign">-1 where it is upside down, 0 where that is not known.</param>
internal readonly record struct SoundLag(double Frames, int Sign)
{
    /// <summary>The length of a window, in frames.</summary>
    public static int Window(SampleRate rate) => Lasting.Frames(1 << 13, rate);

    /// <summary>How far it is looked for, in seconds.</summary>
    public const double Furthest = 0.05;

    private const double Clear = 8; // a peak stands out so far where there is something in common
    private const double OnlyPlace = 1.3;

    /// <summary>Looks for it.</summary>
    /// <param name="one">The one, from which windows are taken.</param>
    /// <param name="other">The other, in which they are looked for, laid where it is expected: within a window the two must not run apart.</param>
    /// <param name="starts">Where in the one windows begin.</param>
    /// <param name="about">Where it is looked for, in seconds: near which lag, and how far on either side.</param>
    /// <param name="asked">Which place is told.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>Null where it cannot be told.</returns>
    public static SoundLag? Of(IMonoSound one, IMonoSound other, IEnumerable<long> starts, (double Near, double Within) about, Place asked, CancellationToken cancel)
    {
        var rate = one.Rate.Hz;
        var reach = (int)(Furthest * rate);
        var window = Window(one.Rate);
        var size = (int)BitOperations.RoundUpToPowerOf2((uint)(window + 2 * reach));
        var (sound, within, sum) = (new float[window], new float[window + 2 * reach], new Complex[size]);
        foreach (var start in starts)
        {
            cancel.ThrowIfCancellationRequested();
            one.Read(start, sound);
            other.Read(start - reach, within);
            Hann.Fade(sound);
            var (here, there) = (RealFourier.Forward(sound, size), RealFourier.Forward(within, size));
            for (var i = 0; i < size; i++)
            {
                sum[i] += Complex.Conjugate(here[i]) * there[i];
            }
        }

        if (asked != Place.Likely)
        {
            CrossCorrelation.Whiten(sum);
        }

        var lags = RealFourier.Back(sum, 2 * reach + 1);
        var rms = Math.Sqrt(lags.Sum(l => l * l) / lags.Length);
        var from = (int)Math.Clamp((about.Near - about.Within) * rate + reach, 0, lags.Length - 1);
        var until = (int)Math.Clamp((about.Near + about.Within) * rate + reach + 1, from + 1, lags.Length);
        var peak = CrossCorrelation.PeakOf(lags.AsSpan(from, until - from), one.Rate);
        var top = from + (int)Math.Round(peak.Lag);
        if ((top == from && from > 0) || (top == until - 1 && until < lags.Length))
        {
            return null; // it rises on beyond what was asked
        }

        var told = asked == Place.Likely ? rms > 0 : Math.Abs(lags[top]) >= Clear * rms && (asked == Place.Clear || peak.Lead >= OnlyPlace);
        return told ? new(from + peak.Lag - reach, peak.Sign) : null;
    }

    /// <summary>Of beginnings along a file, the strongest of each part of it, in seconds.</summary>
    /// <param name="onsets">The beginnings.</param>
    /// <param name="most">How many parts.</param>
    public static List<double> Strongest(ImmutableArray<Onset> onsets, int most) =>
        [.. onsets.Select((o, i) => (o, Part: i * most / onsets.Length)).GroupBy(p => p.Part).Select(g => g.MaxBy(p => p.o.Strength).o.Seconds)];

    /// <summary>Which place of one sound in another is told.</summary>
    public enum Place
    {
        /// <summary>A clear one, and no other is nearly as clear.</summary>
        Only,

        /// <summary>The clearest.</summary>
        Clear,

        /// <summary>That at which the two have most in common, for others to judge.</summary>
        Likely,
    }
}
