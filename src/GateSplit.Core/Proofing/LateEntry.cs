using System.Runtime.Intrinsics;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>
/// Whether a file comes in too late: the first notes of its part are all far softer in it than those behind them. What bleeds in plays on while
/// they are missing, so that each band counts by how far the notes stand out of what is heard where others play.
/// </summary>
internal static class LateEntry
{
    private const int Several = 2; // notes: a single one may be a ghost
    private const int LeastBehind = 4; // notes with which they are compared
    private const int LeastOthers = 4; // notes of others that tell what bleeds in
    private const int MostOthers = 32;
    private const double Lead = 0.002; // s
    private const double Longest = 0.15; // s of a note that is looked at
    private const double Shortest = 0.02;
    private const double Softer = 6; // dB below the softest of those behind
    private const double SofterHeld = 10; // dB: held notes are of many pitches
    private const double FarSofter = 30; // dB below most: no ghost is so soft
    private const double Softest = 0.1; // of these, softer ones do not count
    private const double Bled = 3; // dB by which one of them may be louder, where most of them are as much softer again: another sounds at its place
    private const double Apart = 1; // dB: where others behind are as soft, one of its sounds is
    private const int SeveralHeld = 3; // held notes, most of which are missing while another sounds at the place of some
    private const double Cut = 0.01; // s by which a note may lie before the file: its end is still heard
    private const float Floor = 1e-12f; // mean square
    private const double SofterHarmonics = 10; // dB below the softest of those behind
    private const double SofterAlone = 25; // where one note only can be heard
    private const double ShareAlone = 0.1; // of what its harmonics usually have: the faint ones may swell later than the note
    private const double Before = 0.05; // s before a note, over which it begins
    private const float Risen = 10; // times the energy before, in any band: noise does not
    private const double Usual = -5; // dB: what is softer further on makes nothing of what is softer still

    /// <summary>Counts the notes that are missing at the start, of those that lie in the file.</summary>
    /// <param name="sound">The file.</param>
    /// <param name="part">What it holds.</param>
    /// <param name="others">What else plays.</param>
    /// <param name="time">The time of the take.</param>
    /// <param name="late">By how much later than the take it is, in seconds.</param>
    /// <returns>Null where there are too few to compare.</returns>
    public static int? Missing(IMonoSound sound, Part part, IReadOnlyList<Part> others, TakeTime time, double late)
    {
        if (part.Held && Held(new HarmonicLevels(sound, part, others, time, late)) is { } held)
        {
            return held;
        }

        // Where a file breaks off, nothing is missing at its start.
        var end = (double)sound.Frames.Count / sound.Rate.Hz - Longest;
        var inside = part.Notes.Select((n, i) => (Start: time.Of(n) + late, Note: i)).Where(n => n.Start >= -Cut && n.Start <= end).ToArray();
        var starts = Array.ConvertAll(inside, n => n.Start);
        var notes = starts.Select((start, i) => Bands(sound, start, i + 1 < starts.Length ? starts[i + 1] - start : Longest)).ToArray();
        if (notes.Length <= LeastBehind)
        {
            return null;
        }

        // What is heard where others play and it does not, taken from all over the file.
        var elsewhere = others.SelectMany(o => o.Notes).Select(n => time.Of(n)).Where(t => t >= 0 && t <= end && !Near(starts, t)).Distinct().Order().ToList();
        var beside = elsewhere.Where((_, i) => i % (1 + (elsewhere.Count / MostOthers)) == 0).Select(t => Bands(sound, t, Longest)).ToArray();
        var weights = Vector256<float>.One;
        if (!part.Held && beside.Length >= LeastOthers)
        {
            var (own, bled) = (Median(notes[(notes.Length / 2)..]), Median(beside) + Vector256.Create(Floor));
            weights = own / (bled * bled);
        }

        var levels = notes.Select(n => 10 * Math.Log10(Vector256.Dot(weights, n) + double.Epsilon)).ToArray();
        var (loudest, missing, highest) = (double.NegativeInfinity, 0, levels.Max());

        // Behind what is nearly as loud as the loudest nothing can be louder by as much as is asked for.
        for (var i = 0; i < levels.Length - LeastBehind && loudest < highest - Softer + Bled; i++)
        {
            loudest = Math.Max(loudest, levels[i]);
            var behind = levels[(i + 1)..].Order().ToArray();
            var soft = behind[(int)(Softest * behind.Length)] - (part.Held ? SofterHeld : Softer);
            var usual = TheilSen.Median([.. levels[..(i + 1)]]);
            if (i + 1 >= Several && behind[Several - 1] > usual + Apart && (loudest < soft || (loudest < soft + Bled && usual < soft - Softer) || (part.Held && i + 1 >= SeveralHeld && usual < soft && loudest < TheilSen.Median(behind) - Softer)))
            {
                missing = i + 1;
            }
        }

        if (part.Held)
        {
            return missing;
        }

        var strangers = StrangersTo(part, others, time);
        missing = missing == 0 ? Lost(levels, starts, strangers) : missing;
        if (part.Sounds.Length != part.Notes.Length)
        {
            return missing;
        }

        var sounds = Array.ConvertAll(inside, n => part.Sounds[n.Note]);
        return missing == 0 || AreSoft(levels, sounds, missing) || Begin(sound, starts[..missing], strangers) ? BySound(levels, sounds) : missing;
    }

    /// <summary>How many of the first notes are missing where most of them are hardly heard at all, and another plays at the places of the others.</summary>
    private static int Lost(double[] levels, double[] starts, double[] strangers)
    {
        var (usual, lost, missing) = (TheilSen.Median(levels), 0, 0);
        for (var i = 0; i < levels.Length - LeastBehind; i++)
        {
            if (levels[i] < usual - FarSofter)
            {
                lost++;
                missing = lost >= Several && 2 * lost >= i + 1 ? i + 1 : missing;
            }
            else if (!Near(strangers, starts[i]))
            {
                break;
            }
        }

        // What is as soft further on is played so.
        return Array.Exists(levels[missing..], l => l < usual - FarSofter) ? 0 : missing;
    }

    /// <summary>True where most of the first notes begin in the file, however softly, of those at whose place nothing else plays.</summary>
    private static bool Begin(IMonoSound sound, double[] starts, double[] strangers)
    {
        var alone = starts.Where(s => s >= Lead + Before && !Near(strangers, s)).ToList();
        return 2 * alone.Count(s => Rises(sound, s - Lead)) > alone.Count;
    }

    private static bool Rises(IMonoSound sound, double at)
    {
        var samples = new float[(int)((Before + Longest) * sound.Rate.Hz)];
        sound.Read((long)((at - Before) * sound.Rate.Hz), samples);
        var (bands, split) = (new BandEnergies(sound.Rate), (int)(Before * sound.Rate.Hz));
        var before = bands.Add(samples.AsSpan(..split));
        return Vector256.GreaterThanAny(bands.Add(samples.AsSpan(split..)), Vector256.Create(Risen) * (before + Vector256.Create(Floor)));
    }

    /// <summary>The notes of all that plays elsewhere as well; a kick is no stranger to its overheads.</summary>
    private static double[] StrangersTo(Part part, IReadOnlyList<Part> others, TakeTime time)
    {
        var own = part.Notes.ToHashSet();
        return [.. others.Where(o => !o.Notes.All(own.Contains)).SelectMany(o => o.Notes).Select(n => time.Of(n)).Order()];
    }

    /// <summary>True of first notes whose sounds are as soft further on: nothing is missing where a hat begins and the drums follow.</summary>
    private static bool AreSoft(double[] levels, int[] sounds, int first)
    {
        var behind = levels[first..].Zip(sounds[first..]).ToLookup(n => n.Second, n => n.First);
        var known = Enumerable.Range(0, first).Where(i => behind[sounds[i]].Count() >= LeastBehind).ToList();
        return known.Count > 0 && known.TrueForAll(i => TheilSen.Median([.. behind[sounds[i]]]) < levels[i] + Softer);
    }

    /// <summary>
    /// As <see cref="Missing"/>, where several sounds are played: each is compared with itself, since some of them may be as soft as the noise all
    /// along. Those tell nothing; all others at the start have to be missing.
    /// </summary>
    private static int BySound(double[] levels, int[] sounds)
    {
        var behind = levels.Zip(sounds).GroupBy(n => n.Second, n => n.First).ToDictionary(g => g.Key, g => g.Order().ToList());
        var (told, missing, loudest, faint) = (0, 0, double.NegativeInfinity, levels.Order().ElementAt((int)(Softest * levels.Length)) + Softer);
        for (var i = 0; i < levels.Length; i++)
        {
            var (level, rest) = (levels[i], behind[sounds[i]]);
            rest.RemoveAt(rest.BinarySearch(level));
            loudest = Math.Max(loudest, level);
            var isSoft = rest.Count >= LeastBehind && level < rest[(int)(Softest * rest.Count)] - Softer && level < rest[Several - 1] - Apart;
            if (isSoft && rest[rest.Count / 2] > loudest + Softer)
            {
                (told, missing) = (told + 1, i + 1);
            }
            else if (level > faint)
            {
                break;
            }
        }

        return told >= Several ? missing : 0;
    }

    /// <summary>As <see cref="Missing"/>, by the harmonics of what is held; null where these do not tell it.</summary>
    private static int? Held(HarmonicLevels levels)
    {
        var first = Enumerable.Range(0, levels.Count).FirstOrDefault(n => levels.At(n) >= -Cut);
        if (levels.Count - first <= LeastBehind || levels.Learn((first + levels.Count) / 2) is not { Length: >= LeastBehind } usual)
        {
            return null;
        }

        var soft = Math.Min(usual.Order().ElementAt((int)(Softest * usual.Length)), Usual);
        var heard = new List<(double Decibels, double Share)>();
        for (var note = first; note < levels.Count; note++)
        {
            if (levels.Level(note) is not { } level)
            {
                continue;
            }

            if (level.Decibels >= soft - SofterHarmonics)
            {
                var isMissing = heard.Count > 1 || (heard.Count == 1 && heard[0] is var (alone, share) && alone < soft - SofterAlone && share > ShareAlone);
                return isMissing && note - first >= Several ? note - first : 0;
            }

            heard.Add(level);
        }

        return null;
    }

    private static bool Near(double[] starts, double at)
    {
        var next = Array.BinarySearch(starts, at - Longest);
        next = next < 0 ? ~next : next;
        return next < starts.Length && starts[next] <= at + Longest;
    }

    private static Vector256<float> Bands(IMonoSound sound, double start, double room)
    {
        var samples = new float[(int)(Math.Clamp(room - Lead, Shortest, Longest) * sound.Rate.Hz)];
        sound.Read((long)((start - Lead) * sound.Rate.Hz), samples);
        return new BandEnergies(sound.Rate).Add(samples);
    }

    private static Vector256<float> Median(Vector256<float>[] of)
    {
        var median = Vector256<float>.Zero;
        for (var band = 0; band < BandEnergies.Bands; band++)
        {
            median = median.WithElement(band, (float)TheilSen.Median([.. of.Select(v => (double)v.GetElement(band))]));
        }

        return median;
    }
}
