using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>
/// How loud each note of a held part is in a file, whatever else sounds there: by the harmonics of its pitch that no other part has then, each over
/// what lies beside it, against what the same harmonic usually has.
/// </summary>
/// <param name="sound">The file.</param>
/// <param name="part">The part.</param>
/// <param name="others">What else plays.</param>
/// <param name="time">The time of the take.</param>
/// <param name="late">By how much later than the take the file is, in seconds.</param>
internal sealed class HarmonicLevels(IMonoSound sound, Part part, IReadOnlyList<Part> others, TakeTime time, double late)
{
    private const int Most = 8; // harmonics of its own
    private const int MostOfOthers = 12;
    private const double Highest = 5000; // Hz
    private const double BelowNyquist = 0.45; // of the sample rate
    private const double Shortest = 0.1; // s
    private const double RingsOn = 0.1; // s behind the end of a note of another
    private const double Lobe = 2; // times one over the length of a window: half of what a sinusoid is under Hann's
    private const double Clear = 1.2 * Lobe; // nearer ones cannot be told apart
    private const double Vibrato = 0.01; // of a frequency, to either side
    private const int Usually = 64; // notes from which it is learned what a harmonic has
    private const int LeastUsually = 4;
    private const double LeastShare = 0.002; // of what all harmonics have: what is left tells less
    private const double Hidden = 0.1; // of what a harmonic usually has
    private const double LeastTonal = 0.04; // of all energy that lies at the harmonics, or the part does not sound at its pitches
    private const double Nothing = 1e-9; // of what there usually is
    private readonly int _size = Lasting.Frames(1 << 14, sound.Rate);
    private readonly Tone[][] _notes = [.. part.Tones.GroupBy(t => t.Start).OrderBy(g => g.Key).Select(g => g.ToArray())];
    private readonly Tone[] _others = [.. others.SelectMany(o => o.Tones).OrderBy(t => t.Start)];
    private readonly Dictionary<int, ((double Own, double Beside)?[] Harmonics, double All)?> _heard = [];
    private double[]? _usual;

    /// <summary>How many notes there are.</summary>
    public int Count => _notes.Length;

    /// <summary>When a note sounds in the file.</summary>
    public double At(int note) => time.Of(_notes[note][0].Start) + late;

    /// <summary>The level of a note in dB against what its harmonics usually have, and how much of all that they usually have can be heard; null where that is too little.</summary>
    public (double Decibels, double Share)? Level(int note)
    {
        if (_usual is null || Heard(note) is not { } heard)
        {
            return null;
        }

        var (own, usual) = (0.0, 0.0);
        for (var h = 0; h < Most; h++)
        {
            // Where as much lies beside it as it usually has, nothing would be seen of it.
            if (heard.Harmonics[h] is var (power, beside) && beside < Hidden * _usual[h])
            {
                (own, usual) = (own + power, usual + _usual[h]);
            }
        }

        var share = usual / _usual.Sum();
        return share > LeastShare ? (10 * Math.Log10(own / usual + Nothing), share) : null;
    }

    /// <summary>Learns from some notes what each harmonic usually has.</summary>
    /// <param name="first">The first of them.</param>
    /// <returns>The levels of those that can be heard; null where the part does not sound at its pitches.</returns>
    public double[]? Learn(int first)
    {
        var learned = Enumerable.Range(first, Count - first).Where((_, i) => i % (1 + (Count - first - 1) / Usually) == 0).ToList();
        var heard = learned.Select(Heard).OfType<((double Own, double Beside)?[] Harmonics, double All)>().ToList();
        _usual = [.. Enumerable.Range(0, Most).Select(h => heard.Select(p => p.Harmonics[h]?.Own).OfType<double>().ToArray() is { Length: >= LeastUsually } some ? TheilSen.Median(some) : 0)];
        return heard.Count < LeastUsually || TheilSen.Median([.. heard.Select(p => p.Harmonics.Sum(h => h?.Own ?? 0) / p.All)]) < LeastTonal
            ? null
            : [.. learned.Select(n => Level(n)?.Decibels).OfType<double>()];
    }

    private ((double Own, double Beside)?[] Harmonics, double All)? Heard(int note)
    {
        if (!_heard.TryGetValue(note, out var heard))
        {
            _heard[note] = heard = Powers(note);
        }

        return heard;
    }

    /// <summary>The power of each harmonic of a note over what lies beside it, null where another part has one there; and that of all that is heard.</summary>
    private ((double Own, double Beside)?[] Harmonics, double All)? Powers(int note)
    {
        var (rate, tones) = (sound.Rate.Hz, _notes[note]);
        var start = tones[0].Start;
        var end = Math.Min(tones.Max(t => t.End), note + 1 < Count ? _notes[note + 1][0].Start : double.MaxValue);
        var length = Math.Clamp(end - start, Shortest, (double)_size / rate);
        var (at, samples) = ((long)(At(note) * rate), new float[(int)(length * rate)]);
        if (at + samples.Length > sound.Frames.Count)
        {
            return null;
        }

        sound.Read(at, samples);
        Hann.Fade(samples);
        var bins = RealFourier.Forward(samples, _size);
        var all = Math.Max(samples.Sum(s => (double)s * s), double.Epsilon);
        var lobe = Lobe / length;
        double[] busy = [.. _others.TakeWhile(t => t.Start < start + length).Where(t => t.End + RingsOn > start).SelectMany(t => Enumerable.Range(1, MostOfOthers).Select(h => h * Frequency(t.Key))).Order()];
        var harmonics = new (double Own, double Beside)?[Most];
        foreach (var tone in tones)
        {
            for (var h = 1; h <= Most && h * Frequency(tone.Key) < Math.Min(Highest, BelowNyquist * rate); h++)
            {
                var frequency = h * Frequency(tone.Key);
                var beside = new[] { -3, -2, 2, 3 }.Select(d => frequency + d * lobe).Where(f => f > lobe && IsFree(f)).ToArray();
                if (IsFree(frequency) && beside.Length > 0)
                {
                    var (least, before) = (beside.Min(Top), harmonics[h - 1] ?? (0, 0));
                    harmonics[h - 1] = (before.Own + Math.Max(0, Top(frequency) - least), before.Beside + least);
                }
            }
        }

        // The square of the highest bin of a sinusoid under Hann's window is a third of all its squares, times how many they are.
        return (harmonics, all * samples.Length / 3);

        bool IsFree(double frequency)
        {
            var next = Array.BinarySearch(busy, frequency - Clear / length);
            next = next < 0 ? ~next : next;
            return next == busy.Length || busy[next] > frequency + Clear / length;
        }

        double Top(double frequency)
        {
            var (middle, reach) = (frequency * _size / rate, Math.Max(lobe / 2, Vibrato * frequency) * _size / rate);
            var (first, last) = (Math.Clamp((int)Math.Floor(middle - reach), 1, _size / 2), Math.Min(_size / 2, (int)Math.Ceiling(middle + reach)));
            return Enumerable.Range(first, last - first + 1).Max(b => bins[b].Real * bins[b].Real + bins[b].Imaginary * bins[b].Imaginary);
        }
    }

    private static double Frequency(int key) => 440 * Math.Pow(2, (key - 69) / 12.0);
}
