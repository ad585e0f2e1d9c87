using System.Collections.Immutable;
using System.Numerics;
using System.Numerics.Tensors;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>Finds files that hold the same: their normalised cross-correlation about their strongest beginnings, within 50 ms.</summary>
internal static class Doubles
{
    private const double Furthest = 0.05; // s
    private const double Lead = 0.01; // s of a window before what begins
    private const int Places = 5; // looked at in each file
    private const int Slices = 32; // of two windows, whose energies tell at once what cannot be the same
    private const double Alike = 0.9;
    private const double MostDifferent = 1.5; // dB between octaves
    private const double MostOfPartners = 0.5; // dB between those of files that the same notes play: these may be two microphones
    private const double Sure = 3; // standard errors
    private const int Flat = 24; // frames at 48 kHz
    private const int Narrow = 2; // frames at 48 kHz: a peak of all frequencies
    private const double Stands = 5; // times as far from its neighbours as these are from each other: no noise does
    private const double SlicesAlike = 0.8;
    private const int LeastPlaces = 3; // of those where it does not, to judge a file that clips; and with something else, to be no copy
    private const double Near = 0.01; // s
    private const double Faint = 1e-4; // of the energy of a file: what is moved between samples is not the same there
    private const double Through = 0.375; // of the energy: what Hann's window lets through
    private const double OverNoise = 10; // times, in energy: nothing but the sound is heard
    private const double OverSome = 4; // where enough bins tell how much of it is noise
    private const int LeastBins = 100; // of an octave of a window: fewer do not tell how much of it is noise
    private const double LeastEnergy = 0.1; // of where it is loudest, the other has where the two are compared
    private const double Clipping = 0.1; // where all is clipped: what that adds is elsewhere
    private const double MostHiss = 0.5; // of the energy of a file where it is compared: of less sound nobody can tell
    private const double Toneless = 0.4; // of the mean of bins, their geometric mean: 0.56 in noise, far less of tones
    private const int Octaves = 9;
    private const double Lowest = 45; // Hz

    /// <summary>Looks through all pairs.</summary>
    /// <param name="sounds">The files; null for one that is silent or has another sample rate.</param>
    /// <param name="onsets">Where the sounds of each begin.</param>
    /// <param name="clipped">Files that clip: they are compared with their copies where they do not, as far as there are such places.</param>
    /// <param name="arePartners">True of two files that the same notes play, as those of two microphones of one room.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>Pairs, the earlier first, each with how the later lies to it; of several copies each with the first.</returns>
    public static IReadOnlyList<(int One, DoubleOf Other)> Of(IReadOnlyList<IMonoSound?> sounds, IReadOnlyList<ImmutableArray<Onset>> onsets, IReadOnlyList<bool> clipped, Func<int, int, bool> arePartners, CancellationToken cancel)
    {
        var places = sounds.Select((sound, i) => sound is null ? [] : PlacesOf(sound, onsets[i])).ToList();
        var all = places.SelectMany(p => p).ToArray();
        var noises = sounds.Select(sound => new Lazy<Quiet>(() => Quietest(sound!))).ToList();
        var softer = sounds.Select((sound, i) => sound is not null && clipped[i] ? Softer(sound, onsets[i], noises[i].Value.Octaves) : []).ToList();
        var brightest = sounds.Select((sound, i) => new Lazy<long[]>(() => Brightest(sound!, clipped[i] ? softer[i] : [.. onsets[i].Select(o => Beginning(o, sound!))]))).ToList();
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
                sounds[one] is { } here && sounds[of] is { } there && MayBe(one, of) && Compared(new(here, noises[one], brightest[one]), new(there, noises[of], brightest[of]), places[one], places[of], Judged(one, of), (clipped[one], clipped[of]), arePartners(one, of)) is { } alike
                && !HasMore(one, of, alike, back: false) && !HasMore(of, one, alike, back: true)
                    ? [(one, alike with { File = of })]
                    : Array.Empty<(int, DoubleOf)>()).ToList();
            isDouble[other] = own.Count > 0;
            found.AddRange(own);
        }

        return found;

        Func<int, (long[], long[])>? Judged(int one, int other) => clipped[one] ? _ => Unclipped(one, 0) : clipped[other] ? lag => Unclipped(other, lag) : null;
        (long[] Loudest, long[] Brightest) Unclipped(int file, int lag) => ([.. softer[file].Take(2 * Places).Select(p => p - lag)], [.. brightest[file].Value.Select(p => p - lag)]);

        // What bleeds in loudly may be all that is heard at the strongest beginnings; a copy has nothing else at the others either.
        bool HasMore(int twin, int file, DoubleOf alike, bool back)
        {
            var (lag, gain) = (alike.LagFrames, alike.Polarity * alike.Gain.Ratio);
            (lag, gain) = back ? (-lag, 1 / gain) : (lag, gain);
            var rate = sounds[file]!.Rate.Hz;
            var least = clipped[file] || clipped[twin] ? Clipping : Faint;
            var own = onsets[file].Where(o => !onsets[twin].Any(t => Math.Abs(o.Seconds - (lag / rate) - t.Seconds) < Near)).OrderByDescending(o => o.Strength).Take(2 * Places);
            return own.Count(o => IsOnlyIn(sounds[file]!, sounds[twin]!, (long)(o.Seconds * rate), lag, gain, noises[file].Value.Octaves, least)) >= LeastPlaces;
        }

        bool MayBe(int one, int other)
        {
            // One may break off: what lies behind its end tells nothing.
            var end = Math.Min(sounds[one]!.Frames.Count, sounds[other]!.Frames.Count);
            int[] within = [.. new[] { one, other }.SelectMany(owner => Enumerable.Range(firsts[owner], places[owner].Length)).Where(place => all[place] + Window(sounds[one]!) <= end)];
            var apart = 1 + (int)(Furthest * sounds[one]!.Rate.Hz / Slice(sounds[one]!));
            float[] Of(int file, int later) => [.. within.SelectMany(place => energies[file].AsSpan((place * Slices) + apart + later, Slices - (2 * apart)).ToArray())];
            var here = Of(one, 0);
            return within.Length > 0 && Enumerable.Range(-apart, (2 * apart) + 1).Any(later => TensorPrimitives.CosineSimilarity<float>(here, Of(other, later)) > SlicesAlike);
        }
    }

    /// <summary>True if most of what begins somewhere in a file, or in an octave of it, is not in its twin: what rings on there may be, and be louder.</summary>
    private static bool IsOnlyIn(IMonoSound file, IMonoSound twin, long at, double lag, double gain, double[] noise, double least)
    {
        const int Shorter = 4; // than where files are compared
        const int Enough = 15; // bins of an octave: fewer, as the lowest have in so short a window, do not tell sound from noise
        const double Most = 0.5; // of its energy
        var (frames, length) = ((int)Math.Round(lag), Window(file) / Shorter);
        if (at - frames + length > twin.Frames.Count || at + length > file.Frames.Count)
        {
            return false;
        }

        var samples = new float[length];
        var (here, there) = (Faded(file, at, samples), Faded(twin, at - frames, samples));
        var (whole, left, bins) = (new double[Octaves], new double[Octaves], new int[Octaves]);
        for (var bin = 1; bin < length / 2; bin++)
        {
            if (Octave(bin, length, file.Rate.Hz) is { } octave)
            {
                var same = gain * there[bin] * Complex.FromPolarCoordinates(1, -2 * Math.PI * bin * (lag - frames) / length);
                whole[octave] += here[bin].Magnitude * here[bin].Magnitude;
                left[octave] += (here[bin] - same).Magnitude * (here[bin] - same).Magnitude;
                bins[octave]++;
            }
        }

        var ofNoise = OverNoise / (Shorter * Shorter); // fewer bins, and each of less
        bool IsMost(double left, double whole, double noise) => left > Most * whole && left > ofNoise * noise;
        return IsMost(left.Sum(), whole.Sum(), noise.Sum()) || Enumerable.Range(0, Octaves).Any(o => bins[o] >= Enough && left[o] > least * whole.Sum() && IsMost(left[o], whole[o], noise[o]));
    }

    private static int Window(IMonoSound sound) => Lasting.Frames(1 << 13, sound.Rate);

    private static int Slice(IMonoSound sound) => 2 * Window(sound) / Slices;

    /// <summary>The energy of a window of samples in which nothing but noise is, of which the faded spectrum is known.</summary>
    private static double InAWindow(double noise, int window) => 2 * noise / (Through * window);

    /// <summary>Windows about the strongest beginnings, spread over the file; where hardly any is heard, also some at even distances.</summary>
    private static long[] PlacesOf(IMonoSound sound, ImmutableArray<Onset> onsets)
    {
        var begin = onsets.Select((o, i) => (o, Part: i * Places / onsets.Length)).GroupBy(p => p.Part).Select(g => Beginning(g.MaxBy(p => p.o.Strength).o, sound));
        return onsets.Length < Places ? [.. begin, .. Enumerable.Range(1, Places).Select(i => sound.Frames.Count * i / (Places + 1))] : [.. begin];
    }

    /// <summary>Where a window about a beginning begins.</summary>
    private static long Beginning(Onset onset, IMonoSound sound) => (long)((onset.Seconds - Lead) * sound.Rate.Hz);

    /// <summary>The windows in which a file that clips does not, of those in which more than its noise is heard, the loudest first.</summary>
    private static long[] Softer(IMonoSound sound, ImmutableArray<Onset> onsets, double[] noise)
    {
        const double Below = 0.7; // of its peak
        var samples = new float[Window(sound)];
        var windows = onsets.SelectMany(o => new[] { 0, samples.Length }.Select(after => Beginning(o, sound) + after)).Select(at =>
        {
            sound.Read(at, samples);
            return (At: at, Peak: TensorPrimitives.MaxMagnitude<float>(samples), Energy: TensorPrimitives.SumOfSquares<float>(samples));
        }).ToList();
        var peak = windows.Select(w => Math.Abs(w.Peak)).DefaultIfEmpty().Max();
        return [.. windows.Where(w => Math.Abs(w.Peak) < Below * peak && w.Energy > OverNoise * InAWindow(noise.Sum(), samples.Length)).OrderByDescending(w => w.Energy).Select(w => w.At)];
    }

    /// <summary>Those windows with most above the lows: there two microphones of one room differ, of which noise leaves nothing at louder ones.</summary>
    private static long[] Brightest(IMonoSound sound, long[] windows)
    {
        var (samples, apart) = (new float[Window(sound)], Lasting.Frames(1, sound.Rate));
        var (slope, bend) = (new float[samples.Length - apart], new float[samples.Length - (2 * apart)]);
        return [.. windows.OrderByDescending(Bent).Take(2 * Places)];

        double Bent(long at)
        {
            sound.Read(at, samples);
            TensorPrimitives.Subtract<float>(samples.AsSpan(apart), samples.AsSpan(..^apart), slope);
            TensorPrimitives.Subtract<float>(slope.AsSpan(apart), slope.AsSpan(..^apart), bend);
            return TensorPrimitives.SumOfSquares<float>(bend);
        }
    }

    /// <summary>The roots of the energies of all slices of all windows: smoothed, since what is compared lies between slices.</summary>
    private static float[] Energies(IMonoSound sound, long[] places, CancellationToken cancel)
    {
        var (energies, window, slice) = (new float[places.Length * Slices], Window(sound), Slice(sound));
        var samples = new float[2 * window];
        for (var i = 0; i < places.Length; i++)
        {
            cancel.ThrowIfCancellationRequested();
            sound.Read(places[i] - window / 2, samples);
            var own = Enumerable.Range(0, Slices).Select(s => TensorPrimitives.Norm<float>(samples.AsSpan(s * slice, slice))).ToArray();
            for (var s = 0; s < Slices; s++)
            {
                for (var near = Math.Max(0, s - 1); near <= Math.Min(Slices - 1, s + 1); near++)
                {
                    energies[i * Slices + s] += own[near];
                }
            }
        }

        return energies;
    }

    private static DoubleOf? Compared(Side first, Side second, long[] ofOne, long[] ofOther, Func<int, (long[] Loudest, long[] Brightest)>? unclipped, (bool One, bool Other) clips, bool arePartners)
    {
        var (one, other) = (first.Sound, second.Sound);
        var (reach, window) = ((int)(Furthest * one.Rate.Hz), Window(one));
        long[] Within(IEnumerable<long> places) => [.. places.Where(p => p + window + reach <= Math.Min(one.Frames.Count, other.Frames.Count))];
        var places = Within([.. ofOne, .. ofOther]);
        var (sum, sharp, energyOfOne) = (new double[2 * reach + 1], new double[2 * reach + 1], 0.0);
        var (sound, within) = (new float[window], new float[window + 2 * reach]);
        var seconds = new double[2 * reach + 1];
        foreach (var place in places)
        {
            one.Read(place, sound);
            other.Read(place - reach, within);
            energyOfOne += TensorPrimitives.SumOfSquares<float>(sound);
            var energy = (double)TensorPrimitives.SumOfSquares<float>(within.AsSpan(0, window));
            var (lags, whitened) = CrossCorrelation.BothLags(sound, within);
            TensorPrimitives.Add(sharp, whitened, sharp);
            for (var lag = 0; lag <= 2 * reach; lag++)
            {
                sum[lag] += lags[lag];
                seconds[lag] += Math.Max(0, energy);
                energy += lag == 2 * reach ? 0 : (double)within[lag + window] * within[lag + window] - (double)within[lag] * within[lag];
            }
        }

        // What is held is much alike many periods away, and there it may be louder.
        var least = LeastEnergy * seconds.Max();
        var best = Enumerable.Range(0, sum.Length).MaxBy(i => Math.Abs(sum[i]) / Math.Sqrt(Math.Max(seconds[i], least)));
        if (Math.Abs(sum[best]) > 0)
        {
            // Where all is low its top is flat: the phases alone tell the place, if above the lows there is more than noise.
            var (flat, narrow) = (Lasting.Frames(Flat, one.Rate), Lasting.Frames(Narrow, one.Rate));
            var about = Enumerable.Range(Math.Max(0, best - flat), Math.Min(2 * reach, best + flat) - Math.Max(0, best - flat) + 1).ToList();
            var sharpest = about.MaxBy(i => sharp[i] * Math.Sign(sum[best]));
            best = Stand(sharp[sharpest], [.. about.Where(i => Math.Abs(i - sharpest) > narrow).Select(i => sharp[i])]) > Stands ? sharpest : best;
        }

        if (energyOfOne == 0 || seconds[best] == 0)
        {
            return null;
        }

        var top = Top(sum, best);
        // Hiss is another in each file, and makes them no less alike; but what it hides may tell two microphones apart.
        var (clearOne, clearOther) = (Clear(energyOfOne, first), Clear(seconds[best], second));
        var likeness = top / Math.Sqrt(clearOne * clearOther);
        var isThroughHiss = top < Alike * Math.Sqrt(energyOfOne * seconds[best]);
        if (likeness < Alike || (isThroughHiss && arePartners))
        {
            return null;
        }

        // What begins in the other begins by so much earlier here.
        places = Both(ofOne, ofOther);
        var (loudest, brightest) = unclipped?.Invoke(best - reach) ?? (places, Both(first.Brightest.Value, second.Brightest.Value));
        (loudest, brightest) = (Once(Within(loudest)), Once(Within(brightest)));
        var isTold = unclipped is null || loudest.Length >= LeastPlaces;
        var later = best - reach + Between(one, other, isTold ? loudest : Once(places), best - reach, CrossCorrelation.Between(sharp, best), Math.Sign(sum[best]));
        var (frames, more) = ((int)Math.Round(later), later - Math.Round(later));
        var gains = isTold
            ? Gains(first, second, loudest, (frames, more), Faint) is { } loud && Gains(first, second, brightest, (frames, more), Faint, OverSome) is { } bright ? [.. loud, .. bright] : null
            : Gains(first, second, places, (frames, more), Clipping);
        var isCopy = gains is not null && (gains.Count > 0 || !isThroughHiss) && AreOne(gains, arePartners ? MostOfPartners : MostDifferent) && IsNoLouderClipped(gains, top / clearOne, clips);
        return isCopy ? new(0, later, Decibels.FromRatio(top / clearOne), Math.Sign(sum[best]), Math.Min(1, likeness)) : null;

        double Clear(double energy, Side of) => places.Length * InAWindow(of.Noise.Value.Hiss, window) is var hiss && hiss < MostHiss * energy ? energy - hiss : energy;

        long[] Both(long[] ofOne, long[] ofOther) => Within([.. ofOne, .. ofOther.Select(p => p - (best - reach))]);

        // One hit counts once, though it begins in either.
        long[] Once(long[] of) => [.. of.Where((p, i) => !of.Take(i).Any(o => Math.Abs(o - p) < window / 2))];
    }

    /// <summary>The height of a peak between samples, which for what is bright is far above those at either side: by the sinc, faded.</summary>
    private static double Top(double[] values, int peak)
    {
        const int Reach = 16;
        const int Steps = 16; // from one sample to the next
        double At(double place) => Enumerable.Range(Math.Max(0, peak - Reach), Math.Min(values.Length - 1, peak + Reach) - Math.Max(0, peak - Reach) + 1)
            .Sum(i => values[i] * Kaiser.Sinc(place - i) * Kaiser.Sinc((place - i) / (Reach + 1)));
        return Enumerable.Range(-Steps / 2, Steps + 1).Max(step => Math.Abs(At(peak + ((double)step / Steps))));
    }

    /// <summary>How far a value lies from the mean of others, in their standard deviations.</summary>
    private static double Stand(double value, double[] others)
    {
        var mean = others.Average();
        return Math.Abs(value - mean) / Math.Sqrt(others.Average(o => (o - mean) * (o - mean)));
    }

    /// <summary>
    /// What is left of a lag between two samples: the slope of the phase between the files over the frequency, by least squares,
    /// each frequency weighted by how well the two go together there (Hannan and Thomson: coherence over its complement).
    /// </summary>
    private static double Between(IMonoSound one, IMonoSound other, IReadOnlyList<long> places, int lag, double first, int sign)
    {
        const int Rounds = 20;
        const int Beside = 2; // frames at 48 kHz
        const int Nearby = 8; // bins
        const double Together = 0.5; // coherence
        var window = Window(one);
        var (samples, common, own, there) = (new float[window], new Complex[window / 2], new double[window / 2], new double[window / 2]);
        foreach (var place in places)
        {
            var here = Faded(one, place, samples);
            var beside = Faded(other, place + lag, samples);
            for (var bin = 1; bin < window / 2; bin++)
            {
                common[bin] += sign * Complex.Conjugate(here[bin]) * beside[bin];
                own[bin] += here[bin].Magnitude * here[bin].Magnitude;
                there[bin] += beside[bin].Magnitude * beside[bin].Magnitude;
            }
        }

        // In few windows noise goes together by chance, at one frequency, but not at those about it.
        var isHeard = Enumerable.Range(0, window / 2).Select(bin =>
        {
            var (from, to) = (Math.Max(1, bin - Nearby), Math.Min(window / 2, bin + Nearby + 1));
            var together = common.AsSpan(from, to - from).ToArray().Aggregate((x, y) => x + y).Magnitude;
            return together * together > Together * TensorPrimitives.Sum<double>(own.AsSpan(from, to - from)) * TensorPrimitives.Sum<double>(there.AsSpan(from, to - from));
        }).ToArray();
        var between = first;
        for (var round = 0; round < Rounds; round++)
        {
            var (along, squares) = (0.0, 0.0);
            for (var bin = 1; bin < window / 2; bin++)
            {
                var coherence = common[bin].Magnitude * common[bin].Magnitude / (own[bin] * there[bin]);
                if (isHeard[bin])
                {
                    var angle = 2 * Math.PI * bin / window;
                    var weight = coherence / (1 - Math.Min(coherence, 1 - 1e-9));
                    along -= weight * angle * (common[bin] * Complex.FromPolarCoordinates(1, angle * between)).Phase;
                    squares += weight * angle * angle;
                }
            }

            between += squares > 0 ? along / squares : 0;
        }

        return Math.Abs(between) <= Lasting.Frames(Beside, one.Rate) ? between : first;
    }

    /// <summary>
    /// How loud one is against the other in each octave that tells it; null where it is no copy. Two microphones of one drum are alike as waves where
    /// it is low; but a copy is as loud in all octaves, and goes with the other in each as far as the noise of both lets it.
    /// </summary>
    /// <param name="one">A file.</param>
    /// <param name="other">Another.</param>
    /// <param name="places">Where both sound.</param>
    /// <param name="lag">By how much the other is later.</param>
    /// <param name="least">The share of the energy of a file from which on an octave is asked.</param>
    /// <param name="over">If more than 0, an octave is asked only where it is so many times its noise in both, at a few places at least, and not the lowest, whose noise nobody knows well.</param>
    private static List<GainInOctave>? Gains(Side one, Side other, long[] places, (int Frames, double More) lag, double least, double over = 0)
    {
        const double Apart = 0.5;
        const double Unlike = 0.1;
        const double Much = 0.06; // of the energy of a file
        const double Clear = 100; // times the noise: nothing but the sound is heard
        const double Same = 0.95;
        const double MostQuiet = 2; // times what is quietest of it, noise is at most
        const double MostNoise = 0.5; // of the energy of an octave that is asked for its gain
        const double Soft = 0.1; // of its energy where it is loudest
        var octaves = Enumerable.Range(0, Octaves).ToList();
        var shared = octaves.ConvertAll(_ => new List<Shared>());
        var window = Window(one.Sound);
        var (noise, otherNoise) = (one.Noise.Value.Octaves, other.Noise.Value.Octaves);
        var (samples, bins) = (new float[window], new double[Octaves]);
        foreach (var place in places)
        {
            var first = Faded(one.Sound, place, samples);
            var second = Faded(other.Sound, place + lag.Frames, samples);
            var here = new Shared[Octaves];
            for (var bin = 1; bin < window / 2; bin++)
            {
                if (Octave(bin, window, one.Sound.Rate.Hz) is { } octave)
                {
                    var with = (Complex.Conjugate(first[bin]) * second[bin] * Complex.FromPolarCoordinates(1, 2 * Math.PI * bin * lag.More / window)).Real;
                    here[octave] = here[octave].Plus(new(first[bin].Magnitude * first[bin].Magnitude, with, second[bin].Magnitude * second[bin].Magnitude));
                    bins[octave]++;
                }
            }

            octaves.FindAll(b => here[b].One >= over * noise[b] && here[b].Other >= over * otherNoise[b]).ForEach(b => shared[b].Add(here[b]));
        }

        if (over > 0)
        {
            octaves.FindAll(b => shared[b].Count < LeastPlaces || bins[b] < LeastBins * places.Length).ForEach(b => shared[b].Clear());
        }

        var sums = shared.ConvertAll(all => all.Aggregate(default(Shared), (x, y) => x.Plus(y)));
        var whole = sums.Aggregate((x, y) => x.Plus(y));
        double Noise(int b) => noise[b] * shared[b].Count;
        double OtherNoise(int b) => otherNoise[b] * shared[b].Count;

        // Noise is another in each file, and tells nothing; and where a file is brightest, it may be at the edges of a hole, or at a click.
        double Sounds(double energy, double noise) => Math.Max(0, energy - (MostQuiet * noise));
        if (over == 0 && octaves.FindAll(b => sums[b].Alike < Apart) is var apart && (apart.Sum(b => Sounds(sums[b].One, Noise(b))) > Much * whole.One || apart.Sum(b => Sounds(sums[b].Other, OtherNoise(b))) > Much * whole.Other))
        {
            return null;
        }

        bool IsLoud(int b) => sums[b].One > least * whole.One && sums[b].Other > least * whole.Other;

        // However faint: where both are far above their noise and go together, how loud they are to each other is known.
        bool IsClear(int b) => sums[b].Alike > Same && sums[b].One > Clear * Noise(b) && sums[b].Other > Clear * OtherNoise(b);

        // Where the two have nothing in common, and no half of it is surely more than noise, there is no gain.
        bool IsNoise(int b) => sums[b].Alike < Unlike && (2 * Sounds(sums[b].One, Noise(b)) < sums[b].One || 2 * Sounds(sums[b].Other, OtherNoise(b)) < sums[b].Other);
        bool GoTogether(int b) => shared[b].FindAll(s => s.One > Clear * noise[b] && s.Other > Clear * otherNoise[b]) is var clear && (2 * clear.Count < places.Length || TheilSen.Median([.. clear.Select(s => s.Alike)]) > Same);
        if (!octaves.FindAll(IsLoud).TrueForAll(GoTogether))
        {
            return null;
        }

        GainInOctave? GainIn(int b)
        {
            // What is quietest of it may be sound, and what the two have in common is; and where little of it is heard, noise alone may be.
            var loudest = shared[b].Select(s => s.One).DefaultIfEmpty().Max();
            var heard = shared[b].FindAll(s => s.One >= Soft * loudest && s.One * MostNoise > NoiseIn(s)).ConvertAll(s => s with { One = s.One - NoiseIn(s) });
            double NoiseIn(Shared s) => Math.Min(noise[b] * OverQuietest((double)bins[b] / places.Length), (1 - s.Alike) * s.One);
            // A hole has lows of its own: one window alone tells nothing.
            if (heard.Count < Math.Min(LeastPlaces, places.Length) || heard.Count == 0 || !(IsLoud(b) || IsClear(b)) || IsNoise(b))
            {
                return null;
            }

            var all = heard.Aggregate((x, y) => x.Plus(y));
            var gain = TheilSen.Median([.. heard.Select(s => s.With / s.One)]);
            return new(all.One, gain, Math.Sqrt(Math.Max(0, all.Other / all.One - gain * gain) * places.Length / heard.Count / bins[b]));
        }

        return [.. octaves.Select(GainIn).OfType<GainInOctave>()];
    }

    /// <summary>How much more noise there is than where it is quietest: the energy of few bins differs much from window to window, and the least of all was taken.</summary>
    private static double OverQuietest(double bins)
    {
        const double Least = 1.95; // standard deviations below the mean is the least of 24 values
        const double Together = 1.5; // bins of a faded window that tell one thing
        const double Most = 2;
        return 1 / Math.Max(1 / Most, 1 - (Least * Math.Sqrt(Together / bins)));
    }

    /// <summary>
    /// Clipping makes what is loud softer, and never louder, than it was where it does not clip: what both hear of a third between their own sounds may
    /// be one, and they are not.
    /// </summary>
    private static bool IsNoLouderClipped(List<GainInOctave> gains, double loud, (bool One, bool Other) clips)
    {
        var (soft, little) = (Math.Abs(Main(gains)), new Decibels(MostDifferent).Ratio);
        return clips.One == clips.Other || gains.Count == 0 || (clips.One ? loud * little > soft : loud < soft * little);
    }

    private static double Main(List<GainInOctave> gains) => gains.Count == 0 ? 0 : gains.MaxBy(g => g.Energy).Value;

    private static bool AreOne(List<GainInOctave> gains, double mostDifferent)
    {
        var (most, main) = (new Decibels(mostDifferent).Ratio - 1, Main(gains));
        return gains.TrueForAll(g => Math.Abs(g.Value - main) <= (most * Math.Abs(main)) + (Sure * g.Error));
    }

    /// <summary>How loud one file is against another in an octave.</summary>
    /// <param name="Energy">Of what tells it.</param>
    /// <param name="Value">The gain, a ratio.</param>
    /// <param name="Error">Its standard error.</param>
    private readonly record struct GainInOctave(double Energy, double Value, double Error);

    /// <summary>What of a file is heard where it is quietest.</summary>
    /// <param name="Octaves">The energy of each octave.</param>
    /// <param name="Hiss">That of all octaves which hold no tones there.</param>
    private sealed record Quiet(double[] Octaves, double Hiss);

    /// <summary>A file, the energy of each octave where it is quietest, and where it is brightest.</summary>
    private sealed record Side(IMonoSound Sound, Lazy<Quiet> Noise, Lazy<long[]> Brightest);

    /// <summary>What two files have in an octave: the energy of each, and what they have in common.</summary>
    private readonly record struct Shared(double One, double With, double Other)
    {
        /// <summary>1 for the same, 0 for nothing in common.</summary>
        public double Alike => One * Other > 0 ? With * With / (One * Other) : 1;

        public Shared Plus(Shared more) => new(One + more.One, With + more.With, Other + more.Other);
    }

    /// <summary>A window's spectrum, into whose highest octave nothing spills from where it is cut.</summary>
    private static Complex[] Faded(IMonoSound sound, long at, float[] samples)
    {
        sound.Read(at, samples);
        Hann.Fade(samples);
        return RealFourier.Forward(samples, samples.Length);
    }

    private static int? Octave(int bin, int window, int rate) => (int)Math.Floor(Math.Log2((double)bin * rate / window / Lowest)) is >= 0 and < Octaves and var octave ? octave : null;

    /// <summary>What is heard of each octave where a file is quietest in it, of windows spread over it.</summary>
    private static Quiet Quietest(IMonoSound sound)
    {
        const int Looks = 24;
        var (least, hiss) = (Enumerable.Repeat(double.MaxValue, Octaves).ToArray(), new double[Octaves]);
        var window = Window(sound);
        var samples = new float[window];
        for (var look = 0; look < Looks; look++)
        {
            var bins = Faded(sound, Math.Max(0, sound.Frames.Count - window) * look / Looks, samples);
            var octaves = Enumerable.Range(1, (window / 2) - 1).ToLookup(bin => Octave(bin, window, sound.Rate.Hz), bin => bins[bin].Magnitude * bins[bin].Magnitude);
            for (var octave = 0; octave < Octaves; octave++)
            {
                if (octaves[octave].Sum() is var energy && energy < least[octave])
                {
                    var isHiss = energy > 0 && Math.Exp(octaves[octave].Average(Math.Log)) * octaves[octave].Count() > Toneless * energy;
                    (least[octave], hiss[octave]) = (energy, isHiss ? energy : 0);
                }
            }
        }

        return new(least, hiss.Sum());
    }
}
