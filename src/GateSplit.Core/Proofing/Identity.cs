using System.Collections.Immutable;

namespace GateSplit.Core.Proofing;

/// <summary>Which part a track holds.</summary>
/// <param name="Part">Its place among the parts; null where it holds none of them.</param>
/// <param name="Certainty">0 to 1; a half where another part fits as well.</param>
/// <param name="Heard">Which of its notes are heard, by their place in the part.</param>
/// <param name="Offset">By how much later than the take they come, in seconds; null for none.</param>
/// <param name="Notes">How many notes the part has.</param>
public sealed record Identity(int? Part, double Certainty, ImmutableArray<int> Heard, double? Offset, int Notes = 0)
{
    /// <summary>By how much later each of them comes than the notes say, in seconds.</summary>
    internal ImmutableArray<double> Offsets { get; init; } = [];

    /// <summary>How well it fits the part, 0 to 1, however well it fits others.</summary>
    internal double Fit { get; init; }

    /// <summary>Nothing that is known.</summary>
    public static readonly Identity None = new(null, 0, [], null);

    private const double Enough = 0.4; // a score below it is chance
    private const double EnoughHeard = 0.25; // of what a track is called after, and nearly all notes of which are heard in it
    private const double NearlyAll = 0.8;
    private const double ByPitch = 0.9; // what pitches alone are worth
    private const double ByName = 0.02; // of two parts that fit alike, the one the track is called after
    private const double NearBest = 0.85; // of the sum of all scores: a time that is nearly as good
    private const double Alike = 0.99; // of the sum: as good, however good it is
    private const double NearlyAlike = 0.95; // of the sum: of times that pitches tell as well, the one at which most notes begin
    private const double Plain = 0.75; // of what could be: a time that needs no pitches to be told from others
    private const double FarMoved = 0.002; // s
    private const double Much = 0.25; // 12 dB under another: what bleeds in is mostly softer
    private const double Away = 0.05; // s
    private const int LeastAway = 8; // notes
    private const double Louder = 1.41; // 3 dB
    private const double Later = 0.0005; // s
    private const double First = 0.002; // s: more than sounds differ in how they begin
    private const int LeastBeside = 3; // notes
    private const double Hardly = 0.33; // of its notes
    private const double OneSided = 0.3; // better than its name, which fits: where no other track holds what it is called after, or it should hold all

    /// <summary>How many of its notes are heard.</summary>
    public int Hits => Heard.Length;

    /// <summary>Pairs tracks and parts so that all together fit best.</summary>
    /// <param name="tracks">Where the sounds of each track begin.</param>
    /// <param name="parts">What there is.</param>
    /// <param name="named">The part each track is called after; null for none.</param>
    /// <param name="pitches">How well each track's pitches fit each part, at a time of the take, -1 to 1, null where there are none to compare; may be null.</param>
    /// <param name="places">Where the pitches say that the take may lie, for where nothing that is struck tells it; may be null.</param>
    /// <returns>The time of the take, or null where nothing fits; and an identity for each track.</returns>
    public static (TakeTime? Time, ImmutableArray<Identity> Tracks) Of(
        IReadOnlyList<ImmutableArray<Onset>> tracks, IReadOnlyList<Part> parts, IReadOnlyList<int?> named, Func<TakeTime, double?[,]>? pitches = null, Func<IReadOnlyList<double>>? places = null)
    {
        List<(TakeTime? Time, double Sum, ImmutableArray<Identity> Tracks)> tried = [.. TakeTime.Likely(tracks, parts).Select(time => Paired(tracks, parts, named, time, null)).OrderByDescending(t => t.Sum)];
        if (tried.Count == 0)
        {
            tried.Add((null, 0, [.. tracks.Select(_ => None)]));
        }

        // Notes that come at even distances fit at several times: where none is plain, or several fit alike, the pitches tell which it is.
        var least = tried[0].Sum >= Plain * tracks.Count(t => !t.IsEmpty) ? Alike : NearBest;
        var best = pitches is null
            ? tried[0]
            : tried.Where((t, i) => i == 0 || t.Sum >= least * tried[0].Sum).Select(t => t.Time ?? new TakeTime(0, 0)).Select(time => Paired(tracks, parts, named, time, pitches(time))).MaxBy(t => t.Sum);

        if (pitches is not null && places is not null && !best.Tracks.Any(t => t.Part is { } p && !parts[p].Held))
        {
            List<(TakeTime? Time, double Sum, ImmutableArray<Identity> Tracks)> near = [.. TakeTime.Near(tracks, parts, places()).Select(time => Paired(tracks, parts, named, time, pitches(time))).Prepend(best)];
            best = near.Where(t => t.Sum >= NearlyAlike * near.Max(n => n.Sum)).MaxBy(t => t.Tracks.Sum(Begun));
        }

        if (best.Time is null || best.Tracks.All(t => t.Part is null))
        {
            return (null, [.. tracks.Select(_ => None)]);
        }

        var (known, moved) = Centred(best.Time, best.Tracks);
        if (Math.Abs(moved) > FarMoved && Paired(tracks, parts, named, known, pitches?.Invoke(known)) is var again && again.Sum > best.Sum)
        {
            // Where much of it is late, the take was first looked for beside where it lies, and what is early was not found.
            best = again;
            (known, moved) = Centred(known, best.Tracks);
        }

        return (DriftFit.Refined(known, best.Tracks, parts), [.. best.Tracks.Select(t => t with { Offset = t.Offset - moved })]);

        // What hears several elements hears them from afar: where the take lies is told by those that hear one, and best by what is struck.
        (TakeTime Time, double Moved) Centred(TakeTime time, ImmutableArray<Identity> told)
        {
            var (struck, held) = (Own(told, p => !p.Held), Own(told, p => p.Held));
            var (by, about) = struck.Count > 0 ? Together(struck, held) : (held.Count > 0 ? TheilSen.Median(held) : 0, true);
            return (time with { Offset = time.Offset + by, About = about, Found = [.. time.Found.Select(f => f with { Offset = f.Offset + by })] }, by);
        }

        static double Begun(Identity told) => told.Notes == 0 ? 0 : (double)told.Hits / told.Notes;

        List<double> Own(ImmutableArray<Identity> told, Func<Part, bool> which) =>
            [.. told.Where(t => t is { Part: { } p, Offset: not null } && which(parts[p]) && !parts[p].IsFromAfar(parts)).Select(t => t.Offset!.Value)];
    }

    /// <summary>
    /// Where the files of a take lie: in the middle of what is struck, but where not half of that lies there, where most begin. What is held begins a
    /// little later than its note. About there, where neither is so, or most of what is held does not begin with the only one that is struck.
    /// </summary>
    private static (double At, bool About) Together(List<double> struck, List<double> held)
    {
        const double Beside = 0.0007; // s
        const double Swells = 0.003; // s
        const double Mostly = 0.0025; // s in which most of it does
        List<double> About(double at) => struck.FindAll(s => Math.Abs(s - at) <= Beside);
        int Swell(double at, double within) => held.Count(h => h >= at - Beside && h <= at + within);
        int Begin(double at) => About(at).Count + Swell(at, Swells);
        var middle = TheilSen.Median(struck);
        if (2 * About(middle).Count >= struck.Count)
        {
            return (middle, struck.Count == 1 && 2 * Swell(middle, Mostly) < held.Count);
        }

        var most = struck.MaxBy(Begin);
        return struck.All(s => Math.Abs(s - most) <= 2 * Beside || Begin(s) < Begin(most)) ? (TheilSen.Median(About(most)), false) : (middle, true);
    }

    private static (TakeTime? Time, double Sum, ImmutableArray<Identity> Tracks) Paired(
        IReadOnlyList<ImmutableArray<Onset>> tracks, IReadOnlyList<Part> parts, IReadOnlyList<int?> named, TakeTime time, double?[,]? pitches)
    {
        var matches = new Match[tracks.Count, parts.Count];
        var (scores, gains) = (new double[tracks.Count, parts.Count], new double[tracks.Count, parts.Count]);
        var afar = parts.Select(p => p.IsFromAfar(parts)).ToList();
        for (var track = 0; track < tracks.Count; track++)
        {
            for (var part = 0; part < parts.Count; part++)
            {
                var match = Match.Of(tracks[track], parts[part], time, afar[part]);
                matches[track, part] = match;
                scores[track, part] = pitches?[track, part] is { } fit ? Math.Max((match.Score + Math.Max(0, fit)) / 2, ByPitch * fit) : match.Score;
                gains[track, part] = scores[track, part] + (named[track] == part ? ByName : 0);
            }
        }

        // Where all notes of its own are heard under much bleed, a microphone plays what a room plays: then it is no other than its name says, unless the room's own file plays one drum, or no file is the room and this one sounds like it.
        for (var track = 0; track < tracks.Count; track++)
        {
            if (named[track] is { } own && IsNearlyAllHeard(track, own)
                && Enumerable.Range(0, parts.Count).Where(p => parts[p].Contains(parts[own]) && gains[track, p] > gains[track, own]).ToList() is { Count: > 0 } rooms && !rooms.Exists(room => IsElsewhere(room) || IsRoom(track, own, room)))
            {
                (scores[track, own], gains[track, own]) = (Math.Max(scores[track, own], Enough), rooms.Max(p => gains[track, p]) + ByName);
            }
        }

        var best = Assignment.Best(gains);

        // Of two parts that the same notes play, lines are exchanged with the one whose file holds what this is called after.
        for (var track = 0; track < best.Length; track++)
        {
            if (best[track] is { } part && named[track] is { } own && Array.IndexOf(best, own) is >= 0 and var holder && holder != track
                && named[holder] is { } partner && partner != part && parts[partner].IsAsPlayed(parts[part]) && !best.Contains(partner))
            {
                best[track] = partner;
            }
        }

        // Lines are exchanged in pairs: what holds another's name rather than its own, and is called after what that one holds, holds what bleeds into it only where that fits far better.
        for (var track = 0; track < best.Length; track++)
        {
            if (best[track] is { } part && named[track] is { } own && part != own && Array.IndexOf(best, own) is >= 0 and var holder && Holds(own)
                && named[holder] is { } partner && partner != part && partner != own && !Holds(partner) && IsNearlyAllHeard(track, partner)
                && scores[track, partner] >= Enough && scores[track, part] - scores[track, partner] < OneSided)
            {
                if (Array.IndexOf(best, partner) is >= 0 and var left)
                {
                    best[left] = part;
                }

                best[track] = partner;
            }
        }

        // Where lines are exchanged, each holds what the other is called after. A track that fits its name, with much of another in it, is exchanged with none;
        // nor is one in which nearly all notes of its own are heard, most of what it holds though they may not be; but not where the other is louder and no later.
        for (var track = 0; track < best.Length; track++)
        {
            if (best[track] is { } part && named[track] is { } own && part != own && !Holds(own) && !IsNearer(track, part, own) && !IsUnheard(track, own, part) && !(parts[part].Contains(parts[own]) && IsRoom(track, own, part))
                && ((scores[track, own] >= Enough && scores[track, part] - scores[track, own] < OneSided) || IsHeardBeside(matches[track, own], parts[own].Notes, matches[track, part], parts[part].Notes)))
            {
                (best[track], scores[track, own]) = (own, Math.Max(scores[track, own], Enough));
                track = -1; // what it was taken for may now be another's, before it
            }
        }

        // A file that is not what its name says holds what comes first of what no other holds: what bleeds in comes later, however loud it is.
        var comesFirst = new bool[best.Length];
        for (var track = 0; track < best.Length; track++)
        {
            if (best[track] is { } part && named[track] != part && Enumerable.Range(0, parts.Count).Where(p => p != part && IsFree(p) && IsFirst(track, p, part)).ToList() is { Count: > 0 } first)
            {
                var own = first.MaxBy(p => scores[track, p]);
                (best[track], scores[track, own], comesFirst[track]) = (own, Math.Max(scores[track, own], Enough), true);
            }
        }

        var sum = best.Select((part, track) => part is { } p ? scores[track, p] : 0).Sum();
        return (time, sum, [.. best.Select((part, track) => Told(track, part))]);

        // What bleeds in is softer than what a track holds, and comes later: both are told by the notes at which the other does not play. What is held begins as softly as it likes.
        bool IsNearer(int track, int part, int than) => !parts[than].Held
            && Beside(track, part, than) is var (strength, offset) && Beside(track, than, part) is var (other, otherwise) && strength > Louder * other && offset < otherwise + Later;

        bool IsFirst(int track, int part, int than) => !parts[part].Held && !parts[than].Held && !afar[part] && !afar[than] && IsNearlyAllHeard(track, part)
            && Beside(track, part, than) is var (strength, offset) && Beside(track, than, part) is var (other, otherwise) && strength >= Much * other && offset < otherwise - First;

        bool IsNearlyAllHeard(int track, int part) => !parts[part].Notes.IsEmpty && matches[track, part].Heard.Length >= NearlyAll * parts[part].Notes.Length;

        (double Strength, double Offset)? Beside(int track, int part, int other)
        {
            var alone = Enumerable.Range(0, parts[part].Notes.Length).Where(n => !parts[other].Notes.Any(o => Math.Abs(o - parts[part].Notes[n]) < Away)).ToHashSet();
            var match = matches[track, part];
            List<int> heard = [.. Enumerable.Range(0, match.Heard.Length).Where(h => alone.Contains(match.Heard[h]))];
            return heard.Count >= LeastBeside && 2 * heard.Count >= alone.Count
                ? (TheilSen.Median(heard.ConvertAll(h => match.Strengths[h])), TheilSen.Median(heard.ConvertAll(h => match.Offsets[h])))
                : null;
        }

        // Notes at which something else that is heard in a file plays may be that: what the file is called after is hardly heard where nothing else is.
        bool IsUnheard(int track, int own, int part)
        {
            var others = Enumerable.Range(0, parts.Count).Where(p => p == part || (p != own && IsNearlyAllHeard(track, p))).SelectMany(p => parts[p].Notes).ToList();
            var alone = Enumerable.Range(0, parts[own].Notes.Length).Where(n => !others.Exists(o => Math.Abs(o - parts[own].Notes[n]) < Away)).ToHashSet();
            return !parts[own].Held && alone.Count >= LeastBeside && matches[track, own].Heard.Count(alone.Contains) <= Hardly * alone.Count;
        }

        // What begins together with another may be that; and what is far softer may be what bleeds in.
        static bool IsHeardBeside(Match own, ImmutableArray<double> notes, Match other, ImmutableArray<double> others)
        {
            var beside = Enumerable.Range(0, notes.Length).Where(n => !others.Any(o => Math.Abs(o - notes[n]) < Away)).ToHashSet();
            List<double> heard = [.. own.Heard.Zip(own.Strengths).Where(h => beside.Contains(h.First)).Select(h => h.Second)];
            return beside.Count >= LeastAway && heard.Count >= NearlyAll * beside.Count && !other.Strengths.IsEmpty && TheilSen.Median(heard) >= Much * TheilSen.Median([.. other.Strengths]);
        }

        bool IsElsewhere(int room) => Enumerable.Range(0, tracks.Count).Any(t => named[t] == room && Enumerable.Range(0, parts.Count).Any(p => parts[room].Contains(parts[p]) && scores[t, p] > scores[t, room] + OneSided));

        // Where no other file is a room, one in which all of it is heard, and nothing far softer than the drum it is called after, is that.
        bool IsRoom(int track, int own, int room) =>
            scores[track, room] >= NearlyAll
            && Enumerable.Range(0, tracks.Count).Count(t => t != track && Enumerable.Range(0, parts.Count).All(p => scores[t, p] <= scores[t, room]) && scores[t, room] >= Enough) < parts.Count(p => p == parts[room] || p.IsAsPlayed(parts[room]))
            && Enumerable.Range(0, parts.Count).Where(p => parts[room].Contains(parts[p]) && !parts[p].Shares(parts[own]))
                .All(p => Beside(track, own, p) is var (strength, _) && Beside(track, p, own) is var (other, _) && other >= Much * strength);

        bool Holds(int part) => Array.IndexOf(best, part) is >= 0 and var holder && scores[holder, part] >= Enough;

        bool IsFree(int part) => Array.IndexOf(best, part) is var holder && (holder < 0 || scores[holder, part] < EnoughHeard);

        Identity Told(int track, int? part)
        {
            var isHeard = part is { } of && named[track] == of && scores[track, of] >= EnoughHeard && matches[track, of].Heard.Length >= Math.Max(LeastAway, NearlyAll * parts[of].Notes.Length);
            if (part is not { } own || (scores[track, own] < Enough && !isHeard))
            {
                return None;
            }

            var score = scores[track, own];
            var other = Enumerable.Range(0, parts.Count).Where(p => p != own).Select(p => scores[track, p]).DefaultIfEmpty().Max();
            var certainty = Math.Clamp(score * Math.Clamp(0.5 + 2 * (score - other), 0, 1), 0, 1);
            if (certainty == 0 && named[track] != own && !comesFirst[track])
            {
                return None; // it is left over: something else that another track holds fits far better, and bleeds in
            }

            var match = matches[track, own];
            return new(own, certainty, match.Heard, match.Offsets.IsEmpty ? null : TheilSen.Median(match.Offsets), parts[own].Notes.Length) { Offsets = match.Offsets, Fit = score };
        }
    }
}
