using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>
/// Where a take may lie in which nothing is struck: where most of its pitches are those that the parts hold. What swells has few beginnings and
/// late ones, and those of even notes fit at every beat.
/// </summary>
internal static class PitchPlaces
{
    private const int Most = 3;
    private const double Step = 0.01; // s
    private const int Hop = 10; // steps between stretches of sound
    private const int Beside = 10; // steps to either side of a place that are worse
    private const int LeastStretches = 8;

    /// <summary>Finds them.</summary>
    /// <param name="sounds">The tracks; null for a silent one.</param>
    /// <param name="parts">The parts.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>Seconds by which the take may be late, the likeliest first; none where nothing is held.</returns>
    public static List<double> Of(IReadOnlyList<IMonoSound?> sounds, IReadOnlyList<Part> parts, CancellationToken cancel)
    {
        var first = parts.SelectMany(p => p.Tones.Take(1)).Select(t => t.Start).DefaultIfEmpty(double.NaN).Min();
        List<Part> held = [.. parts.Select(p => p with { Tones = [.. p.Tones.TakeWhile(t => t.Start < first + TakeTime.FirstPart + (2 * TakeTime.Furthest))] }).Where(p => !p.Tones.IsEmpty)];
        if (held.Count == 0)
        {
            return [];
        }

        var from = Math.Max(0, first - TakeTime.Furthest);
        var options = new ParallelOptions { CancellationToken = cancel, MaxDegreeOfParallelism = Environment.ProcessorCount };
        var heard = new float[sounds.Count][];
        Parallel.For(0, sounds.Count, options, track =>
        {
            var until = sounds[track] is { } own ? Math.Min(first + TakeTime.FirstPart + TakeTime.Furthest, (double)own.Frames.Count / own.Rate.Hz) - PitchClasses.Seconds(own.Rate) : 0;
            var starts = Enumerable.Range(0, Math.Max(0, (int)Math.Ceiling((until - from) / (Hop * Step)))).Select(i => from + (i * Hop * Step)).ToArray();
            heard[track] = sounds[track] is { } sound && starts.Length >= LeastStretches ? PitchClasses.Heard(sound, starts) : [];
        });
        var longest = heard.Max(h => h.Length) / PitchClasses.Count;
        if (longest == 0)
        {
            return [];
        }

        // What is held at each step, from the earliest that a take may lie at.
        var reach = (int)(TakeTime.Furthest / Step);
        var length = PitchClasses.Seconds(sounds.First(s => s is not null)!.Rate);
        var rolls = new float[held.Count][];
        Parallel.For(0, held.Count, options, part =>
            rolls[part] = [.. Enumerable.Range(-reach, (longest * Hop) + (2 * reach)).SelectMany(i => PitchClasses.Held(held[part], from + (i * Step), from + (i * Step) + length))]);
        var fits = new double[(2 * reach) + 1];
        Parallel.For(0, fits.Length, options, late =>
        {
            var expected = rolls.Select(roll => Expected(roll, late)).ToList();
            fits[late] = heard.Where(h => h.Length > 0).Sum(h => expected.Max(e => PitchClasses.Likeness(e.AsSpan(0, h.Length), h) ?? 0));
        });
        return [.. Enumerable.Range(0, fits.Length)
            .Where(i => fits[i] > 0 && Enumerable.Range(i - Beside, (2 * Beside) + 1).All(n => n < 0 || n >= fits.Length || fits[n] <= fits[i]))
            .OrderByDescending(i => fits[i])
            .Take(Most)
            .Select(i => (i - reach) * Step)];

        // What each stretch of sound should hold if the take were so many steps later than the earliest.
        float[] Expected(float[] roll, int late)
        {
            var expected = new float[longest * PitchClasses.Count];
            for (var i = 0; i < longest; i++)
            {
                roll.AsSpan(((i * Hop) + (2 * reach) - late) * PitchClasses.Count, PitchClasses.Count).CopyTo(expected.AsSpan(i * PitchClasses.Count));
            }

            return expected;
        }
    }
}
