using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>
/// How well the pitches of tracks fit the notes that parts hold: the pitch classes of stretches all along the take, right behind notes that begin
/// and right before them, correlated with the classes that each part holds there.
/// </summary>
internal static class PitchFit
{
    private const int MostNotes = 32;
    private const double Behind = 0.06; // s after a note begins: what is held has risen
    private const int LeastNotes = 4;
    private const int LeastStretches = 6; // of the two of each note

    /// <summary>Compares all tracks with all parts that are held.</summary>
    /// <param name="sounds">The tracks; null for a silent one.</param>
    /// <param name="parts">The parts.</param>
    /// <param name="time">The time of the take.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>A correlation for each track and part, -1 to 1; null where the part is struck, or holds the same all along.</returns>
    public static double?[,] Of(IReadOnlyList<IMonoSound?> sounds, IReadOnlyList<Part> parts, TakeTime time, CancellationToken cancel)
    {
        var fits = new double?[sounds.Count, parts.Count];
        var starts = parts.SelectMany(p => p.Tones).Select(t => t.Start).Distinct().Order().ToList();
        if (starts.Count < LeastNotes)
        {
            return fits;
        }

        List<double> asked = [.. starts.Select((s, i) => (s, Part: i * MostNotes / starts.Count)).GroupBy(p => p.Part).Select(g => g.First().s)];
        Parallel.For(0, sounds.Count, new ParallelOptions { CancellationToken = cancel, MaxDegreeOfParallelism = Environment.ProcessorCount }, track =>
        {
            if (sounds[track] is not { } sound)
            {
                return;
            }

            // A long note looks alike from its start on: what sounded before it tells that it begins here. Where a file begins late or breaks off, nothing is missing in it.
            var length = PitchClasses.Seconds(sound.Rate);
            var inside = asked.SelectMany(s => new[] { s - length, s + Behind }).Where(s => time.Of(s) >= 0 && time.Of(s) + length <= (double)sound.Frames.Count / sound.Rate.Hz).ToList();
            if (inside.Count < LeastStretches)
            {
                return;
            }

            var heard = PitchClasses.Heard(sound, [.. inside.Select(time.Of)]);
            for (var part = 0; part < parts.Count; part++)
            {
                fits[track, part] = parts[part].Tones.IsEmpty ? null : PitchClasses.Likeness([.. inside.SelectMany(s => PitchClasses.Held(parts[part], s, s + length))], heard);
            }
        });
        return fits;
    }
}
