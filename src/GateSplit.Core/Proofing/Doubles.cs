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
    private const double SlicesAlike = 0.8;

    /// <summary>Looks through all pairs.</summary>
    /// <param name="sounds">The files; null for one that is silent or has another sample rate.</param>
    /// <param name="onsets">Where the sounds of each begin.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>Pairs, the earlier first, each with how the later lies to it; of several copies each with the first.</returns>
    public static IReadOnlyList<(int One, DoubleOf Other)> Of(IReadOnlyList<IMonoSound?> sounds, IReadOnlyList<ImmutableArray<Onset>> onsets, CancellationToken cancel)
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
                sounds[one] is { } here && sounds[of] is { } there && MayBe(one, of) && Compared(here, there, [.. places[one], .. places[of]]) is { } alike
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

    private static DoubleOf? Compared(IMonoSound one, IMonoSound other, long[] places)
    {
        var reach = (int)(Furthest * one.Rate.Hz);
        var (sum, first, second) = (new double[2 * reach + 1], 0.0, 0.0);
        var (sound, within) = (new float[Window], new float[Window + 2 * reach]);
        var seconds = new double[2 * reach + 1];
        foreach (var place in places)
        {
            one.Read(place, sound);
            other.Read(place - reach, within);
            first += TensorPrimitives.SumOfSquares<float>(sound);
            var energy = (double)TensorPrimitives.SumOfSquares<float>(within.AsSpan(0, Window));
            var lags = CrossCorrelation.Lags(sound, within);
            for (var lag = 0; lag <= 2 * reach; lag++)
            {
                sum[lag] += lags[lag];
                seconds[lag] += Math.Max(0, energy);
                energy += lag == 2 * reach ? 0 : (double)within[lag + Window] * within[lag + Window] - (double)within[lag] * within[lag];
            }
        }

        var best = Enumerable.Range(0, sum.Length).MaxBy(i => Math.Abs(sum[i]));
        second = seconds[best];
        if (first == 0 || second == 0)
        {
            return null;
        }

        // Two microphones of one drum are alike as waves, where it is low; but not in all bands.
        var likeness = Math.Abs(sum[best]) / Math.Sqrt(first * second);
        return likeness < Alike || BandsDiffer(one, other, places, best - reach) > MostDifferent
            ? null
            : new(0, best - reach + CrossCorrelation.Between(sum, best), Decibels.FromRatio(sum[best] / first), Math.Sign(sum[best]), Math.Min(1, likeness));
    }

    /// <summary>By how many dB the gain of the other differs between those octaves in which the two go together.</summary>
    private static double BandsDiffer(IMonoSound one, IMonoSound other, long[] places, int lag)
    {
        const int Octaves = 9;
        const double Lowest = 45; // Hz
        const double Together = 0.9; // of the energies
        const double Apart = 0.5;
        const double Much = 0.06; // of the energy of a file
        var (own, both, there) = (new double[Octaves], new double[Octaves], new double[Octaves]);
        var samples = new float[Window];
        foreach (var place in places)
        {
            one.Read(place, samples);
            var first = CrossCorrelation.Spectrum(samples, Window);
            other.Read(place + lag, samples);
            var second = CrossCorrelation.Spectrum(samples, Window);
            for (var bin = 1; bin < Window / 2; bin++)
            {
                var octave = (int)Math.Floor(Math.Log2((double)bin * one.Rate.Hz / Window / Lowest));
                if (octave is >= 0 and < Octaves)
                {
                    own[octave] += first[bin].Magnitude * first[bin].Magnitude;
                    both[octave] += (Complex.Conjugate(first[bin]) * second[bin]).Real;
                    there[octave] += second[bin].Magnitude * second[bin].Magnitude;
                }
            }
        }

        bool GoApart(int b) => both[b] * both[b] < Apart * own[b] * there[b];
        if (Enumerable.Range(0, Octaves).Where(GoApart).Sum(b => own[b]) > Much * own.Sum() || Enumerable.Range(0, Octaves).Where(GoApart).Sum(b => there[b]) > Much * there.Sum())
        {
            return double.PositiveInfinity;
        }

        var gains = Enumerable.Range(0, Octaves).Where(b => own[b] > 0 && both[b] * both[b] > Together * own[b] * there[b]).Select(b => 20 * Math.Log10(Math.Abs(both[b]) / own[b])).ToList();
        return gains.Count == 0 ? 0 : gains.Max() - gains.Min();
    }
}
