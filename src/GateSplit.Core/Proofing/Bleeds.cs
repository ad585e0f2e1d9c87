using System.Collections.Immutable;
using System.Numerics;
using System.Numerics.Tensors;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using MathNet.Numerics.LinearAlgebra;

namespace GateSplit.Core.Proofing;

/// <summary>
/// What tracks hold of the elements of others. At the notes that an element plays alone, its own track is led through the short filter that leaves
/// least of the other (Wiener's): what that explains is bleed, and what else becomes louder there is as well, for what is heard by another
/// microphone need not be the same wave.
/// </summary>
internal sealed class Bleeds
{
    private const int Size = 1 << 13;
    private const int Length = 6144; // frames of a hit that are looked at
    private const double Lead = 0.012; // s before a hit
    private const double Early = 0.010; // s bleed may be earlier than the element's own track
    private const double Late = 0.040; // s it may be later
    private const int MostHits = 16;
    private const int LeastHits = 3;
    private const double Alone = 0.02; // s before a note in which no other may play
    private const int Taps = 48;
    private const int TapsBefore = 8; // of the strongest
    private const double Ridge = 1e-5;
    private const double Holds = 0.5; // of what the filter of one half of the hits explains, it must in the other
    private const double OverNoise = 4; // times what would be explained of noise
    private const double Rises = 4; // times its own spread
    private static readonly Decibels Least = new(-60);
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
        var found = sounds.Select(_ => new List<Bleed>()).ToList();
        var never = ImmutableArray.CreateBuilder<int>();
        var bleeds = new Bleeds(sounds, cancel);
        for (var from = 0; from < sounds.Count; from++)
        {
            if (sounds[from] is not { } sound || identities[from].Part is not { } part || parts.Any(p => parts[part].Contains(p)))
            {
                continue;
            }

            var hits = AloneHits(parts, part).Select(n => (long)((time.Of(n) + (identities[from].Offset ?? 0) - Lead) * sound.Rate.Hz)).ToList();
            if (hits.Count < LeastHits)
            {
                never.Add(from);
                continue;
            }

            foreach (var (file, level) in bleeds.From(from, hits).Where(b => !(identities[b.File].Part is { } other && parts[other].Shares(parts[part]))))
            {
                found[file].Add(new(from, level));
            }
        }

        return ([.. found.Select(f => f.OrderByDescending(b => b.Level).ToImmutableArray())], never.ToImmutable());
    }

    /// <summary>Notes of a part near which no other plays, those with most room about them first.</summary>
    private static IEnumerable<double> AloneHits(IReadOnlyList<Part> parts, int part)
    {
        const double After = 0.11; // s
        var others = parts.Where((p, i) => i != part && !p.Shares(parts[part])).SelectMany(p => p.Notes).Order().ToArray();
        return parts[part].Notes
            .Select(n => (Note: n, Room: Room(others, n)))
            .Where(n => n.Room.Before > Alone && n.Room.After > After)
            .OrderByDescending(n => n.Room.Before + Math.Min(n.Room.After, 2 * After))
            .Take(MostHits)
            .Select(n => n.Note);
    }

    private static (double Before, double After) Room(double[] others, double note)
    {
        const double Enough = 1; // s
        var next = Array.BinarySearch(others, note);
        next = next < 0 ? ~next : next;
        return (next == 0 ? Enough : Math.Min(Enough, note - others[next - 1]), next == others.Length ? Enough : Math.Min(Enough, others[next] - note));
    }

    private IEnumerable<(int File, Decibels Level)> From(int from, List<long> hits)
    {
        var own = hits.Select(h => Read(_sounds[from]!, h)).ToList();
        var spectra = own.Select(o => CrossCorrelation.Spectrum(o.Sound, Size)).ToList();
        var autos = Halves(spectra.Select(s => Times(s, s)).ToList());
        var energy = own.Average(o => Math.Max(0, o.Energy - o.Before));
        for (var file = 0; file < _sounds.Count; file++)
        {
            _cancel.ThrowIfCancellationRequested();
            if (file != from && _sounds[file] is { } sound && Level(sound, hits, spectra, autos, energy) is { } level && level >= Least)
            {
                yield return (file, level);
            }
        }
    }

    private static Decibels? Level(IMonoSound sound, List<long> hits, List<Complex[]> own, (double[] Even, double[] Odd) autos, double ownEnergy)
    {
        var rate = sound.Rate.Hz;
        var heard = hits.Select(h => Read(sound, h)).ToList();
        var crosses = Halves([.. heard.Select((h, i) => Times(own[i], CrossCorrelation.Spectrum(h.Sound, Size)))]);
        var (auto, cross) = (Sum(autos.Even, autos.Odd), Sum(crosses.Even, crosses.Odd));
        var (early, late) = ((int)(Early * rate), (int)(Late * rate));
        var lag = Enumerable.Range(-early, early + late).MaxBy(l => Math.Abs(cross[(l + Size) % Size])) - TapsBefore;
        if (auto[0] <= 0 || ownEnergy <= 0)
        {
            return null;
        }

        var explained = Filter(auto, cross, lag) is { } filter ? Explained(filter, auto, cross, lag) : 0;
        var all = heard.Sum(h => h.Energy);
        var noise = Taps * Math.Max(0, all - explained) / ((double)Length * hits.Count);
        var coherent = explained > OverNoise * noise && Repeats() ? (explained - noise) / auto[0] : 0;

        // What is louder than before, each hit told from its neighbours by how much it differs from them.
        var risen = heard.Select(h => h.Energy - h.Before).ToList();
        var mean = risen.Average();
        var spread = Math.Sqrt(risen.Sum(r => (r - mean) * (r - mean)) / (risen.Count - 1) / risen.Count);
        var other = mean > Rises * spread && mean > heard.Average(h => h.Before) ? mean / ownEnergy : 0;
        var level = Math.Max(coherent, other);
        return level == 0 ? null : Decibels.FromRatio(Math.Sqrt(level));

        bool Repeats() => Filter(autos.Even, crosses.Even, lag) is { } half && Explained(half, autos.Odd, crosses.Odd, lag) is var again && again > Holds * Explained(half, autos.Even, crosses.Even, lag);
    }

    /// <summary>The filter that leaves least of the other.</summary>
    private static double[]? Filter(double[] auto, double[] cross, int lag)
    {
        if (auto[0] <= 0)
        {
            return null;
        }

        var matrix = Matrix<double>.Build.Dense(Taps, Taps, (r, c) => auto[Math.Abs(r - c)] + (r == c ? Ridge * auto[0] : 0));
        return [.. matrix.Cholesky().Solve(MathNet.Numerics.LinearAlgebra.Vector<double>.Build.Dense(Taps, t => cross[(lag + t + Size) % Size]))];
    }

    /// <summary>By how much a filter makes what is left less.</summary>
    private static double Explained(double[] filter, double[] auto, double[] cross, int lag)
    {
        var sum = 0.0;
        for (var r = 0; r < Taps; r++)
        {
            sum += 2 * filter[r] * cross[(lag + r + Size) % Size];
            for (var c = 0; c < Taps; c++)
            {
                sum -= filter[r] * filter[c] * auto[Math.Abs(r - c)];
            }
        }

        return sum;
    }

    /// <summary>A hit, with its energy and that of as long a stretch before it.</summary>
    private static (float[] Sound, double Energy, double Before) Read(IMonoSound sound, long at)
    {
        var both = new float[2 * Length];
        sound.Read(at - Length, both);
        return (both[Length..], TensorPrimitives.SumOfSquares<float>(both.AsSpan(Length)), TensorPrimitives.SumOfSquares<float>(both.AsSpan(0, Length)));
    }

    private static Complex[] Times(Complex[] one, Complex[] other)
    {
        var product = new Complex[one.Length];
        for (var i = 0; i < product.Length; i++)
        {
            product[i] = Complex.Conjugate(one[i]) * other[i];
        }

        return product;
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
