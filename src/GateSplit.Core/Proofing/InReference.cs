using System.Collections.Immutable;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>Where the files of a take lie in a reference recording of their mix, each for itself, and which of them are upside down there.</summary>
/// <param name="reference">The reference.</param>
/// <param name="sounds">The files; null for one that is silent or has another sample rate.</param>
/// <param name="copies">Files that are copies of others, and so are not in the mix.</param>
/// <param name="telling">The beginnings that tell most of each file.</param>
/// <param name="known">By how much later than the take each file is by its notes, in seconds; null where these do not tell it well.</param>
/// <param name="cancel">Stops it.</param>
internal sealed class InReference(
    IMonoSound reference, IReadOnlyList<IMonoSound?> sounds, bool[] copies, ImmutableArray<ImmutableArray<Onset>> telling, double?[] known, CancellationToken cancel)
{
    private const int Windows = 12;
    private const int Places = 6; // for each file, at which all are compared with the mix
    private const int LeastLags = 2;
    private const int MostDoubtful = 24;
    private const int MostPlaces = 6; // tried for a take
    private const double NotesTell = 0.0008; // s: the notes of what is struck tell as much, and what bleeds in may lie beside it
    private const double Beside = 0.0005; // s: less is what a filter in the mix does
    private const double Together = 0.0001; // s: sounds that lie so near each other lie at the same place
    private const double Half = 0.5; // frames
    private const double Nearly = 1; // frame
    private const double Slanted = 8; // frames, from end to end, by which windows may slant a line
    private const double MuchMore = 0.1; // in the logarithm of what is left, all orders together
    private const double Crossing = 24; // frames at 48 kHz, at either end
    private const double Surely = 2; // clearness
    private const double FarTells = 0.7; // clearness
    private const double Opposing = 0.02; // of what tells it
    private readonly int _rate = reference.Rate.Hz;
    private readonly double?[] _known = [.. known];
    private double _beside; // s: by how much later the files are than their notes say, where it is the time of the notes that is wrong
    private readonly ParallelOptions _onAllCores = new() { CancellationToken = cancel, MaxDegreeOfParallelism = Environment.ProcessorCount };
    private readonly List<int> _mixed = [.. Enumerable.Range(0, sounds.Count).Where(i => sounds[i] is not null && !copies[i])];

    /// <summary>Where the take lies by its notes; null where these do not tell it.</summary>
    public TakeTime? Notes { get; init; }

    /// <summary>By how much later than the take the notes of what is struck begin in each file, in seconds, however surely; null where that is not known.</summary>
    public IReadOnlyList<double?>? Begins { get; init; }

    /// <summary>Looks for them.</summary>
    /// <param name="first">Where the sum of all files lies.</param>
    /// <param name="windows">At which frames of the reference that was found.</param>
    /// <returns>Where the take lies; where each file lies beside it, null where that cannot be told; -1 for each that is upside down, null where that cannot be told; and by how many seconds later all are than their notes say.</returns>
    public ((double Start, double Slope) Place, SoundLag?[] Lags, int?[] Signs, double Beside) Of((double Start, double Slope) first, List<long> windows)
    {
        first = Struck(first, windows) ?? first;

        // One loud file that is late by itself draws the sum of all with it: the take lies where most of its files lie, first by their notes, then by the sounds.
        var all = sounds.Select((s, i) => s is null ? null : Lag(reference, i, first, near: false, SoundLag.Place.Clear)).ToList();
        var place = first;
        List<double> away = [.. _mixed.Select(i => all[i]?.Frames - InFrames(_known[i])).OfType<double>()];
        if (MostCommon(away, Beside * _rate) is { } most && Math.Abs(most) > Beside * _rate)
        {
            place = Likelier(place, most);
        }

        place = Clearest(place, Gatherings(away, Beside * _rate).Select(by => Moved(first, by)));

        // Where few files have notes and those are late, it is not the place that is wrong, but what the notes say of it: of one file, that it lies where the take was first laid, or where it was found if another is clear with it so; of none that was found, that it lies where its notes are.
        var moved = place.Start - first.Start;
        List<double> apart = [.. _mixed.Select(i => all[i]?.Frames - moved - (_known[i] * _rate)).OfType<double>()];
        (double? By, int More)[] tried = apart.Count switch
        {
            0 => [(Notes is { } notes && _mixed.Exists(i => _known[i] is not null) ? Between(place, (notes.Offset * _rate, notes.Drift)) : null, 0)],
            1 => [(-moved, 1), (apart[0], LeastLags)],
            _ => [(MostCommon(apart, Beside * _rate), 1)],
        };
        if (Array.Find(tried, t => t.By is { } noted && Math.Abs(noted) > Beside * _rate && ClearAt(place, noted / _rate) >= ClearAt(place) + t.More).By is { } beside)
        {
            _beside = beside / _rate;
        }

        // Notes that do not tell it well by themselves do where the sounds say the same.
        foreach (var i in _mixed.Where(i => _known[i] is null && all[i] is { } lag && Begins?[i] + _beside is { } begins && Math.Abs(((lag.Frames - moved) / _rate) - begins) <= NotesTell))
        {
            _known[i] = Begins![i];
        }

        var lags = Lags(place);
        if (Common(lags) is { } more)
        {
            Lay(Likelier(place, more));
            lags = Lags(place);
        }

        if (place.Slope != 0 && Array.TrueForAll(lags, l => l is null))
        {
            Lay(Straightened(place, lags, InTheMix(place, lags), windows));
        }

        if (Elsewhere(place, lags) is { } elsewhere)
        {
            Lay(elsewhere);
            lags = Lags(place);
        }

        if (place.Slope != 0)
        {
            Lay(Straightened(place, lags, InTheMix(place, lags), windows));
            lags = Lags(place);
            if (OneClock(place, lags) is { } still)
            {
                Lay(still.Place);
                lags = still.Lags;
            }
        }

        var told = InTheMix(place, lags);
        var doubtful = _mixed.Where(i => lags[i] is not { } lag || IsDoubtful(i, lag, told[i])).Take(MostDoubtful).ToList();
        if (doubtful.Count > 0)
        {
            Settle(doubtful, place, lags, told);

            // What was settled may be more than what was clear at once: then the take lies with that, and what drifts bends its line.
            var settled = Common(lags) is { } rest && (place.Slope == 0 || Math.Abs(rest) > Beside * _rate) ? Moved(place, rest) : place;
            lags = From(lags, place, settled);
            if (place.Slope != 0)
            {
                var straight = Straightened(settled, lags, told, windows);
                (settled, lags) = (straight, From(lags, settled, straight));
            }

            Lay(settled);

            // Where one lies right, more is seen of the others, and what was seen of them before may have come from where it lay.
            told = Clearer(told, InTheMix(place, lags));
        }

        told = Return(place, lags, told);
        if (Surest(lags, told) is { } heard)
        {
            var there = Moved(place, lags[heard]!.Value.Frames);
            lags = From(lags, place, there);
            Lay(there);
        }

        // By now all is seen, and most of it may lie together beside where the line was laid by what was clear at first.
        if (Common(lags) is { } left && Math.Abs(left) > Nearly)
        {
            var there = Moved(place, left);
            lags = From(lags, place, there);
            Lay(there);
        }

        // A file that lies far from the take tells that only where it is clear in the mix there; what it is heard beside may be another that bleeds into it.
        lags = [.. lags.Select((l, i) => l is { } lag && (told[i].Sign is not null || Math.Abs(lag.Frames) <= Beside * _rate || IsKnown(i, lag)) ? l : null)];

        // A file that goes with the mix in one way by itself and in the other beside all files: that is clear, or neither is known.
        for (var i = 0; i < lags.Length; i++)
        {
            if (lags[i] is { } lag && told[i].Sign is { } sign && lag.Sign != sign)
            {
                var isClear = told[i].Clearness >= Surely;
                (lags[i], told[i]) = (lag with { Sign = isClear ? sign : 0 }, told[i] with { Sign = isClear ? sign : null });
            }
        }

        return (place, lags, [.. told.Select(t => t.Sign)], _beside);

        // Where it was found by how much the notes lie beside the take, they stay where they are when the take is laid elsewhere.
        void Lay((double Start, double Slope) there)
        {
            _beside -= _beside == 0 ? 0 : Between(place, there) / _rate;
            place = there;
        }
    }

    /// <summary>
    /// What is held is nearly the same a period later, so that the line of a take most of which is held may cross the true one. Where the notes tell
    /// another drift, the line of what is struck and on time, from there, if it leaves less of the mix; null where it does not.
    /// </summary>
    private (double Start, double Slope)? Struck((double Start, double Slope) first, List<long> windows)
    {
        List<(IMonoSound, float)> struck = [.. _mixed.Where(i => _known[i] is { } late && Math.Abs(late) <= NotesTell).Select(i => (sounds[i]!, 1f))];
        if (first.Slope == 0 || struck.Count == 0 || Notes is not { Spread: > 0 and var spread } notes || Math.Abs(notes.Drift - first.Slope) < spread)
        {
            return null;
        }

        var told = (notes.Offset * _rate, notes.Drift);
        var line = Comparison.Nearer(reference, new MonoSum(struck), told, windows) ?? told;
        return LeftByNotes(line) < LeftByNotes(first) ? line : null;

        double LeftByNotes((double Start, double Slope) place) => ByNotes(place).Left.Sum();
    }

    /// <summary>True of a file that lies where neither the take nor its notes are, or beside the take by as much as another microphone of its element may be that is louder in the mix.</summary>
    private bool IsDoubtful(int file, SoundLag lag, InMix told) =>
        Math.Abs(lag.Frames) > Beside * _rate ? !IsKnown(file, lag) || Math.Abs(InFrames(Known(file))) <= Beside * _rate : Math.Abs(lag.Frames) > Nearly && told.Clearness < Surely;

    /// <summary>The file that is heard most clearly in the mix, where it surely is, and none that lies on the take, or where its notes are, is heard at all; null where there is none.</summary>
    private int? Surest(SoundLag?[] lags, InMix[] told)
    {
        List<int> heard = [.. _mixed.Where(i => lags[i] is not null && told[i].Sign is not null)];
        return heard.TrueForAll(i => lags[i] is { } lag && Math.Abs(lag.Frames) > Beside * _rate && !IsKnown(i, lag)) && heard.FindAll(i => told[i].Clearness >= Surely) is { Count: > 0 } surely
            ? surely.MaxBy(i => told[i].Clearness)
            : null;
    }

    /// <summary>
    /// What bleeds into a file may begin more clearly than what it holds. It lies where the mix is best explained by it: where it was found,
    /// where the take lies, or where it is found in what all others leave of the mix.
    /// </summary>
    private void Settle(List<int> doubtful, (double Start, double Slope) place, SoundLag?[] lags, InMix[] told)
    {
        OneByOne(doubtful, place, lags, told);
        var tried = lags.ToArray();
        foreach (var i in doubtful.Where(i => Math.Abs(Known(i) ?? 0) <= NotesTell))
        {
            tried[i] = new(0, 1);
        }

        var onTake = InTheMix(place, tried);
        Keep(onTake);
        var at = tried.Select(InFrames).ToArray();
        Parallel.ForEach(doubtful, _onAllCores, i => tried[i] = Lag(Left(i, place, at, onTake), i, place, near: true, SoundLag.Place.Likely));
        Keep(InTheMix(place, tried));

        void Keep(InMix[] with)
        {
            foreach (var i in doubtful.Where(i => with[i].Clearness > told[i].Clearness))
            {
                (lags[i], told[i]) = (tried[i] is { } lag ? lag with { Sign = with[i].Sign!.Value } : null, with[i]);
            }
        }
    }

    /// <summary>Lays each by itself on the take where less is left of the mix so: two microphones of one room may stand for each other, and where one lies wrong, neither is clear.</summary>
    private void OneByOne(List<int> doubtful, (double Start, double Slope) place, SoundLag?[] lags, InMix[] told)
    {
        var best = doubtful.Count > 1 ? Explained(place, lags).Left : [];
        foreach (var i in doubtful.Where(i => doubtful.Count > 1 && lags[i] is { } lag && Math.Abs(lag.Frames) > Beside * _rate && Math.Abs(Known(i) ?? 0) <= NotesTell))
        {
            var far = lags[i];
            lags[i] = new(0, 1);
            var here = Explained(place, lags);
            if (here.Left.Zip(best).All(left => left.First < left.Second) && here.Tracks[i].Sign is { } sign)
            {
                (lags[i], best) = (new(0, sign), here.Left);
                here.Tracks.CopyTo(told, 0);
            }
            else
            {
                lags[i] = far;
            }
        }
    }

    /// <summary>
    /// What bleeds into a file may be clear in the mix where it is none of what the file holds. A file lies far from the take, and not where its notes
    /// say, only where less is left of the mix than with it on the take, and no order tells the opposite; nor does it lie near where it is hardly heard.
    /// </summary>
    private InMix[] Return((double Start, double Slope) place, SoundLag?[] lags, InMix[] told)
    {
        foreach (var i in _mixed.Where(i => lags[i] is { } lag && IsElsewhere(i, lag, told[i])).Take(MostDoubtful).ToList())
        {
            var there = Explained(place, lags);
            var far = lags[i];
            lags[i] = new(0, 1);
            var here = Explained(place, lags);
            var less = here.Left.Zip(there.Left, (h, t) => h - t).ToList();
            if (there.Tracks[i].Clearness >= FarTells && less.Max() > 0 && less.Min() > -Opposing * less.Max())
            {
                lags[i] = far;
                continue;
            }

            lags[i] = here.Tracks[i].Sign is { } sign ? new(0, sign) : null;
            told[i] = here.Tracks[i];
            told = Clearer(told, here.Tracks);
        }

        return told;

        bool IsElsewhere(int file, SoundLag lag, InMix heard) =>
            Math.Abs(lag.Frames) > Beside * _rate ? !IsKnown(file, lag) : Math.Abs(lag.Frames) > Nearly && heard.Clearness < FarTells;
    }

    private static InMix[] Clearer(InMix[] before, InMix[] now) => [.. before.Zip(now, (b, n) => n.Clearness > b.Clearness || b.Sign != Math.Sign(n.Gain) ? n : b)];

    /// <summary>
    /// The take as if one clock had recorded it and the reference: at a whole number of frames, and without drift. It is so where no more is left of
    /// the mix then than along the line: where few sounds begin, and some files are late by themselves, their windows slant a line that has no slope.
    /// </summary>
    private ((double Start, double Slope) Place, SoundLag?[] Lags)? OneClock((double Start, double Slope) place, SoundLag?[] lags)
    {
        var over = place.Slope * reference.Frames.Count;
        if (Math.Abs(over) > Slanted)
        {
            return null;
        }

        var still = (Start: Math.Round(place.Start + over / 2), Slope: 0.0);
        var beside = Lags(still);
        return Explained(still, beside).Left.Sum() <= Explained(place, lags).Left.Sum() ? (still, beside) : null;
    }

    /// <summary>The take moved, but not far if fewer files are clear in the mix there: most may be found alike in a room that is louder than they are.</summary>
    private (double Start, double Slope) Likelier((double Start, double Slope) place, double by)
    {
        var moved = Moved(place, by);
        return Math.Abs(by) <= Beside * _rate || ClearAt(moved) >= ClearAt(place) ? moved : place;
    }

    /// <summary>
    /// The take where some files lie together, the nearest first, if surely more of them are clear in the mix there, and no order tells the opposite: most
    /// may be found alike in a room that is louder than they are.
    /// </summary>
    private (double Start, double Slope) Clearest((double Start, double Slope) place, IEnumerable<(double Start, double Slope)> others)
    {
        var best = ByNotes(place);
        foreach (var other in others.OrderBy(o => Math.Abs(Between(place, o))))
        {
            var there = ByNotes(other);
            if (Clear(there.Tracks) >= Clear(best.Tracks) + LeastLags && there.Left.Zip(best.Left).All(left => left.First < left.Second))
            {
                (place, best) = (other, there);
            }
        }

        return place;
    }

    /// <summary>How many files are clear in the mix where all lie as their notes say.</summary>
    private int ClearAt((double Start, double Slope) place, double beside = 0) => Clear(ByNotes(place, beside).Tracks);

    private static int Clear(InMix[] told) => told.Count(t => t.Sign is not null);

    /// <summary>What each file is in the mix, and how much all leave of it, where all lie as their notes say.</summary>
    private (InMix[] Tracks, double[] Left) ByNotes((double Start, double Slope) place, double beside = 0) => Explained(place, [.. _known.Select(late => InFrames(late + beside))]);

    /// <summary>
    /// Where no two files lie on the take, another place of it, of those where one of them may lie, if all files there explain more of the mix than
    /// they do where each was found: what is held is nearly the same a period later. Null where there is none.
    /// </summary>
    private (double Start, double Slope)? Elsewhere((double Start, double Slope) place, SoundLag?[] lags)
    {
        if (_mixed.Count(i => lags[i] is { } lag && Math.Abs(lag.Frames) <= Beside * _rate) >= LeastLags)
        {
            return null;
        }

        List<double> away = [];
        foreach (var by in _mixed.Select(i => lags[i]?.Frames).Concat(_mixed.Select(i => Lag(reference, i, place, near: false, SoundLag.Place.Likely)?.Frames)).OfType<double>())
        {
            if (Math.Abs(by) > Beside * _rate && !away.Exists(a => Math.Abs(a - by) <= Beside * _rate))
            {
                away.Add(by);
            }
        }

        (double Start, double Slope)? best = null;
        var left = away.Count > 0 ? Explained(place, lags).Left : [];
        foreach (var there in away.Take(MostPlaces).Select(by => Moved(place, by)))
        {
            var beside = _beside == 0 ? 0 : _beside - (Between(place, there) / _rate);
            var here = ByNotes(there, beside).Left;
            if (here.Zip(left).All(l => l.First < l.Second))
            {
                (best, left) = (there, here);
            }
        }

        return best;
    }

    /// <summary>By how much most files lie beside the take, in frames, or if as many lie together elsewhere, most of those near it, or the only one there is; null where they do not.</summary>
    private double? Common(SoundLag?[] lags)
    {
        List<double> all = [.. _mixed.Select(i => lags[i]?.Frames).OfType<double>()];
        return (_mixed.Count == 1 ? all.FirstOrDefault() : MostCommon(all, Together * _rate) ?? MostCommon(all.FindAll(l => Math.Abs(l) <= Beside * _rate), Together * _rate)) is { } beside && Math.Abs(beside) > Half ? beside : null;
    }

    /// <summary>About which values two or more lie together, each gathering once.</summary>
    private static List<double> Gatherings(List<double> values, double near)
    {
        List<double> found = [];
        foreach (var about in values.Select(v => values.FindAll(other => Math.Abs(other - v) <= near)).Where(about => about.Count >= LeastLags).OrderByDescending(about => about.Count))
        {
            var middle = Middle(about, near);
            if (!found.Exists(f => Math.Abs(f - middle) <= near))
            {
                found.Add(middle);
            }
        }

        return found;
    }

    /// <summary>About which of some values more others lie than about any that lies elsewhere; null where none has more.</summary>
    private static double? MostCommon(IReadOnlyList<double> values, double near)
    {
        List<double> About(double value) => [.. values.Where(v => Math.Abs(v - value) <= near)];
        return values.Select(About).MaxBy(all => all.Count) is { Count: >= LeastLags } most && values.Except(most).All(v => About(v).Count < most.Count) ? Middle(most, near) : null;
    }

    /// <summary>Where most of some values lie nearest each other: of lags those of what is bright, since what is low is a little beside; or else in their middle.</summary>
    private static double Middle(List<double> values, double near) => (near > Half ? MostCommon(values, Half) : null) ?? TheilSen.Median(values);

    private static (double Start, double Slope) Moved((double Start, double Slope) place, double by) => place with { Start = place.Start + (place.Slope == 0 ? Math.Round(by) : by) };

    /// <summary>Where files lie beside a take that was thought to lie elsewhere.</summary>
    private SoundLag?[] From(SoundLag?[] lags, (double Start, double Slope) before, (double Start, double Slope) after)
    {
        var by = Between(before, after);
        return [.. lags.Select(l => l is { } lag ? lag with { Frames = lag.Frames - by } : l)];
    }

    /// <summary>By how many frames a take lies later than where it was thought to lie, in its middle.</summary>
    private double Between((double Start, double Slope) before, (double Start, double Slope) after) => after.Start - before.Start + ((after.Slope - before.Slope) * reference.Frames.Count / 2);

    private double? Known(int file) => _known[file] + _beside;

    private double InFrames(double? seconds) => (seconds ?? 0) * _rate;

    private double InFrames(SoundLag? lag, int file) => lag?.Frames ?? InFrames(Known(file));

    private bool IsKnown(int file, SoundLag lag) => Known(file) is { } late && Math.Abs(lag.Frames - InFrames(late)) <= NotesTell * _rate;

    /// <summary>Where each file lies, near where its notes say where these tell it.</summary>
    private SoundLag?[] Lags((double Start, double Slope) place) => [.. sounds.Select((s, i) => s is null ? null : Lag(reference, i, place, near: true))];

    /// <summary>True of a file that would lie far from the take and later than its sounds begin: some sounds are nearly the same a little later, and upside down.</summary>
    private bool IsBehindItsBeginnings(int file, SoundLag lag) =>
        Math.Abs(lag.Frames) > Beside * _rate && Begins?[file] + _beside is { } begins && lag.Frames > (begins + NotesTell) * _rate;

    /// <summary>Where a file lies beside where the take lies; null where it cannot be heard.</summary>
    private SoundLag? Lag(IMonoSound mix, int file, (double Start, double Slope) place, bool near, SoundLag.Place asked = SoundLag.Place.Only)
    {
        var beginnings = Beginnings(file, Windows, place).ToList();
        var found = beginnings.Count == 0 ? null : SoundLag.Of(
            mix,
            new Placed(sounds[file]!, place),
            beginnings,
            near && Known(file) is { } late ? (late, NotesTell) : (0, SoundLag.Furthest),
            asked,
            cancel);
        return near && found is { } lag && IsBehindItsBeginnings(file, lag) ? null : found;
    }

    /// <summary>Windows of the reference in which what tells most of a file begins, if the file lies there.</summary>
    private IEnumerable<long> Beginnings(int file, int most, (double Start, double Slope) place) =>
        SoundLag.Strongest(telling[file], most).Select(o => (long)((o * _rate - place.Start) / (1 + place.Slope)) - SoundLag.Window(reference.Rate) / 8);

    /// <summary>What each file is in the mix, all laid where they belong.</summary>
    private InMix[] InTheMix((double Start, double Slope) place, SoundLag?[] lags) => InTheMix(place, [.. lags.Select(InFrames)]);

    private InMix[] InTheMix((double Start, double Slope) place, double[] at) => Explained(place, at).Tracks;

    private (InMix[] Tracks, double[] Left) Explained((double Start, double Slope) place, SoundLag?[] lags) => Explained(place, [.. lags.Select(InFrames)]);

    /// <summary>What each file is in the mix, all laid so, and how much they leave of it.</summary>
    private (InMix[] Tracks, double[] Left) Explained((double Start, double Slope) place, double[] at)
    {
        var (mix, tracks) = Laid(place, at);
        var (told, left) = MixSigns.Of(
            mix,
            tracks,
            [.. _mixed.SelectMany(i => Beginnings(i, Places, (place.Start + at[i], place.Slope)))],
            cancel);
        var all = new InMix[sounds.Count];
        for (var i = 0; i < told.Length; i++)
        {
            all[_mixed[i]] = told[i];
        }

        return (all, left);
    }

    /// <summary>Where the files that lie on the take lie in the mix, or if it is known of none, all of them, as loud as they are there: what is late by itself would bend the line.</summary>
    private (double Start, double Slope) Straightened((double Start, double Slope) place, SoundLag?[] lags, InMix[] told, List<long> windows)
    {
        var onTake = _mixed.Where(i => lags[i] is { } lag && Math.Abs(lag.Frames) <= Beside * _rate).ToList();
        onTake = onTake.Count == 0 && Array.TrueForAll(lags, l => l is null) ? _mixed : onTake;
        if (onTake.Count == 0)
        {
            return place;
        }

        if (Comparison.Nearer(reference, Sum(onTake, told), place, windows) is not { } straight)
        {
            return Crossed(place, onTake, lags, told);
        }

        // What one of them hears of another that is late may bend it as well: then much more is left of the mix.
        return Explained(straight, Lags(straight)).Left.Sum() > Explained(place, lags).Left.Sum() + MuchMore ? place : straight;
    }

    /// <summary>Files as loud as they are in the mix.</summary>
    private MonoSum Sum(List<int> files, InMix[] told) => new([.. files.Select(i => ((IMonoSound)sounds[i]!, (float)told[i].Gain))]);

    /// <summary>
    /// Where only few windows tell of what is held, their line may cross the true one: that which is nearer where the files begin may then lie farther
    /// from it than a line is bent, if much less is left of the mix so.
    /// </summary>
    private (double Start, double Slope) Crossed((double Start, double Slope) place, List<int> onTake, SoundLag?[] lags, InMix[] told)
    {
        return Comparison.Nearer(reference, Sum(onTake, told), place, [.. onTake.SelectMany(i => Beginnings(i, Windows, place))], Crossing) is { } next
            && Explained(next, Lags(next)).Left.Sum() < Explained(place, lags).Left.Sum() - MuchMore ? next : place;
    }

    /// <summary>What all files but one leave of the mix.</summary>
    private MonoSum Left(int file, (double Start, double Slope) place, double[] at, InMix[] told)
    {
        var (mix, tracks) = Laid(place, at);
        return new([(mix, 1), .. tracks.Zip(_mixed).Where(t => t.Second != file).Select(t => ((IMonoSound)t.First, (float)-told[t.Second].Gain))]);
    }

    /// <summary>The mix and the files where each lies in it; all go through the filter that one of them needs, or what it takes off the top would be called a difference.</summary>
    private (Placed Mix, IReadOnlyList<Placed> Tracks) Laid((double Start, double Slope) place, double[] at)
    {
        var filtered = place.Slope != 0 || _mixed.Exists(i => place.Start + at[i] != Math.Round(place.Start + at[i]));
        return (new(reference, (0, 0), filtered), [.. _mixed.Select(i => new Placed(sounds[i]!, (place.Start + at[i], place.Slope), filtered))]);
    }
}
