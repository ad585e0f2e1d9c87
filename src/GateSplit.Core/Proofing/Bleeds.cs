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
    private const int Length = 1 << 12; // frames of a hit that are looked at, at 48 kHz
    private const double Lead = 0.012; // s before a hit
    private const double Early = 0.010; // s bleed may be earlier than the element's own track
    private const double Late = 0.040; // s it may be later
    private const int MostHits = 16;
    private const int LeastHits = 3;
    private const double Alone = 0.02; // s before a note in which no other may play
    private const int Before = 8; // taps before the strongest, at 48 kHz
    private static readonly int[] Taps = [512, 192, 48]; // at 48 kHz: a long filter tells low bands apart, a short one takes less of the noise for bleed
    private const double AsGood = 0.98; // as the best, and the longest is taken
    private const double Ridge = 1e-6;
    private const double Unheard = 1e-4;
    private const double LeastShare = 0.85; // of what the filter of one half of the hits expects in the other
    private const double MostShare = 1.18;
    private const double MostError = 0.05; // of it: more, and other sounds may have made it
    private const double MostSpread = 0.75; // dB between the two halves
    private const double AsLoud = 2.5; // times, in energy: hits in whose way nothing is and the filter tell the same
    private const double Finer = 1.4;
    private const double SureError = 0.03; // of what the filter expects
    private const double AsTold = 1.12; // 0.5 dB: hits in the clear tell what the filter tells
    private const double Same = 1.26; // times, in energy: 1 dB, which a level told as exact may be wrong by
    private const double SureShare = 0.05; // by which what is there may differ from what the filter expects
    private const double SureSpread = 0.3; // dB between the two halves
    private const double SureKnown = 0.75; // of the energy of an element
    private const double MostOfClear = 0.35; // dB: the standard error of the level that clear hits tell
    private const double RingsOn = 3; // times, in energy, what was there before is more than what is there at a hit
    private const double MostRing = 0.75; // of the hits
    private const double Beyond = 2; // times, in energy, what is bled may be more than all that is heard: the hit may lie later in the file
    private const double Denies = 4; // times, in energy, less is heard than would be bled: an echo takes less from a tone
    private const double LeastKnown = 0.6; // of the energy of an element
    private const double MostNotes = 0.9; // of an element of several sounds
    private const double FarApart = 10; // times, in energy: where filters of different lengths differ so much, none of them tells what a band holds that it does not know
    private const double Hides = 4; // times what the filters make of noise may hide in it
    private const double OverBefore = 8; // times what was there before a hit
    private const int LeastClear = 3; // hits
    private const double ShareClear = 0.2; // of all
    private static readonly Decibels Least = new(-52);
    private readonly IReadOnlyList<IMonoSound?> _sounds;
    private readonly SampleRate _rate; // of all of them
    private readonly int _length;
    private readonly int _size;
    private readonly int[] _taps;
    private readonly CancellationToken _cancel;

    private Bleeds(IReadOnlyList<IMonoSound?> sounds, CancellationToken cancel)
    {
        (_sounds, _cancel) = (sounds, cancel);
        _rate = sounds.FirstOrDefault(s => s is not null)?.Rate ?? SampleRate.Limits.Low;
        _length = Lasting.Frames(Length, _rate);
        _size = 2 * _length;
        _taps = [.. Taps.Select(t => Lasting.Frames(t, _rate))];
    }

    /// <summary>Measures all tracks against the elements of all others.</summary>
    /// <param name="sounds">The files; null for one that is silent or has another sample rate.</param>
    /// <param name="identities">What each of them holds.</param>
    /// <param name="parts">The parts.</param>
    /// <param name="time">The time of the take.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>For each file what else is in it, the loudest first; what may be hidden in it, and up to which level; and the files whose element is never heard alone, so that nobody can tell where else it is.</returns>
    public static (ImmutableArray<ImmutableArray<Bleed>> Found, ImmutableArray<ImmutableArray<Bleed>> Hidden, ImmutableArray<int> NeverAlone) Of(
        IReadOnlyList<IMonoSound?> sounds, IReadOnlyList<Identity> identities, IReadOnlyList<Part> parts, TakeTime time, CancellationToken cancel)
    {
        var found = new List<(int File, Bleed Bleed, bool Told)>[sounds.Count];
        var never = new bool[sounds.Count];
        var bleeds = new Bleeds(sounds, cancel);
        Parallel.For(0, sounds.Count, new ParallelOptions { CancellationToken = cancel, MaxDegreeOfParallelism = Environment.ProcessorCount }, from =>
        {
            found[from] = [];
            if (sounds[from] is not { } sound || identities[from].Part is not { } part || parts[part].IsFromAfar(parts))
            {
                return;
            }

            List<Hit> hits = [.. AloneHits(parts, part).Select(n => new Hit((long)((time.Of(parts[part].Notes[n.Note]) + (identities[from].Offset ?? 0) - Lead) * sound.Rate.Hz), n.Room, SoundOf(parts[part], n.Note))).Where(h => bleeds.IsIn(sound, h.At))];
            if (hits.Count < LeastHits)
            {
                never[from] = true;
                return;
            }

            // What hears the same is no bleed.
            List<int> others = [.. Enumerable.Range(0, sounds.Count).Where(f => f != from && !(identities[f].Part is { } other && parts[other].Shares(parts[part])))];
            foreach (var (file, level, told, about) in bleeds.From(from, others, hits, parts[part]))
            {
                found[from].Add((file, new(from, level, about), told));
            }
        });
        ImmutableArray<ImmutableArray<Bleed>> Each(bool told) =>
            [.. sounds.Select((_, file) => found.SelectMany(f => f).Where(f => f.File == file && f.Told == told).Select(f => f.Bleed).OrderByDescending(b => b.Level).ThenBy(b => b.From).ToImmutableArray())];
        return (Each(true), Each(false), [.. Enumerable.Range(0, sounds.Count).Where(f => never[f])]);
    }

    /// <summary>Which of the sounds of a part a note is; of one whose sounds are not known all are one.</summary>
    private static int SoundOf(Part part, int note) => part.Sounds.Length == part.Notes.Length ? part.Sounds[note] : 0;

    /// <summary>Notes of a part near which no other plays, those with most room about them first.</summary>
    private static IEnumerable<(int Note, double Room)> AloneHits(IReadOnlyList<Part> parts, int part)
    {
        const double After = 0.085; // s: as long as what is looked at
        var others = parts.Where((p, i) => i != part && !p.Shares(parts[part])).SelectMany(p => p.Notes).Order().ToArray();
        return parts[part].Notes
            .Select((n, i) => (Note: i, Room: Room(others, n)))
            .Where(n => n.Room.Before > Alone && n.Room.After > After)
            .OrderByDescending(n => n.Room.Before + Math.Min(n.Room.After, 2 * After))
            .Select(n => (n.Note, n.Room.After));
    }

    private static (double Before, double After) Room(double[] others, double note)
    {
        const double Enough = 1; // s
        var next = Array.BinarySearch(others, note);
        next = next < 0 ? ~next : next;
        return (next == 0 ? Enough : Math.Min(Enough, note - others[next - 1]), next == others.Length ? Enough : Math.Min(Enough, others[next] - note));
    }

    /// <summary>True of a hit that a file holds: it may begin late or break off.</summary>
    private bool IsIn(IMonoSound sound, long at) => at >= 0 && at + _length <= sound.Frames.Count;

    private IEnumerable<(int File, Decibels Level, bool Told, bool About)> From(int from, List<int> others, List<Hit> hits, Part part)
    {
        var sound = _sounds[from]!;
        var whole = OwnAt(sound, [.. hits.Take(MostHits)], part);
        foreach (var file in others)
        {
            _cancel.ThrowIfCancellationRequested();
            if (_sounds[file] is not { } other)
            {
                continue;
            }

            List<Hit> within = [.. hits.Where(h => IsIn(other, h.At)).Take(MostHits)];
            var measured = within.Count < LeastHits ? (AtMost(other, sound, within), false, false) : Level(other, within.SequenceEqual(whole.Hits) ? whole : OwnAt(sound, within, part), part.Held);
            if (measured is var (level, told, about) && level >= Least)
            {
                yield return (file, level, told, about);
            }
        }
    }

    /// <summary>What an element's own track holds at some of its hits.</summary>
    private Own OwnAt(IMonoSound sound, List<Hit> hits, Part part)
    {
        var heard = hits.Select(h => Read(sound, h.At)).ToList();
        List<Complex[]> spectra = [.. heard.Select(o => RealFourier.Forward(o.Sound, _size))];
        List<Complex[]> earlier = [.. heard.Select(o => RealFourier.Forward(o.Earlier, _size))];
        var begins = part.Held ? [.. Enumerable.Repeat(1.0, _size)] : Begins(spectra, earlier, [.. heard.Select(_ => 1.0)]);
        var (energies, whole) = Whole(sound, hits, begins);
        return new(
            hits,
            Enumerable.Range(0, part.Notes.Length).CountBy(n => SoundOf(part, n)).ToDictionary(),
            spectra,
            earlier,
            [.. heard.Select(o => o.Energy - o.Before)],
            begins,
            [.. Smooth(heard.Select(h => h.Sound)).Zip(begins, (e, b) => e * b)],
            energies,
            whole);
    }

    /// <summary>What a file holds of an element at most, where too few hits of it are there to tell more: no more than all that is heard at the loudest of them, or where none is there, as much as its own track.</summary>
    private Decibels AtMost(IMonoSound sound, IMonoSound own, List<Hit> hits)
    {
        List<double> shares = [.. hits.Select(h => (Read(sound, h.At).Energy, Own: Read(own, h.At))).Where(h => h.Own.Energy > h.Own.Before).Select(h => h.Energy / (h.Own.Energy - h.Own.Before))];
        return shares.Count == 0 ? new Decibels(0) : LevelOf(Same * shares.Max());
    }

    /// <summary>An element over as long as it sounds alone: its energies by bin, and the autocorrelation they stand for.</summary>
    private (double[] Energies, double[] Auto) Whole(IMonoSound sound, List<Hit> hits, double[] begins)
    {
        const int Most = 4;
        const int Longer = 4; // than a hit is looked at
        var size = Longer * _size;
        var longest = hits.OrderByDescending(h => h.Room).Take(Most).ToList();
        var samples = new float[Math.Clamp((int)((longest[^1].Room + Lead) * sound.Rate.Hz), _length, size - _taps[0])];
        var (energies, sum) = (new double[_size], new Complex[size]);
        foreach (var hit in longest)
        {
            sound.Read(hit.At, samples);
            var bins = RealFourier.Forward(samples, size);
            for (var i = 0; i < size; i++)
            {
                var bin = i <= size / 2 ? i / Longer : (_size - ((size - i) / Longer)) % _size;
                var energy = begins[bin] * (bins[i].Real * bins[i].Real + bins[i].Imaginary * bins[i].Imaginary);
                energies[bin] += energy;
                sum[i] += energy;
            }
        }

        return (energies, RealFourier.Back(sum, _taps[0]));
    }

    /// <summary>Measures what a file holds of an element.</summary>
    /// <param name="sound">The file.</param>
    /// <param name="own">What the element's own track holds where it sounds alone.</param>
    /// <param name="held">True of what is held.</param>
    /// <returns>Its level, or that below which it may be hidden; null where nobody can tell.</returns>
    private (Decibels Level, bool Told, bool About)? Level(IMonoSound sound, Own own, bool held)
    {
        var (rate, hits) = (sound.Rate.Hz, own.Hits);
        var heard = hits.ConvertAll(h => Read(sound, h.At));

        // A drum is told from another by its key; of what is held, which is heard at any pitch, some stand for all.
        var isOneSound = held || own.Sounds.Count == 1;

        // Hits in whose way nothing is tell the level best, whatever a short filter can follow: what is there behind them against what was there before. Most of them tell the same, or it is something else that begins there.
        var all = heard.Select((h, i) => (Heard: h.Energy - h.Before, h.Before, Own: own.Energies[i], hits[i].Sound, At: i)).Where(h => h.Own > 0).ToList();
        var clear = all.FindAll(h => h.Heard + h.Before > OverBefore * h.Before);
        var middle = clear.Count == 0 ? 0 : TheilSen.Median(clear.ConvertAll(h => h.Heard / h.Own));
        if (clear.Count(h => h.Heard > middle / Finer * h.Own && h.Heard < middle * Finer * h.Own) is >= LeastClear and var agree && 2 * agree > clear.Count && clear.Count >= hits.Count * ShareClear && all.Count(IsDenied) < agree)
        {
            // Of an element of several sounds, each may be as loud as it likes in either file: the level is that of all their energy, and is known if nearly all of them tell the same. One that is soft here counts as well, if it would be clear as loud as the others.
            var alike = all.FindAll(h => h.Heard > 0 && h.Heard < middle * AsLoud * h.Own && Math.Max(h.Heard, middle * h.Own) + h.Before > OverBefore * h.Before);
            var sounds = alike.GroupBy(h => h.Sound).Select(s => (Notes: own.Sounds[s.Key], Level: s.Sum(h => h.Heard) / s.Sum(h => h.Own))).ToList();
            var isKnown = isOneSound || sounds.Count == 1 || ErrorOf(sounds.ConvertAll(s => s.Level)) <= MostOfClear;
            var areMost = isOneSound || sounds.Sum(s => s.Notes) >= MostNotes * own.Sounds.Values.Sum();
            var (level, known) = InTheClear(heard, own, alike.ConvertAll(h => h.At));
            return (LevelOf(level), true, !isKnown || !areMost || known < SureKnown || ErrorOf(alike.ConvertAll(h => h.Heard / h.Own)) > MostOfClear);
        }

        var weights = Weights(heard, own.Begins);
        var counts = Counts(heard);
        double[] begun = held ? weights : [.. weights.Zip(Begins(own.Spectra, own.Earlier, counts), (w, b) => w * b)];
        var autos = own.Spectra.Select(o => RealFourier.Back(Times(o, o, begun), _size)).ToList();
        var crosses = heard.Select((h, i) => RealFourier.Back(Times(own.Spectra[i], RealFourier.Forward(h.Sound, _size), weights), _size)).ToList();
        for (var i = 0; i < hits.Count; i++)
        {
            TensorPrimitives.Multiply<double>(autos[i], counts[i], autos[i]);
            TensorPrimitives.Multiply<double>(crosses[i], counts[i], crosses[i]);
        }

        if (!held)
        {
            // What rings in both, and so goes together without being bleed, did so before the hit.
            for (var i = 0; i < hits.Count; i++)
            {
                TensorPrimitives.MultiplyAdd<double>(RealFourier.Back(Times(own.Earlier[i], RealFourier.Forward(heard[i].Earlier, _size), weights), _size), -counts[i], crosses[i], crosses[i]);
            }
        }

        var cross = Sum(crosses);
        if (Sum(autos)[0] <= 0 || own.Whole[0] <= 0)
        {
            return null;
        }

        // Of the hits every other makes a filter, and the rest another, and each is tried on the hits of the other.
        var (early, late) = ((int)(Early * rate), (int)(Late * rate));
        var lag = Enumerable.Range(-early, early + late).MaxBy(l => Math.Abs(cross[(l + _size) % _size])) - Lasting.Frames(Before, _rate);
        var halves = new[] { 0, 1 }.Select(first => (Auto: Sum(autos.Where((_, i) => i % 2 == first)), Cross: Sum(crosses.Where((_, i) => i % 2 == first)))).ToArray();
        var bands = new BandGains(own.Element, own.Heard, Smooth(heard.Select(h => h.Earlier)), hits.Count, rate);

        // No more is bled than is heard. And where what is heard only dies away at each hit, always alike, a filter may make a bleed of that: then it has to be sure.
        var heardThere = all.Count == 0 ? double.PositiveInfinity : TheilSen.Median(all.ConvertAll(h => (h.Heard + h.Before) / h.Own));
        var mostError = all.Count(h => h.Before > RingsOn * (h.Heard + h.Before)) >= MostRing * hits.Count ? SureError : MostError;
        var tries = _taps.Select(t => halves.Select(h => Filter(h.Auto, h.Cross, own.Whole, lag, t)).ToArray() is [{ } even, { } odd] ? new Try(even, odd, Explained(even, halves[1].Auto, halves[1].Cross, lag), bands, _size) : null).OfType<Try>().ToList();
        if (tries.Count == 0)
        {
            return null;
        }

        if (tries.Exists(t => t.Both > Beyond * heardThere))
        {
            return (LevelOf(Same * heardThere), false, false);
        }

        var most = tries.Max(t => t.Explains);
        var best = tries.Find(t => t.Explains >= AsGood * most && t.Spread < MostSpread) ?? tries.MaxBy(t => t.Explains)!;

        // By how much of what a filter expects is there: all of it, at every hit, where it is bleed.
        var heardOf = hits.Select((_, i) => i % 2 == 0 ? best.Odd : best.Even).Select((filter, i) => (There: Along(filter, crosses[i], lag), Expected: Led(filter, filter, autos[i]))).ToList();
        var expected = heardOf.Sum(t => t.Expected);
        var share = heardOf.Sum(t => t.There) / expected;
        var error = Math.Sqrt(heardOf.Sum(t => (t.There - share * t.Expected) * (t.There - share * t.Expected)) * hits.Count / (hits.Count - 1.0)) / expected;
        var apart = tries.Max(t => t.Both) > FarApart * tries.Min(t => t.Both);
        if (share is > LeastShare and < MostShare && error < mostError && best.Spread < MostSpread && (best.Known >= LeastKnown || !apart))
        {
            // A long filter follows whatever is there: where it tells something else than a short one, it has followed another.
            if (apart && tries[^1].Spread < MostSpread)
            {
                return (LevelOf(tries[^1].Both), true, true);
            }

            // Few hits in whose way nothing is may have something behind them; where the filter is sure, and longer and shorter ones tell the same, they only make it finer, and where they tell something else, one of the two is wrong. What is held is heard beside more of others, which makes a filter softer, however alike all of them are.
            bool AllWithin(double times) => tries.TrueForAll(t => t.Both > best.Both / times && t.Both < best.Both * times);
            bool IsMiddleWithin(double times) => middle > best.Both / times && middle < best.Both * times;
            var sure = best.Known >= LeastKnown && error <= SureError && AllWithin(Finer);
            var exact = sure && !held && isOneSound && best.Known >= SureKnown && Math.Abs(share - 1) < SureShare && best.Spread < SureSpread && hits.Count > LeastHits;
            return IsMiddleWithin(sure && !held ? Finer : AsLoud)
                ? (LevelOf(middle), true, !(exact && IsMiddleWithin(AsTold)))
                : (LevelOf(best.Both), true, !(exact && AllWithin(AsTold) && clear.Count == 0));
        }

        var hidden = Hides * tries.Max(t => t.Loudest);
        return double.IsFinite(hidden) ? (LevelOf(hidden), false, false) : null;

        // What is bled is heard at each hit, whatever else is: where all together is less, it is something else that begins at the others.
        bool IsDenied((double Heard, double Before, double Own, int Sound, int At) hit) => hit.Heard + hit.Before <= OverBefore * hit.Before && Denies * (hit.Heard + hit.Before) < middle * hit.Own;

        static double ErrorOf(List<double> energies)
        {
            var levels = energies.ConvertAll(e => 10 * Math.Log10(e));
            var mean = levels.Average();
            return Math.Sqrt(levels.Sum(l => (l - mean) * (l - mean)) / (levels.Count - 1) / levels.Count);
        }
    }

    /// <summary>What is there of all of an element, told by some of its hits, in whose way nothing is.</summary>
    private (double Level, double Known) InTheClear(List<(float[] Sound, double Energy, double Before, float[] Earlier)> heard, Own own, List<int> hits)
    {
        static double[] Less(double[] now, double[] earlier) => [.. now.Zip(earlier, (n, e) => n - e)];
        var before = Smooth(hits.Select(h => heard[h].Earlier));
        var gained = Less(Smooth(hits.Select(h => (own.Spectra[h], 1.0))), Smooth(hits.Select(h => (own.Earlier[h], 1.0))));
        return new BandGains(own.Element, gained, before, 1, _rate.Hz).Of(Less(Smooth(hits.Select(h => heard[h].Sound)), before));
    }

    private static Decibels LevelOf(double energy) => Decibels.FromRatio(Math.Sqrt(energy));

    /// <summary>
    /// What each bin counts: the less, the more of it was there before the hits, since that goes on behind them (the weights of generalised least
    /// squares); and the less, the less of the element's own track begins there. Smoothed, so that no single bin decides.
    /// </summary>
    private double[] Weights(List<(float[] Sound, double Energy, double Before, float[] Earlier)> heard, double[] begins)
    {
        const double Floor = 1e-3; // of the mean
        var before = Smooth(heard.Select(h => h.Earlier));
        var mean = before.Average();
        var weights = before.Select((b, i) => begins[i] * begins[i] / (b + Floor * mean + double.Epsilon)).ToArray();

        // As numbers of about 1, so that energies of different files are of one size.
        var scale = 1 / (weights.Average() + double.Epsilon);
        TensorPrimitives.Multiply(weights, scale, weights);
        return weights;
    }

    /// <summary>Of what an element's own track holds at its hits, the share in each bin that was not there before them: the rest rings on, of whatever.</summary>
    private double[] Begins(List<Complex[]> now, List<Complex[]> earlier, double[] counts)
    {
        double[] Smoothed(List<Complex[]> spectra) => Smooth(spectra.Select((s, i) => (s, counts[i])));
        return [.. Smoothed(now).Zip(Smoothed(earlier), (n, b) => n > b ? 1 - b / n : 0)];
    }

    private double[] Smooth(IEnumerable<float[]> stretches) => Smooth(stretches.Select(s => (RealFourier.Forward(s, _size), 1.0)));

    /// <summary>The energies of bins of several stretches, each as the mean of those near it.</summary>
    private double[] Smooth(IEnumerable<(Complex[] Bins, double Count)> stretches)
    {
        const int Near = 12; // bins on either side
        var energies = new double[_size];
        foreach (var (bins, count) in stretches)
        {
            for (var i = 0; i < _size; i++)
            {
                energies[i] += count * (bins[i].Real * bins[i].Real + bins[i].Imaginary * bins[i].Imaginary);
            }
        }

        var smooth = new double[_size];
        var sum = Enumerable.Range(-Near, 2 * Near + 1).Sum(i => energies[(i + _size) % _size]);
        for (var i = 0; i < _size; i++)
        {
            smooth[i] = sum / (2 * Near + 1);
            sum += energies[(i + Near + 1) % _size] - energies[(i - Near + _size) % _size];
        }

        return smooth;
    }

    /// <summary>What each hit counts: the less, the more was there before it; 1 in the mean.</summary>
    private static double[] Counts(List<(float[] Sound, double Energy, double Before, float[] Earlier)> heard)
    {
        const double Floor = 0.1; // of the mean
        var floor = Floor * heard.Average(h => h.Before) + double.Epsilon;
        double[] counts = [.. heard.Select(h => 1 / (h.Before + floor))];
        TensorPrimitives.Divide(counts, counts.Average(), counts);
        return counts;
    }

    /// <summary>The filter that leaves least of the other.</summary>
    private double[]? Filter(double[] auto, double[] cross, double[] whole, int lag, int taps)
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
            wanted[tap] = cross[(lag + tap + _size) % _size];
        }

        diagonals[0] += Ridge * auto[0];
        return Levinson.Solve(diagonals, wanted);
    }

    /// <summary>What the outputs of two filters have in common; of one and the same, its energy.</summary>
    private static double Led(double[] one, double[] other, double[] auto)
    {
        var count = one.Length;
        var both = new double[2 * count - 1]; // the autocorrelation on either side
        for (var i = 0; i < count; i++)
        {
            both[count - 1 + i] = both[count - 1 - i] = auto[i];
        }

        var sum = 0.0;
        for (var i = 0; i < count; i++)
        {
            sum += one[i] * TensorPrimitives.Dot<double>(other, both.AsSpan(count - 1 - i, count));
        }

        return sum;
    }

    /// <summary>What the output of a filter has in common with what is there.</summary>
    private double Along(double[] filter, double[] cross, int lag) => filter.Select((f, t) => f * cross[(lag + t + _size) % _size]).Sum();

    /// <summary>By how much a filter makes what is left less.</summary>
    private double Explained(double[] filter, double[] auto, double[] cross, int lag) => 2 * Along(filter, cross, lag) - Led(filter, filter, auto);

    /// <summary>A hit, with its energy and that of as long a stretch before it.</summary>
    private (float[] Sound, double Energy, double Before, float[] Earlier) Read(IMonoSound sound, long at)
    {
        var both = new float[2 * _length];
        sound.Read(at - _length, both);
        return (both[_length..], TensorPrimitives.SumOfSquares<float>(both.AsSpan(_length)), TensorPrimitives.SumOfSquares<float>(both.AsSpan(0, _length)), both[.._length]);
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

    private double[] Sum(IEnumerable<double[]> all)
    {
        var sum = new double[_size];
        foreach (var one in all)
        {
            TensorPrimitives.Add<double>(sum, one, sum);
        }

        return sum;
    }

    /// <summary>Two filters of one length, each from half of the hits.</summary>
    private sealed class Try
    {
        public Try(double[] even, double[] odd, double explains, BandGains bands, int size)
        {
            Complex[] Spectrum(double[] filter) => RealFourier.Forward(Array.ConvertAll(filter, f => (float)f), size);
            var (first, second) = (Spectrum(even), Spectrum(odd));
            var (one, other) = (bands.Through(first, first).Level, bands.Through(second, second).Level);
            (Even, Odd, Explains, (Both, Known), Loudest) = (even, odd, explains, bands.Through(first, second), Math.Max(one, other));
            Spread = Both > 0 ? Math.Max(Math.Abs(10 * Math.Log10(one / Both)), Math.Abs(10 * Math.Log10(other / Both))) : double.PositiveInfinity;
        }

        public double[] Even { get; }

        public double[] Odd { get; }

        /// <summary>What the one explains of the hits of the other.</summary>
        public double Explains { get; }

        /// <summary>The energy of the element behind both: noise is in either, but not the same, and their product is free of it.</summary>
        public double Both { get; }

        /// <summary>What share of the element's energy is in bands that tell it.</summary>
        public double Known { get; }

        /// <summary>The energy behind the one that lets more through.</summary>
        public double Loudest { get; }

        /// <summary>By how many dB either differs from both.</summary>
        public double Spread { get; }
    }

    /// <summary>A note that an element plays alone.</summary>
    /// <param name="At">The frame where it begins.</param>
    /// <param name="Room">Seconds until another plays.</param>
    /// <param name="Sound">Which of the sounds of the element it is.</param>
    private readonly record struct Hit(long At, double Room, int Sound);

    /// <summary>What an element's own track holds at its hits.</summary>
    /// <param name="Hits">Where they begin.</param>
    /// <param name="Sounds">How often each of its sounds is played.</param>
    /// <param name="Spectra">There.</param>
    /// <param name="Earlier">As long before.</param>
    /// <param name="Energies">What the hits add.</param>
    /// <param name="Begins">What share of each bin begins there; all of what is held, before which it may have sounded itself.</param>
    /// <param name="Heard">The energy of each bin that begins there.</param>
    /// <param name="Element">The energy of each bin over as long as it sounds alone.</param>
    /// <param name="Whole">The autocorrelation of that.</param>
    private sealed record Own(List<Hit> Hits, Dictionary<int, int> Sounds, List<Complex[]> Spectra, List<Complex[]> Earlier, List<double> Energies, double[] Begins, double[] Heard, double[] Element, double[] Whole);
}
