using System.Collections.Immutable;
using System.Numerics;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>Judges the files of a take, question by question, each file read block by block.</summary>
internal sealed class TakeJudge(IReadOnlyList<ProofFile> files, IReadOnlyList<Part> parts, WaveReader? reference, IProgress<double>? progress, CancellationToken cancel)
{
    private const int Window = 1 << 13;
    private const int Windows = 12;
    private const double Furthest = 0.05; // s a file may lie beside its take
    private const double Clear = 8; // a peak stands out so far where there is something in common
    private const double OnlyPlace = 1.3;
    private const double ScanShare = 0.6; // of the time it takes
    private const int LeastLags = 3;
    private const double Beside = 0.0005; // s: less is what a filter in the mix does
    private const double Together = 0.0001; // s: sounds that lie so near each other lie at the same place
    private const double BySureness = 0.3;

    private readonly SampleRate _rate = reference?.Format.SampleRate ?? files.GroupBy(f => f.Wave.Format.SampleRate).OrderByDescending(g => g.Count()).Select(g => g.Key).FirstOrDefault(SampleRate.Limits.Low);

    private ParallelOptions OnAllCores => new() { CancellationToken = cancel, MaxDegreeOfParallelism = Environment.ProcessorCount };

    /// <summary>Judges them.</summary>
    public TakeProof Judge()
    {
        var scans = new TrackScan[files.Count];
        var onsets = new ImmutableArray<Onset>[files.Count];
        var done = 0;
        Parallel.For(0, files.Count, OnAllCores, i =>
        {
            scans[i] = TrackScan.Of(files[i].Wave, null, cancel);
            onsets[i] = scans[i].IsSilent ? [] : Onsets.Of(Heard(files[i].Wave, scans[i]), cancel);
            progress?.Report(ScanShare * Interlocked.Increment(ref done) / files.Count);
        });
        var (time, identities) = Identified(scans, onsets);
        var sounds = files.Select((f, i) => scans[i].IsSilent || f.Wave.Format.SampleRate != _rate ? null : Heard(f.Wave, scans[i])).ToList();
        var pairs = Doubles.Of(sounds, onsets, [.. scans.Select(s => s.Levels.Channels.Any(c => c.ClippedRuns > 0))], cancel);
        var doubles = new DoubleOf?[files.Count];
        if (pairs.Count > 0)
        {
            // A copy has no part of its own, and would take that of another: of those that hold the same, the one that is told best is asked for all.
            var asked = Enumerable.Range(0, files.Count).ToArray();
            var behind = new double[files.Count];
            foreach (var group in Copies.Groups(pairs))
            {
                var best = group.Keys.Order().MaxBy(a => identities[a].Certainty);
                foreach (var (file, lag) in group)
                {
                    (asked[file], behind[file]) = (best, lag / _rate.Hz);
                }
            }

            (time, identities) = Identified(scans, [.. onsets.Select((o, i) => asked[i] == i ? o : [])], [.. asked.Select((a, i) => a != i)]);
            identities = [.. asked.Select((a, i) => identities[a] with { Offset = identities[a].Offset + behind[i] - behind[a] })];
            doubles = Named(pairs, identities);
        }

        for (var i = 0; i < files.Count && time is not null; i++)
        {
            scans[i] = scans[i].ClicksBeside([.. parts.SelectMany(p => p.Notes).Select(time.Of).Order()]);
        }

        progress?.Report(0.75);
        var placed = reference is null || sounds.TrueForAll(s => s is null) ? null
            : Comparison.Aligned(new MonoReader(reference), new MonoSum([.. sounds.Where((s, i) => s is not null && doubles[i] is null).Select(s => ((IMonoSound)s!, 1f))]), cancel);
        (double Start, double Slope)? place = placed is null ? null : (placed.Value.Start, placed.Value.Slope);
        progress?.Report(0.85);
        var signs = new int?[files.Count];
        ImmutableArray<ImmutableArray<Onset>> telling = [.. onsets.Select((o, i) => Telling(o, identities[i], time))];
        List<(double Lag, int Sign)?> Lags(bool near) => [.. sounds.Select((s, i) => s is null || place is not { } at ? null : AgainstReference(s, telling[i], at, near ? FromNotes(identities[i]) : null))];
        List<double> known = [.. Lags(near: false).Select((l, i) => doubles[i] is null ? l?.Lag - (FromNotes(identities[i]) ?? 0) * _rate.Hz : null).OfType<double>()];
        // One loud file that is late by itself draws the sum of all with it: the take lies where most of its files lie, first by their notes, then by the sounds.
        if (MostCommon(known, Beside * _rate.Hz) is { } beside && Math.Abs(beside) > Beside * _rate.Hz)
        {
            place = Moved(place!.Value, beside);
        }

        if (MostCommon([.. Lags(near: true).Where((_, i) => doubles[i] is null).Select(l => l?.Lag).OfType<double>()], Together * _rate.Hz) is { } more && Math.Abs(more) > 1)
        {
            place = Moved(place!.Value, more);
        }

        var lags = Lags(near: true);
        if (place is { } lies)
        {
            signs = Signs(sounds, telling, doubles, lies, [.. lags.Select((l, i) => l?.Lag ?? (FromNotes(identities[i]) ?? 0) * _rate.Hz)]);
        }

        var nulled = Nulled(scans, doubles, place);
        progress?.Report(0.95);
        ImmutableArray<ImmutableArray<Bleed>> none = [.. files.Select(_ => ImmutableArray<Bleed>.Empty)];
        var (bleeds, hidden, neverAlone) = time is null ? (none, none, []) : Bleeds.Of([.. sounds.Select((s, i) => doubles[i] is null ? s : null)], identities, parts, time, cancel);
        var partners = place is null ? Partners(sounds, onsets, identities) : [];
        var missing = new int[files.Count];
        Parallel.For(0, files.Count, OnAllCores, i =>
        {
            if (sounds[i] is { } sound && identities[i] is { Part: { } part } own && time is not null)
            {
                missing[i] = LateEntry.Missing(sound, parts[part], OthersThan(parts[part]), time, own.Offset ?? 0);
            }
        });
        progress?.Report(1);
        return new(_rate, time, place, reference is not null, nulled, [.. parts], neverAlone, [.. files.Select((file, i) => new TrackProof(
            file.Name,
            file.Part,
            scans[i],
            identities[i],
            lags[i] is var (lag, _) ? lag / _rate.Hz : identities[i].Offset,
            Polarity(i),
            partners.TryGetValue(i, out var with) ? with.Against : null,
            doubles[i],
            bleeds[Copied(i)],
            file.Wave.Format.SampleRate == _rate ? null : $"It has {file.Wave.Format.SampleRate} and was not compared with the others, which have {_rate}.")
        {
            Id = file.Id,
            ByNotes = lags[i] is null,
            Recorded = file.Recorded ?? scans[i].Levels.Frames,
            Hidden = hidden[Copied(i)],
            SoftAtStart = missing[i],
        })])
        {
            Offsets = placed is { } found ? [.. found.Found.Select(f => new OffsetAt(f.At / _rate.Hz, f.Value / _rate.Hz))] : time?.Found ?? [],
        };

        // What a copy is a copy of, which may be a copy itself.
        int Copied(int file)
        {
            for (var step = 0; step < files.Count && doubles[file] is { } twin; step++)
            {
                file = twin.File;
            }

            return file;
        }

        static (double Start, double Slope) Moved((double Start, double Slope) place, double by) => place with { Start = place.Start + (place.Slope == 0 ? Math.Round(by) : by) };

        // Where other microphones hear the same, a track goes with theirs in the reference as much as with itself.
        int? Polarity(int file) => signs[file] ?? (IsAlone(identities[file]) ? lags[file]?.Sign : null) ?? (partners.TryGetValue(file, out var found) ? found.Sign : null);

        bool IsAlone(Identity identity) => identity.Part is not { } part || !parts.Where((p, i) => i != part && p.Shares(parts[part])).Any();
    }

    /// <summary>About which of some values most others lie; null where too few do.</summary>
    private static double? MostCommon(IReadOnlyList<double> values, double near) =>
        values.Select(v => values.Where(o => Math.Abs(o - v) <= near).ToList()).MaxBy(all => all.Count) is { Count: >= LeastLags } most ? TheilSen.Median(most) : null;

    /// <summary>What each file holds.</summary>
    /// <param name="scans">What is known of them.</param>
    /// <param name="onsets">Where their sounds begin.</param>
    /// <param name="without">Files that are not asked; null for none.</param>
    private (TakeTime? Time, ImmutableArray<Identity> Tracks) Identified(TrackScan[] scans, ImmutableArray<Onset>[] onsets, bool[]? without = null)
    {
        List<int?> named = [.. files.Select(f => f.Part)];
        List<IMonoSound?> Asked() => [.. files.Select((f, i) => scans[i].IsSilent || without?[i] == true ? null : Heard(f.Wave, scans[i]))];
        var (time, identities) = Identity.Of(onsets, parts, named, at => PitchFit.Of(Asked(), parts, at, cancel));
        return (time, BySound.Of(Asked(), onsets, parts, identities, named));
    }

    /// <summary>Which files are upside down in the reference, each laid where it belongs.</summary>
    private int?[] Signs(List<MonoReader?> sounds, ImmutableArray<ImmutableArray<Onset>> onsets, DoubleOf?[] doubles, (double Start, double Slope) place, double[] lags)
    {
        const int Places = 6; // for each file
        var asked = Enumerable.Range(0, files.Count).Where(i => sounds[i] is not null && doubles[i] is null).ToList();
        var told = MixSigns.Of(
            new Placed(new MonoReader(reference!), (0, 0), place.Slope != 0 || place.Start != Math.Round(place.Start)),
            [.. asked.Select(i => new Placed(sounds[i]!, (place.Start + lags[i], place.Slope)))],
            [.. asked.SelectMany(i => Strongest(onsets[i], Places).Select(o => (long)((o * _rate.Hz - place.Start - lags[i]) / (1 + place.Slope)) - Window / 8))],
            cancel);
        var signs = new int?[files.Count];
        for (var i = 0; i < asked.Count; i++)
        {
            signs[asked[i]] = told[i];
        }

        return signs;
    }

    /// <summary>A file as one channel: the mean of its sides, but one of them where the mean would be nothing.</summary>
    private static MonoReader Heard(WaveReader wave, TrackScan scan) => new(wave, scan.Pair == PairState.UpsideDown ? 0 : null);

    /// <summary>Each pair told on one of its files: on the one that is not what its name says, or else on the later.</summary>
    private DoubleOf?[] Named(IReadOnlyList<(int One, DoubleOf Other)> pairs, ImmutableArray<Identity> identities)
    {
        var named = new DoubleOf?[files.Count];
        foreach (var (one, other) in pairs.OrderByDescending(p => p.Other.Likeness))
        {
            var holds = identities[one].Part;
            var (copy, found) = files[one].Part == holds || files[other.File].Part != holds
                ? (other.File, other with { File = one })
                : (one, other with { LagFrames = -other.LagFrames, Gain = -other.Gain });
            named[copy] ??= found;
        }

        return named;
    }

    private NullTest? Nulled(TrackScan[] scans, DoubleOf?[] doubles, (double Start, double Slope)? place)
    {
        if (reference is null || place is not { } at)
        {
            return null;
        }

        var asked = Enumerable.Range(0, files.Count).Where(i => !scans[i].IsSilent && doubles[i] is null && files[i].Wave.Format.SampleRate == _rate).ToList();
        var sides = Math.Min(2, (int)reference.Format.Channels);
        return NullTest.Of(Sides(reference, sides), [.. asked.Select(i => Sides(files[i].Wave, sides))], at, cancel);
    }

    private static IReadOnlyList<IMonoSound> Sides(WaveReader wave, int sides) =>
        [.. Enumerable.Range(0, sides).Select(side => new MonoReader(wave, sides == 1 ? null : Math.Min(side, wave.Format.Channels - 1)))];

    /// <summary>Where a file lies in the reference beside where the take lies, and whether it is upside down there; null where it cannot be heard in it.</summary>
    private (double Lag, int Sign)? AgainstReference(IMonoSound sound, ImmutableArray<Onset> onsets, (double Start, double Slope) place, double? known)
    {
        const double Near = 0.0008; // s: the notes of what is struck tell as much, and what bleeds in may lie beside it
        var against = new MonoReader(reference!);
        return Strongest(onsets, Windows) is { Count: > 0 } strongest
            ? Lag(
                against,
                sound,
                strongest.Select(o => (long)((o * _rate.Hz - place.Start) / (1 + place.Slope)) - Window / 8),
                at => at + place.Start + place.Slope * at,
                known is null ? (0, Furthest) : (known.Value, Near))
            : null;
    }

    /// <summary>By how much later than its take a file is, where its notes tell that well: what is struck, and not heard from afar.</summary>
    private double? FromNotes(Identity identity) => identity.Part is { } part && !parts[part].Held && !parts.Any(o => parts[part].Contains(o)) ? identity.Offset : null;

    /// <summary>What else plays, and not by the same notes.</summary>
    private List<Part> OthersThan(Part own) => [.. parts.Where(p => p != own && !p.Shares(own))];

    /// <summary>
    /// The beginnings that tell most of a file: those of its own notes at which nothing else plays, since what bleeds in lies beside it; of all
    /// its notes, or all there are, where these are too few.
    /// </summary>
    private ImmutableArray<Onset> Telling(ImmutableArray<Onset> onsets, Identity identity, TakeTime? time)
    {
        const int Few = 4;
        const double Near = 0.015; // s
        if (time is null || identity is not { Part: { } part, Offset: { } late })
        {
            return onsets;
        }

        bool Plays(Part of, double from, double to)
        {
            var at = of.Notes.BinarySearch(from);
            at = at < 0 ? ~at : at;
            return at < of.Notes.Length && of.Notes[at] <= to;
        }

        var own = parts[part];
        var others = OthersThan(own);
        double Note(Onset onset) => (onset.Seconds - late - time.Offset) / (1 + time.Drift);
        ImmutableArray<Onset> mine = [.. onsets.Where(o => Plays(own, Note(o) - Near, Note(o) + Near))];
        ImmutableArray<Onset> alone = [.. mine.Where(o => !others.Exists(p => Plays(p, Note(o) - (2 * Near), Note(o) + ((double)Window / _rate.Hz))))];
        return alone.Length >= Few ? alone : mine.Length >= Few ? mine : onsets;
    }

    private static List<double> Strongest(ImmutableArray<Onset> onsets, int most) =>
        [.. onsets.Select((o, i) => (o, Part: i * most / onsets.Length)).GroupBy(p => p.Part).Select(g => g.MaxBy(p => p.o.Strength).o.Seconds)];

    /// <summary>The lag of a sound against another over several windows together.</summary>
    private (double Lag, int Sign)? Lag(IMonoSound one, IMonoSound other, IEnumerable<long> starts, Func<long, double> place, (double Near, double Within) about)
    {
        var reach = (int)(Furthest * _rate.Hz);
        var size = (int)BitOperations.RoundUpToPowerOf2((uint)(Window + 2 * reach));
        var (sound, within, sum) = (new float[Window], new float[Window + 2 * reach], new Complex[size]);
        foreach (var start in starts)
        {
            cancel.ThrowIfCancellationRequested();
            one.Read(start, sound);
            other.Read((long)Math.Round(place(start)) - reach, within);
            for (var i = 0; i < Window; i++)
            {
                sound[i] *= (float)(0.5 - 0.5 * Math.Cos(2 * Math.PI * (i + 0.5) / Window));
            }

            var (here, there) = (CrossCorrelation.Spectrum(sound, size), CrossCorrelation.Spectrum(within, size));
            for (var i = 0; i < size; i++)
            {
                sum[i] += Complex.Conjugate(here[i]) * there[i];
            }
        }

        CrossCorrelation.Whiten(sum, sum.Average(s => s.Magnitude));
        var lags = CrossCorrelation.Back(sum, 2 * reach + 1);
        var rms = Math.Sqrt(lags.Sum(l => l * l) / lags.Length);
        var from = (int)Math.Clamp((about.Near - about.Within) * _rate.Hz + reach, 0, lags.Length - 1);
        var until = (int)Math.Clamp((about.Near + about.Within) * _rate.Hz + reach + 1, from + 1, lags.Length);
        var peak = CrossCorrelation.PeakOf(lags.AsSpan(from, until - from));
        return Math.Abs(lags[from + (int)Math.Round(peak.Lag)]) >= Clear * rms && peak.Lead >= OnlyPlace ? (from + peak.Lag - reach, peak.Sign) : null;
    }

    /// <summary>Where there is no reference, the polarity of microphones that hear one element, against the first of them.</summary>
    private Dictionary<int, (int Against, int Sign)> Partners(List<MonoReader?> sounds, ImmutableArray<Onset>[] onsets, ImmutableArray<Identity> identities)
    {
        var found = new Dictionary<int, (int, int)>();
        for (var i = 0; i < files.Count; i++)
        {
            if (sounds[i] is not { } own || identities[i] is not { Part: { } part, Certainty: > BySureness })
            {
                continue;
            }

            var first = Enumerable.Range(0, i).FirstOrDefault(f => sounds[f] is not null && identities[f].Part is { } p && parts[p].Keys.Count > 0 && parts[p].Keys.SetEquals(parts[part].Keys), -1);
            if (first >= 0 && Lag(sounds[first]!, own, Strongest(onsets[first], Windows).Select(o => (long)(o * _rate.Hz) - Window / 8), at => at, (0, Furthest)) is var (_, sign))
            {
                found[i] = (first, sign);
            }
        }

        return found;
    }
}
