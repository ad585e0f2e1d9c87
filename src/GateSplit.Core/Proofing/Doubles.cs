using System.Collections.Immutable;
using System.Numerics;
using System.Numerics.Tensors;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>Finds files that hold the same: their normalised cross-correlation about their strongest beginnings, within 50 ms.</summary>
internal static class Doubles
{
    private const int Window = 1 << 13;
    private const double Furthest = 0.05; // s
    private const double Lead = 0.01; // s of a window before what begins
    private const int Places = 5; // looked at in each file
    private const int Slices = 16; // of a window, whose energies tell at once what cannot be the same
    private const double Alike = 0.9;
    private const double MostDifferent = 1.5; // dB between bands
    private const int Flat = 24; // frames
    private const double SlicesAlike = 0.8;
    private const int Octaves = 9;
    private const double Lowest = 45; // Hz

    /// <summary>Looks through all pairs.</summary>
    /// <param name="sounds">The files; null for one that is silent or has another sample rate.</param>
    /// <param name="onsets">Where the sounds of each begin.</param>
    /// <param name="clipped">Files that clip: their copies need not be as alike.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>Pairs, the earlier first, each with how the later lies to it; of several copies each with the first.</returns>
    public static IReadOnlyList<(int One, DoubleOf Other)> Of(IReadOnlyList<IMonoSound?> sounds, IReadOnlyList<ImmutableArray<Onset>> onsets, IReadOnlyList<bool> clipped, CancellationToken cancel)
    {
        var places = sounds.Select((sound, i) => sound is null ? [] : PlacesOf(sound, onsets[i])).ToList();
        var all = places.SelectMany(p => p).ToArray();
        var energies = sounds.Select(sound => sound is null ? [] : Energies(sound, all, cancel)).ToList();
        var firsts = new int[sounds.Count + 1];
        for (var i = 0; i < sounds.Count; i++)
        {
            firsts[i + 1] = firsts[i] + places[i].Length;
        }

        // What is a double of an earlier file need not be compared with later ones: they are doubles of that one as well.
        var (found, isDouble) = (new List<(int One, DoubleOf Other)>(), new bool[sounds.Count]);
        for (var other = 1; other < sounds.Count; other++)
        {
            var of = other;
            var own = Enumerable.Range(0, other).Where(one => !isDouble[one]).AsParallel().AsOrdered().WithCancellation(cancel).WithDegreeOfParallelism(Environment.ProcessorCount).SelectMany(one =>
                sounds[one] is { } here && sounds[of] is { } there && MayBe(one, of) && Compared(here, there, [.. places[one], .. places[of]], clipped[one] || clipped[of]) is { } alike
                    ? [(one, alike with { File = of })]
                    : Array.Empty<(int, DoubleOf)>()).ToList();
            isDouble[other] = own.Count > 0;
            found.AddRange(own);
        }

        return found;

        bool MayBe(int one, int other)
        {
            float[] Of(int file) => [.. Part(file, one), .. Part(file, other)];
            ReadOnlySpan<float> Part(int file, int owner) => energies[file].AsSpan(firsts[owner] * Slices, (firsts[owner + 1] - firsts[owner]) * Slices);
            return TensorPrimitives.CosineSimilarity<float>(Of(one), Of(other)) > SlicesAlike;
        }
    }

    /// <summary>Windows about the strongest beginnings, spread over the file.</summary>
    private static long[] PlacesOf(IMonoSound sound, ImmutableArray<Onset> onsets)
    {
        var rate = sound.Rate.Hz;
        return onsets.Length == 0
            ? [.. Enumerable.Range(1, Places).Select(i => sound.Frames.Count * i / (Places + 1))]
            : [.. onsets.Select((o, i) => (o, Part: i * Places / onsets.Length)).GroupBy(p => p.Part).Select(g => (long)((g.MaxBy(p => p.o.Strength).o.Seconds - Lead) * rate))];
    }

    /// <summary>The roots of the energies of all slices of all windows: smoothed, since what is compared may lie 50 ms apart.</summary>
    private static float[] Energies(IMonoSound sound, long[] places, CancellationToken cancel)
    {
        const int Slice = 2 * Window / Slices;
        var (energies, samples) = (new float[places.Length * Slices], new float[2 * Window]);
        for (var i = 0; i < places.Length; i++)
        {
            cancel.ThrowIfCancellationRequested();
            sound.Read(places[i] - Window / 2, samples);
            var own = Enumerable.Range(0, Slices).Select(s => TensorPrimitives.Norm<float>(samples.AsSpan(s * Slice, Slice))).ToArray();
            var reach = 1 + (int)(Furthest * sound.Rate.Hz / Slice);
            for (var s = 0; s < Slices; s++)
            {
                for (var near = Math.Max(0, s - reach); near <= Math.Min(Slices - 1, s + reach); near++)
                {
                    energies[i * Slices + s] += own[near];
                }
            }
        }

        return energies;
    }

    private static DoubleOf? Compared(IMonoSound one, IMonoSound other, long[] places, bool clipped)
    {
        var reach = (int)(Furthest * one.Rate.Hz);
        var (sum, sharp, first, second) = (new double[2 * reach + 1], new double[2 * reach + 1], 0.0, 0.0);
        var (sound, within) = (new float[Window], new float[Window + 2 * reach]);
        var seconds = new double[2 * reach + 1];
        foreach (var place in places)
        {
            one.Read(place, sound);
            other.Read(place - reach, within);
            first += TensorPrimitives.SumOfSquares<float>(sound);
            var energy = (double)TensorPrimitives.SumOfSquares<float>(within.AsSpan(0, Window));
            var lags = CrossCorrelation.Lags(sound, within);
            TensorPrimitives.Add(sharp, CrossCorrelation.Lags(sound, within, whitened: true), sharp);
            for (var lag = 0; lag <= 2 * reach; lag++)
            {
                sum[lag] += lags[lag];
                seconds[lag] += Math.Max(0, energy);
                energy += lag == 2 * reach ? 0 : (double)within[lag + Window] * within[lag + Window] - (double)within[lag] * within[lag];
            }
        }

        var best = Enumerable.Range(0, sum.Length).MaxBy(i => Math.Abs(sum[i]));
        if (Math.Abs(sum[best]) > 0)
        {
            // Where all is low its top is flat: the phases alone tell the place.
            best = Enumerable.Range(Math.Max(0, best - Flat), Math.Min(2 * reach, best + Flat) - Math.Max(0, best - Flat) + 1).MaxBy(i => sharp[i] * Math.Sign(sum[best]));
        }

        second = seconds[best];
        if (first == 0 || second == 0)
        {
            return null;
        }

        var likeness = Math.Abs(sum[best]) / Math.Sqrt(first * second);
        var between = CrossCorrelation.Between(sharp, best);
        return likeness < Alike || !IsCopy(one, other, places, (best - reach, between), clipped)
            ? null
            : new(0, best - reach + between, Decibels.FromRatio(sum[best] / first), Math.Sign(sum[best]), Math.Min(1, likeness));
    }

    /// <summary>
    /// True if one may be a copy of the other. Two microphones of one drum are alike as waves where it is low; but a copy is as loud in all octaves,
    /// and goes with the other in each as far as the noise of both lets it.
    /// </summary>
    private static bool IsCopy(IMonoSound one, IMonoSound other, long[] places, (int Frames, double More) lag, bool clipped)
    {
        const double Apart = 0.5;
        const double Much = 0.06; // of the energy of a file
        const double OverNoise = 100; // where nothing but the sound is heard
        const double Same = 0.95;
        const double Faint = 1e-4; // of the energy of a file: what is moved between samples is not the same there
        const double Clipping = 0.1; // where one clips: what that adds is elsewhere
        var (own, both, there) = (new double[Octaves], new double[Octaves], new double[Octaves]);
        var byPlace = Enumerable.Range(0, Octaves).Select(_ => new List<(double Alike, double Gain)>()).ToArray(); // one of them may have a hole

        var samples = new float[Window];
        foreach (var place in places)
        {
            one.Read(place, samples);
            var first = CrossCorrelation.Spectrum(samples, Window);
            other.Read(place + lag.Frames, samples);
            var second = CrossCorrelation.Spectrum(samples, Window);
            var (here, with, beside) = (new double[Octaves], new double[Octaves], new double[Octaves]);
            for (var bin = 1; bin < Window / 2; bin++)
            {
                if (Octave(bin, one.Rate.Hz) is { } octave)
                {
                    here[octave] += first[bin].Magnitude * first[bin].Magnitude;
                    with[octave] += (Complex.Conjugate(first[bin]) * second[bin] * Complex.FromPolarCoordinates(1, 2 * Math.PI * bin * lag.More / Window)).Real;
                    beside[octave] += second[bin].Magnitude * second[bin].Magnitude;
                }
            }

            for (var octave = 0; octave < Octaves; octave++)
            {
                (own[octave], both[octave], there[octave]) = (own[octave] + here[octave], both[octave] + with[octave], there[octave] + beside[octave]);
                if (here[octave] * beside[octave] > 0)
                {
                    byPlace[octave].Add((with[octave] * with[octave] / (here[octave] * beside[octave]), 20 * Math.Log10(Math.Abs(with[octave]) / here[octave])));
                }
            }
        }

        var (noise, otherNoise) = (Quietest(one), Quietest(other));
        bool GoApart(int b) => both[b] * both[b] < Apart * own[b] * there[b];
        var octaves = Enumerable.Range(0, Octaves).ToList();
        if (octaves.Where(GoApart).ToList() is var apart && (apart.Sum(b => own[b]) > Much * own.Sum() || apart.Sum(b => there[b]) > Much * there.Sum()))
        {
            return false;
        }

        var least = clipped ? Clipping : Faint;
        bool IsLoud(int b) => own[b] > least * own.Sum() && there[b] > least * there.Sum();
        bool IsClear(int b) => own[b] > OverNoise * places.Length * noise[b] && there[b] > OverNoise * places.Length * otherNoise[b];
        bool GoTogether(int b) => TheilSen.Median([.. byPlace[b].Select(p => p.Alike)]) > Same;
        var loud = octaves.Where(IsLoud).ToList();
        var gains = loud.Where(GoTogether).Select(b => TheilSen.Median([.. byPlace[b].Select(p => p.Gain)])).DefaultIfEmpty().ToList();
        return gains.Max() - gains.Min() <= MostDifferent && loud.TrueForAll(b => GoTogether(b) || !IsClear(b));
    }

    private static int? Octave(int bin, int rate) => (int)Math.Floor(Math.Log2((double)bin * rate / Window / Lowest)) is >= 0 and < Octaves and var octave ? octave : null;

    /// <summary>The energy of each octave where a file is quietest in it, of windows spread over it.</summary>
    private static double[] Quietest(IMonoSound sound)
    {
        const int Looks = 24;
        var least = Enumerable.Repeat(double.MaxValue, Octaves).ToArray();
        var samples = new float[Window];
        for (var look = 0; look < Looks; look++)
        {
            sound.Read(Math.Max(0, sound.Frames.Count - Window) * look / Looks, samples);
            var (bins, energies) = (CrossCorrelation.Spectrum(samples, Window), new double[Octaves]);
            for (var bin = 1; bin < Window / 2; bin++)
            {
                if (Octave(bin, sound.Rate.Hz) is { } octave)
                {
                    energies[octave] += bins[bin].Magnitude * bins[bin].Magnitude;
                }
            }

            TensorPrimitives.Min<double>(least, energies, least);
        }

        return least;
    }
}
