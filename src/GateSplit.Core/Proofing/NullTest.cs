using System.Collections.Immutable;
using System.Numerics.Tensors;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using MathNet.Numerics.LinearAlgebra;

namespace GateSplit.Core.Proofing;

/// <summary>What is left of a mix when its tracks are taken away from it.</summary>
/// <param name="Unity">All tracks as they are, against the mix.</param>
/// <param name="Fitted">Each at the gain that leaves least (least squares), against the mix.</param>
/// <param name="Octaves">By octave, fitted, each against what the mix holds of it.</param>
/// <param name="OverTime">Along the take, fitted: what is left, against the whole mix.</param>
/// <param name="Gains">The gain of each track in each side of the mix; negative where it is upside down; null where it cannot be told.</param>
public sealed record NullTest(
    Decibels Unity, Decibels Fitted, ImmutableArray<(double Hertz, Decibels Left)> Octaves, ImmutableArray<Decibels> OverTime, ImmutableArray<ImmutableArray<double?>> Gains)
{
    private const int Window = 1 << 13; // frames at 48 kHz
    private const int Windows = 48; // the gains are worked out from
    private const int Spectra = 96; // the octaves are worked out from
    private const int Stretches = 200; // along the take
    private const int Block = 1 << 15;
    private const double Ridge = 1e-12;
    private const double Tells = 0.5; // a track whose absence would leave less more than is left cannot be told
    private const double Least = 1e-7; // of the energy of the mix
    private static readonly double[] Centres = [31.5, 63, 125, 250, 500, 1000, 2000, 4000, 8000, 16000];

    /// <summary>Works it out.</summary>
    /// <param name="mix">The sides of the mix: one, or two.</param>
    /// <param name="tracks">The sides of each track, as many as of the mix.</param>
    /// <param name="place">Where the tracks lie in the mix's time: their offset at its start in frames, and how much it grows with each frame.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>Null where the mix or the tracks hold nothing.</returns>
    internal static NullTest? Of(IReadOnlyList<IMonoSound> mix, IReadOnlyList<IReadOnlyList<IMonoSound>> tracks, (double Start, double Slope) place, CancellationToken cancel)
    {
        if (tracks.Count == 0 || mix[0].Frames == 0)
        {
            return null;
        }

        var gains = new double?[tracks.Count, mix.Count];
        var fitted = new double[tracks.Count, mix.Count];
        var (own, unity, left) = (0.0, 0.0, 0.0);
        var overTime = new double[Stretches];
        var (ofMix, ofRest) = (new double[Centres.Length], new double[Centres.Length]);
        for (var side = 0; side < mix.Count; side++)
        {
            IMonoSound Track(int track) => tracks[track][side];
            var solved = Fit(mix[side], [.. Enumerable.Range(0, tracks.Count).Select(t => new Placed(Track(t), place))], place, cancel);
            if (solved is null)
            {
                continue;
            }

            for (var track = 0; track < tracks.Count; track++)
            {
                (fitted[track, side], gains[track, side]) = (solved[track].Gain, solved[track].Told ? solved[track].Gain : null);
            }

            var plain = new Placed(new MonoSum([.. Enumerable.Range(0, tracks.Count).Select(t => (Track(t), 1f))]), place);
            var weighed = new Placed(new MonoSum([.. Enumerable.Range(0, tracks.Count).Select(t => (Track(t), (float)solved[t].Gain))]), place);
            Walk(mix[side], plain, weighed, place);
            Listen(mix[side], weighed, place);
        }

        return own == 0
            ? null
            : new(
                Level(unity, own),
                Level(left, own),
                [.. Centres.Select((c, i) => (c, Level(ofRest[i], ofMix[i]))).Where((_, i) => ofMix[i] > own * Least * Least)],
                [.. overTime.Select(e => Level(e * Stretches, own))],
                [.. Enumerable.Range(0, tracks.Count).Select(t => ImmutableArray.CreateRange(Enumerable.Range(0, mix.Count).Select(s => gains[t, s])))]);

        void Walk(IMonoSound side, Placed plain, Placed weighed, (double Start, double Slope) at)
        {
            var (wanted, sum, other) = (new float[Block], new float[Block], new float[Block]);
            foreach (var (start, count) in Common(side, weighed.Sound, at))
            {
                cancel.ThrowIfCancellationRequested();
                Read(side, start, wanted, at);
                plain.Read(start, sum);
                weighed.Read(start, other);
                var whole = wanted.AsSpan(0, count);
                own += TensorPrimitives.SumOfSquares<float>(whole);
                TensorPrimitives.Subtract(whole, sum.AsSpan(0, count), sum);
                unity += TensorPrimitives.SumOfSquares<float>(sum.AsSpan(0, count));
                TensorPrimitives.Subtract(whole, other.AsSpan(0, count), other);
                var energy = TensorPrimitives.SumOfSquares<float>(other.AsSpan(0, count));
                left += energy;
                overTime[Math.Min(Stretches - 1, start * Stretches / Math.Max(1, side.Frames.Count))] += energy;
            }
        }

        void Listen(IMonoSound side, Placed weighed, (double Start, double Slope) at)
        {
            var (wanted, rest) = (new float[Lasting.Frames(Window, side.Rate)], new float[Lasting.Frames(Window, side.Rate)]);
            for (var i = 0; i < Spectra; i++)
            {
                cancel.ThrowIfCancellationRequested();
                var start = side.Frames.Count * i / Spectra;
                Read(side, start, wanted, at);
                weighed.Read(start, rest);
                TensorPrimitives.Subtract(wanted, rest, rest);
                Octave(wanted, side.Rate, ofMix);
                Octave(rest, side.Rate, ofRest);
            }
        }
    }

    private static Decibels Level(double energy, double of) => of == 0 ? Decibels.Silence : Decibels.FromRatio(Math.Sqrt(energy / of));

    /// <summary>Blocks of the mix in which the tracks are there.</summary>
    private static IEnumerable<(long Start, int Count)> Common(IMonoSound mix, IMonoSound tracks, (double Start, double Slope) place)
    {
        for (var at = Math.Max(0, (long)Math.Ceiling(-place.Start)); at < mix.Frames.Count; at += Block)
        {
            var count = Math.Min(Block, Math.Min(mix.Frames.Count - at, (long)Math.Floor((tracks.Frames.Count - place.Start) / (1 + place.Slope)) - at));
            if (count <= 0)
            {
                yield break;
            }

            yield return (at, (int)count);
        }
    }

    /// <summary>Reads the mix as the tracks are read: where these are moved between samples it goes through the same filter.</summary>
    private static void Read(IMonoSound mix, long at, float[] into, (double Start, double Slope) place) => new Placed(mix, (0, 0), place.Slope != 0 || place.Start != Math.Round(place.Start)).Read(at, into);

    /// <summary>The gains that leave least in windows spread over the take, and which of them can be told.</summary>
    private static (double Gain, bool Told)[]? Fit(IMonoSound mix, IReadOnlyList<Placed> tracks, (double Start, double Slope) place, CancellationToken cancel)
    {
        var count = tracks.Count;
        var rows = Enumerable.Range(0, count + 1).Select(_ => new float[Lasting.Frames(Window, mix.Rate)]).ToArray();
        var sums = new double[count + 1, count + 1];
        for (var i = 0; i < Windows; i++)
        {
            cancel.ThrowIfCancellationRequested();
            var start = (long)((i + 0.5) * mix.Frames.Count / Windows) - rows[count].Length / 2;
            Read(mix, start, rows[count], place);
            for (var track = 0; track < count; track++)
            {
                tracks[track].Read(start, rows[track]);
            }

            for (var r = 0; r <= count; r++)
            {
                for (var c = r; c <= count; c++)
                {
                    sums[r, c] += TensorPrimitives.Dot<float>(rows[r], rows[c]);
                }
            }
        }

        var energy = sums[count, count];
        if (energy == 0)
        {
            return null;
        }

        var heaviest = Enumerable.Range(0, count).Max(t => sums[t, t]);
        var matrix = Matrix<double>.Build.Dense(count, count, (r, c) => (r <= c ? sums[r, c] : sums[c, r]) + (r == c ? Ridge * heaviest + double.Epsilon : 0));
        var inverse = matrix.Inverse();
        var wanted = Vector<double>.Build.Dense(count, t => sums[t, count]);
        var gains = inverse * wanted;
        var left = Math.Max(0, energy - gains * wanted);

        // Without a track, the rest would rise by its gain squared over its place in the inverse.
        return [.. gains.Select((g, t) => double.IsFinite(g) && sums[t, t] > 0 ? (g, g * g / inverse[t, t] > Tells * left + Least * energy) : (0, false))];
    }

    private static void Octave(ReadOnlySpan<float> samples, SampleRate rate, double[] energies)
    {
        var faded = samples.ToArray();
        Hann.Fade(faded);
        var bins = RealFourier.Forward(faded, faded.Length);
        for (var bin = 1; bin < bins.Length / 2; bin++)
        {
            var octave = (int)Math.Round(Math.Log2((double)bin * rate.Hz / bins.Length / Centres[0]));
            if (octave >= 0 && octave < Centres.Length)
            {
                energies[octave] += bins[bin].Real * bins[bin].Real + bins[bin].Imaginary * bins[bin].Imaginary;
            }
        }
    }
}
