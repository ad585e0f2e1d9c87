using System.Collections.Immutable;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>Judges the files of a take, question by question, each file read block by block.</summary>
internal sealed class TakeJudge(IReadOnlyList<ProofFile> files, IReadOnlyList<Part> parts, WaveReader? reference, IProgress<double>? progress, CancellationToken cancel)
{
    private const int Windows = 12;
    private const double ScanShare = 0.6; // of the time it takes
    private const double BySureness = 0.3;
    private const double BySureNotes = 0.6; // of what no other hears: where several do, it may be each of them
    private const double NotAfar = 0.001; // s: sound goes a foot

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
        var pairs = Doubles.Of(sounds, onsets, [.. scans.Select(s => s.Levels.Channels.Any(c => c.ClippedRuns > 0))], ArePartners, cancel);
        var doubles = new DoubleOf?[files.Count];
        if (pairs.Count > 0)
        {
            // A copy has no part of its own, and would take that of another: of those that hold the same, the one that fits best is asked for all, and
            // rather one that holds what its name says; of a drum and a room that hold the same, the drum where that begins when the take does. Where one is late, its notes are not heard, and nothing else seems to fit it.
            var asked = Enumerable.Range(0, files.Count).ToArray();
            var behind = new double[files.Count];
            foreach (var group in Copies.Groups(pairs))
            {
                var best = group.Keys.Order().MaxBy(a => (HoldsItsName(a), BeginsWithTake(a, group[a] - group.Values.Min()), identities[a].Fit));
                foreach (var (file, lag) in group)
                {
                    (asked[file], behind[file]) = (best, lag / _rate.Hz);
                }
            }

            ImmutableArray<Onset>[] once = [.. onsets.Select((o, i) => asked[i] == i ? o : [])];
            (time, identities) = Identified(scans, once, [.. asked.Select((a, i) => a != i)]);
            identities = Beside(once);
            identities = [.. asked.Select((a, i) => identities[a] with { Part = Held(identities[a].Part, files[i].Part), Offset = identities[a].Offset + behind[i] - behind[a] })];
            doubles = Named(pairs, identities);
        }
        else
        {
            identities = Beside(onsets);
        }

        for (var i = 0; i < files.Count; i++)
        {
            var (late, own) = (identities[i].Offset ?? 0, identities[i].Part is { } part ? parts[part].Notes : []);
            double[] Within(IEnumerable<double> notes) => time is null ? [] : [.. notes.Select(n => time.Of(n) + late).Order()];
            scans[i] = scans[i].ClicksBeside(Within(parts.SelectMany(p => p.Notes)), Within(own));
        }

        progress?.Report(0.75);
        var placed = reference is null || sounds.TrueForAll(s => s is null) ? null
            : Comparison.Aligned(new MonoReader(reference), new MonoSum([.. sounds.Where((s, i) => s is not null && doubles[i] is null).Select(s => ((IMonoSound)s!, 1f))]), time, cancel);
        (double Start, double Slope)? place = placed is null ? null : (placed.Value.Start, placed.Value.Slope);
        progress?.Report(0.85);
        var (lags, signs, beside) = (new SoundLag?[files.Count], new int?[files.Count], 0.0);
        if (place is { } sum)
        {
            ImmutableArray<ImmutableArray<Onset>> telling = [.. onsets.Select((o, i) => Telling(o, identities[i], time))];
            var within = new InReference(new MonoReader(reference!), sounds, [.. doubles.Select(d => d is not null)], telling, [.. identities.Select(FromNotes)], cancel) { Notes = time, Begins = [.. identities.Select(Begins)] };
            (place, lags, signs, beside) = within.Of(sum, [.. placed!.Value.Found.Select(f => (long)f.At)]);

            // A copy lies by as much behind what it is a copy of as was found between the two.
            var own = lags;
            lags = [.. lags.Select((l, i) => doubles[i] is { } twin && doubles[twin.File] is null && own[twin.File] is { } of ? new(of.Frames + twin.LagFrames, of.Sign * twin.Polarity) : l)];
        }

        var nulled = Nulled(scans, doubles, place);
        progress?.Report(0.95);
        ImmutableArray<ImmutableArray<Bleed>> none = [.. files.Select(_ => ImmutableArray<Bleed>.Empty)];
        var (bleeds, hidden, neverAlone) = time is null ? (none, none, []) : Bleeds.Of([.. sounds.Select((s, i) => doubles[i] is null ? s : null)], identities, parts, time, cancel);
        var partners = place is null ? Partners(sounds, onsets, identities) : [];
        var missing = new int?[files.Count];
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
            lags[i] is { } lag ? lag.Frames / _rate.Hz : IsToldByNotes(i) ? identities[i].Offset + beside : null,
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

        bool HoldsItsName(int file) => identities[file].Part is { } part && part == files[file].Part;

        // What hears several elements hears them later, and so does a copy of it.
        bool BeginsWithTake(int file, double lag) => Begins(identities[file]) is { } begins && begins - (lag / _rate.Hz) <= NotAfar;

        // A copy that is late is not taken for what lies beside the take: this is asked when copies are known.
        ImmutableArray<Identity> Beside(ImmutableArray<Onset>[] of) => time is null ? identities : ByLag.Of(of, parts, identities, [.. files.Select(f => f.Part)], time);

        // What is struck is held against where the take lies by its notes: that has to be known, by most of what is struck, or by one of those that is heard in the reference as well.
        bool IsToldByNotes(int file) => time is not { About: true } || identities[file].Part is not { } own || parts[own].Held || Enumerable.Range(0, files.Count).Any(f => lags[f] is not null && FromNotes(identities[f]) is not null);

        bool ArePartners(int one, int other) => identities[one].Part is { } here && identities[other].Part is { } there && parts[here].IsAsPlayed(parts[there]);

        // Of two copies of what the same notes play, each holds what it is called after, as far as notes can tell.
        int? Held(int? part, int? named) => part is { } p && named is { } own && parts[p].IsAsPlayed(parts[own]) ? own : part;

        // What a copy is a copy of, which may be a copy itself.
        int Copied(int file)
        {
            for (var step = 0; step < files.Count && doubles[file] is { } twin; step++)
            {
                file = twin.File;
            }

            return file;
        }

        // Of two microphones close to one drum, either may be upside down, and the file of one goes with the other in the mix where that is not told by a file of its own.
        bool IsBesideUnheard(int file) => identities[file].Part is { } own && !parts[own].IsFromAfar(parts) && Enumerable.Range(0, parts.Count).Any(p =>
            p != own && parts[p].IsAsPlayed(parts[own]) && !Enumerable.Range(0, files.Count).Any(f => f != file && identities[f].Part == p && signs[f] is not null));

        // Where another microphone hears the same, a track goes with that in the reference as much as with itself; what stands away from both hears them later.
        int? Polarity(int file) => (IsBesideUnheard(file) ? null : signs[file]) ?? (IsNearest(identities[file]) && lags[file] is { Sign: not 0 } own ? own.Sign : (int?)null) ?? (partners.TryGetValue(file, out var found) ? found.Sign : null);
    }

    /// <summary>What each file holds.</summary>
    /// <param name="scans">What is known of them.</param>
    /// <param name="onsets">Where their sounds begin.</param>
    /// <param name="without">Files that are not asked; null for none.</param>
    private (TakeTime? Time, ImmutableArray<Identity> Tracks) Identified(TrackScan[] scans, ImmutableArray<Onset>[] onsets, bool[]? without = null)
    {
        List<int?> named = [.. files.Select(f => f.Part)];
        List<IMonoSound?> Asked() => [.. files.Select((f, i) => scans[i].IsSilent || without?[i] == true ? null : Heard(f.Wave, scans[i]))];
        var (time, identities) = Identity.Of(onsets, parts, named, at => PitchFit.Of(Asked(), parts, at, cancel), () => PitchPlaces.Of(Asked(), parts, cancel));
        return (time, BySound.Of(Asked(), onsets, parts, identities, named));
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

    /// <summary>By how much later than its take a file is, where its notes tell that well: what is struck, surely that, and not heard from afar.</summary>
    private double? FromNotes(Identity identity) =>
        identity.Certainty > (IsAlone(identity) ? BySureNotes : BySureness) ? Begins(identity) : null;

    /// <summary>By how much later than the take what is struck begins in a file, however surely.</summary>
    private double? Begins(Identity identity) => identity is { Part: { } part } && !parts[part].Held && !parts[part].IsFromAfar(parts) ? identity.Offset : null;

    private bool IsAlone(Identity identity) => identity.Part is not { } part || parts[part].IsAlone(parts);

    /// <summary>True of what no other hears but those that hear more besides, from afar.</summary>
    private bool IsNearest(Identity identity) => identity.Part is not { } part || parts.All(p => p == parts[part] || !p.Shares(parts[part]) || p.Contains(parts[part]));

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
        ImmutableArray<Onset> alone = [.. mine.Where(o => !others.Exists(p => Plays(p, Note(o) - (2 * Near), Note(o) + ((double)SoundLag.Window(_rate) / _rate.Hz))))];
        return alone.Length >= Few ? alone : mine.Length >= Few ? mine : onsets;
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

            var first = Enumerable.Range(0, i).FirstOrDefault(f => sounds[f] is not null && identities[f].Part is { } p && parts[p].IsAsPlayed(parts[part]), -1);
            if (first >= 0 && SoundLag.Of(sounds[first]!, own, SoundLag.Strongest(onsets[first], Windows).Select(o => (long)(o * _rate.Hz) - SoundLag.Window(_rate) / 8), (0, SoundLag.Furthest), SoundLag.Place.Only, cancel) is var (_, sign))
            {
                found[i] = (first, sign);
            }
        }

        return found;
    }
}
