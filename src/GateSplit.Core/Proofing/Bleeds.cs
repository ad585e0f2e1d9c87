using System.Collections.Immutable;
using System.Numerics;
using System.Numerics.Tensors;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>
/// What tracks hold of the elements of others. At the notes that an element plays alone, its own track is led through the short filter that leaves
/// least of the other (Wiener's): what that explains is bleed, and what else becomes louder there is as well, for what is heard by another
/// microphone need not be the same wave.
/// </summary>
internal sealed class Bleeds
{
    private const int Size = 1 << 13;
    private const int Length = 4096; // frames of a hit that are looked at
    private const double Lead = 0.012; // s before a hit
    private const double Early = 0.010; // s bleed may be earlier than the element's own track
    private const double Late = 0.040; // s it may be later
    private const int MostHits = 16;
    private const int LeastHits = 3;
    private const double Alone = 0.02; // s before a note in which no other may play
    private const int Before = 8; // taps before the strongest
    private static readonly int[] Taps = [48, 192]; // the long filter tells low bands apart, the short one takes less of the noise for bleed
    private const double Ridge = 1e-6;
    private const double Unheard = 3e-3;
    private const double HoldsOfHeld = 0.8; // what is held in two places may be one pitch for a while
    private const double Holds = 0.5; // of what the filter of one half of the hits explains, it must in the other
    private const double OverNoise = 4; // times what would be explained of noise
    private const double OverBefore = 8; // times what was there before a hit
    private const int LeastClear = 4; // hits
    private const double ShareClear = 0.2; // of all
    private static readonly Decibels Least = new(-52);
    private readonly IReadOnlyList<IMonoSound?> _sounds;
    private readonly CancellationToken _cancel;

    private Bleeds(IReadOnlyList<IMonoSound?> sounds, CancellationToken cancel) => (_sounds, _cancel) = (sounds, cancel);

    /// <summary>Measures all tracks against the elements of all others.</summary>
    /// <param name="sounds">The files; null for one that is silent or has another sample rate.</param>
    /// <param name="identities">What each of them holds.</param>
    /// <param name="parts">The parts.</param>
    /// <param name="time">The time of the take.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>For each file what else is in it, the loudest first; and the files whose element is never heard alone, so that nobody can tell where else it is.</returns>
    public static (ImmutableArray<ImmutableArray<Bleed>> Found, ImmutableArray<int> NeverAlone) Of(
        IReadOnlyList<IMonoSound?> sounds, IReadOnlyList<Identity> identities, IReadOnlyList<Part> parts, TakeTime time, CancellationToken cancel)
    {
        var found = new List<(int File, Bleed Bleed)>[sounds.Count];
        var never = new bool[sounds.Count];
        var bleeds = new Bleeds(sounds, cancel);
        Parallel.For(0, sounds.Count, new ParallelOptions { CancellationToken = cancel, MaxDegreeOfParallelism = Environment.ProcessorCount }, from =>
        {
            found[from] = [];
            if (sounds[from] is not { } sound || identities[from].Part is not { } part || parts.Any(p => parts[part].Contains(p)))
            {
                return;
            }

            var hits = AloneHits(parts, part).Select(n => ((long)((time.Of(n.Note) + (identities[from].Offset ?? 0) - Lead) * sound.Rate.Hz), n.Room)).ToList();
            if (hits.Count < LeastHits)
            {
                never[from] = true;
                return;
            }

            foreach (var (file, level) in bleeds.From(from, hits, parts[part].Held).Where(b => !(identities[b.File].Part is { } other && parts[other].Shares(parts[part]))))
            {
                found[from].Add((file, new(from, level)));
            }
        });
        return (
            [.. sounds.Select((_, file) => found.SelectMany(f => f).Where(f => f.File == file).Select(f => f.Bleed).OrderByDescending(b => b.Level).ThenBy(b => b.From).ToImmutableArray())],
            [.. Enumerable.Range(0, sounds.Count).Where(f => never[f])]);
    }

    /// <summary>Notes of a part near which no other plays, those with most room about them first.</summary>
    private static IEnumerable<(double Note, double Room)> AloneHits(IReadOnlyList<Part> parts, int part)
    {
        const double After = 0.085; // s: as long as what is looked at
        var others = parts.Where((p, i) => i != part && !p.Shares(parts[part])).SelectMany(p => p.Notes).Order().ToArray();
        return parts[part].Notes
            .Select(n => (Note: n, Room: Room(others, n)))
            .Where(n => n.Room.Before > Alone && n.Room.After > After)
            .OrderByDescending(n => n.Room.Before + Math.Min(n.Room.After, 2 * After))
            .Take(MostHits)
            .Select(n => (n.Note, n.Room.After));
    }

    private static (double Before, double After) Room(double[] others, double note)
    {
        const double Enough = 1; // s
        var next = Array.BinarySearch(others, note);
        next = next < 0 ? ~next : next;
        return (next == 0 ? Enough : Math.Min(Enough, note - others[next - 1]), next == others.Length ? Enough : Math.Min(Enough, others[next] - note));
    }

    private IEnumerable<(int File, Decibels Level)> From(int from, List<(long At, double Room)> hits, bool held)
    {
        var sound = _sounds[from]!;
        var own = hits.Select(h => Read(sound, h.At)).ToList();
        var spectra = own.Select(o => CrossCorrelation.Spectrum(o.Sound, Size)).ToList();
        var energies = own.Select(o => o.Energy - o.Before).ToList();
        var whole = Whole(sound, hits);
        for (var file = 0; file < _sounds.Count; file++)
        {
            _cancel.ThrowIfCancellationRequested();
            Tag = $"{from} in {file}";
            if (file != from && _sounds[file] is { } other && Level(other, [.. hits.Select(h => h.At)], spectra, whole, energies, held) is { } level && level >= Least)
            {
                yield return (file, level);
            }
        }
    }

    /// <summary>The autocorrelation of an element over as long as it sounds alone, which tells how its energy lies over the bands.</summary>
    private static double[] Whole(IMonoSound sound, List<(long At, double Room)> hits)
    {
        const int Longest = 1 << 15;
        const int Most = 4;
        var longest = hits.OrderByDescending(h => h.Room).Take(Most).ToList();
        var samples = new float[Math.Clamp((int)((longest[^1].Room + Lead) * sound.Rate.Hz), Length, Longest - Taps[^1])];
        var sum = new Complex[Longest];
        foreach (var (at, _) in longest)
        {
            sound.Read(at, samples);
            var bins = CrossCorrelation.Spectrum(samples, Longest);
            for (var i = 0; i < Longest; i++)
            {
                sum[i] += bins[i] * Complex.Conjugate(bins[i]);
            }
        }

        return CrossCorrelation.Back(sum, Taps[^1]);
    }

    [ThreadStatic] private static string? Tag;
    private static Decibels? Level(IMonoSound sound, List<long> hits, List<Complex[]> own, double[] whole, List<double> ownEnergies, bool held)
    {
        var rate = sound.Rate.Hz;
        var heard = hits.Select(h => Read(sound, h)).ToList();
        var weights = Weights(heard);
        var autos = Halves([.. own.Select(o => Times(o, o, weights))]);
        var crosses = Halves([.. heard.Select((h, i) => Times(own[i], CrossCorrelation.Spectrum(h.Sound, Size), weights))]);
        var (auto, cross) = (Sum(autos.Even, autos.Odd), Sum(crosses.Even, crosses.Odd));
        if (auto[0] <= 0 || whole[0] <= 0)
        {
            return null;
        }

        var (early, late) = ((int)(Early * rate), (int)(Late * rate));
        var lag = Enumerable.Range(-early, early + late).MaxBy(l => Math.Abs(cross[(l + Size) % Size])) - Before;
        var taps = Taps.MaxBy(t => Again(t).Odd);
        var (here, again) = Again(taps);
        var coherent = 0.0;
        if (again > (held ? HoldsOfHeld : Holds) * here && Filter(auto, cross, whole, lag, taps) is { } filter)
        {
            var explained = Explained(filter, auto, cross, lag);
            var all = heard.Sum(h => Times(CrossCorrelation.Spectrum(h.Sound, Size), weights));
            var noise = taps * Math.Max(0, all - explained) / ((double)Length * hits.Count);
            coherent = explained > OverNoise * noise ? Led(filter, whole) / whole[0] * (explained - noise) / explained : 0;
        }

        // Hits in whose way nothing is tell the level best, whatever a short filter can follow: what is there behind them against what was there before.
        var clear = heard.Select((h, i) => (h.Energy, h.Before, Own: ownEnergies[i])).Where(h => h.Energy > OverBefore * h.Before && h.Own > 0).Select(h => (h.Energy - h.Before) / h.Own).ToList();
        var level = clear.Count >= (coherent > 0 ? 2 : LeastClear) && clear.Count >= hits.Count * ShareClear ? TheilSen.Median(clear) : coherent;
        if (Environment.GetEnvironmentVariable("DBG") is not null) Console.WriteLine($"      {Tag} hits {hits.Count} clear {clear.Count} {(clear.Count > 0 ? 10 * Math.Log10(TheilSen.Median(clear)) : 0):0.0} taps {taps} lag {lag + Before} here {here:0.000} again {again:0.000} coherent {10 * Math.Log10(coherent):0.0}");
        return level == 0 ? null : Decibels.FromRatio(Math.Sqrt(level));

        // What the filter of every other hit explains in those, and in the rest.
        (double Even, double Odd) Again(int taps) => Filter(autos.Even, crosses.Even, whole, lag, taps) is { } half
            ? (Explained(half, autos.Even, crosses.Even, lag) / autos.Even[0], Explained(half, autos.Odd, crosses.Odd, lag) / autos.Odd[0])
            : (0, 0);
    }

    /// <summary>
    /// What each bin counts: the less, the more of it was there before the hits, since that goes on behind them (the weights of generalised least
    /// squares). Smoothed, so that no single bin decides.
    /// </summary>
    private static double[] Weights(List<(float[] Sound, double Energy, double Before, float[] Earlier)> heard)
    {
        const int Near = 12; // bins on either side
        const double Floor = 1e-3; // of the mean
        var before = new double[Size];
        foreach (var (_, _, _, earlier) in heard)
        {
            var bins = CrossCorrelation.Spectrum(earlier, Size);
            for (var i = 0; i < Size; i++)
            {
                before[i] += bins[i].Real * bins[i].Real + bins[i].Imaginary * bins[i].Imaginary;
            }
        }

        var mean = before.Average();
        var weights = new double[Size];
        var sum = Enumerable.Range(-Near, 2 * Near + 1).Sum(i => before[(i + Size) % Size]);
        for (var i = 0; i < Size; i++)
        {
            weights[i] = 1 / (sum / (2 * Near + 1) + Floor * mean + double.Epsilon);
            sum += before[(i + Near + 1) % Size] - before[(i - Near + Size) % Size];
        }

        // As numbers of about 1, so that energies of different files are of one size.
        var scale = 1 / weights.Average();
        TensorPrimitives.Multiply(weights, scale, weights);
        return weights;
    }

    /// <summary>The filter that leaves least of the other.</summary>
    private static double[]? Filter(double[] auto, double[] cross, double[] whole, int lag, int taps)
    {
        if (auto[0] <= 0)
        {
            return null;
        }

        // In bands of which the hits tell nothing the filter shall let nothing through.
        var kept = Unheard * auto[0] / whole[0];
        var (diagonals, wanted) = (new double[taps], new double[taps]);
        for (var tap = 0; tap < taps; tap++)
        {
            diagonals[tap] = auto[tap] + kept * whole[tap];
            wanted[tap] = cross[(lag + tap + Size) % Size];
        }

        diagonals[0] += Ridge * auto[0];
        return Levinson.Solve(diagonals, wanted);
    }

    /// <summary>The energy of what comes out of a filter.</summary>
    private static double Led(double[] filter, double[] auto)
    {
        var sum = 0.0;
        for (var r = 0; r < filter.Length; r++)
        {
            for (var c = 0; c < filter.Length; c++)
            {
                sum += filter[r] * filter[c] * auto[Math.Abs(r - c)];
            }
        }

        return sum;
    }

    /// <summary>By how much a filter makes what is left less.</summary>
    private static double Explained(double[] filter, double[] auto, double[] cross, int lag) =>
        2 * filter.Select((f, t) => f * cross[(lag + t + Size) % Size]).Sum() - Led(filter, auto);

    /// <summary>A hit, with its energy and that of as long a stretch before it.</summary>
    private static (float[] Sound, double Energy, double Before, float[] Earlier) Read(IMonoSound sound, long at)
    {
        var both = new float[2 * Length];
        sound.Read(at - Length, both);
        return (both[Length..], TensorPrimitives.SumOfSquares<float>(both.AsSpan(Length)), TensorPrimitives.SumOfSquares<float>(both.AsSpan(0, Length)), both[..Length]);
    }

    private static Complex[] Times(Complex[] one, Complex[] other, double[] weights)
    {
        var product = new Complex[one.Length];
        for (var i = 0; i < product.Length; i++)
        {
            product[i] = weights[i] * Complex.Conjugate(one[i]) * other[i];
        }

        return product;
    }

    /// <summary>The weighed energy of a spectrum.</summary>
    private static double Times(Complex[] bins, double[] weights)
    {
        var sum = 0.0;
        for (var i = 0; i < bins.Length; i++)
        {
            sum += weights[i] * (bins[i].Real * bins[i].Real + bins[i].Imaginary * bins[i].Imaginary);
        }

        return sum / bins.Length;
    }

    /// <summary>Correlations of every other hit, and of the rest.</summary>
    private static (double[] Even, double[] Odd) Halves(List<Complex[]> spectra)
    {
        Complex[] Sum(int first)
        {
            var sum = new Complex[Size];
            for (var hit = first; hit < spectra.Count; hit += 2)
            {
                for (var i = 0; i < Size; i++)
                {
                    sum[i] += spectra[hit][i];
                }
            }

            return sum;
        }

        return (CrossCorrelation.Back(Sum(0), Size), CrossCorrelation.Back(Sum(1), Size));
    }

    private static double[] Sum(double[] one, double[] other)
    {
        var sum = new double[one.Length];
        TensorPrimitives.Add(one, other, sum);
        return sum;
    }
}
