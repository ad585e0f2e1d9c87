using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Core.Views;

namespace GateSplit.Tests.Shared;

/// <summary>
/// A take of a random session with known faults: each element printed alone on the stand-ins, then mixed, moved, turned and spoiled here, in plain
/// loops, so that the truth of every question is known.
/// </summary>
public sealed class PlantedTake
{
    private const int MostTracks = 14;
    private const int Company = 4; // files, of which most must lie where the take lies, for one to lie beside it
    private readonly Random _random;
    private readonly List<float[]> _stems = [];
    private readonly double[] _gains;

    /// <summary>Makes one.</summary>
    /// <param name="seed">Gives the same again.</param>
    /// <param name="folder">Where files are written.</param>
    /// <param name="spoiled">False for a take without any fault.</param>
    /// <param name="rate">Its sample rate, in Hz.</param>
    public PlantedTake(int seed, string folder, bool spoiled = true, int rate = 48000)
    {
        (_random, Rate) = (new Random(seed), rate);
        var chart = Shelf.Charts[_random.Next(Shelf.Charts.Length)];
        ChartName = chart.Name;
        var song = Song.Of(RandomSong(chart));
        var split = Laid(chart, song);
        var view = SplitView.Of(split, song);
        Chosen(view, song, folder);
        _gains = [.. _stems.Select(_ => Ratio(-9 + 6 * _random.NextDouble()))];
        Count = _stems.Count;
        Is = [.. Enumerable.Range(0, Count)];
        Bleeds = new double?[Count, Count];
        Double = new (int, double)?[Count];
        (Upside, Silent, Clipped, Late, Dropped, CutOff, Clicked) = (new bool[Count], new bool[Count], new bool[Count], new double[Count], new bool[Count], new bool[Count], new bool[Count]);
        EntersAt = new int[Count];
        HasReference = _random.Next(3) > 0;
        if (spoiled && Count > 0)
        {
            Spoil();
        }

        if (Count > 0)
        {
            Write(folder);
        }
    }

    /// <summary>Frames a second.</summary>
    public int Rate { get; }

    /// <summary>The chart it was made from.</summary>
    public string ChartName { get; }

    /// <summary>How many tracks it has.</summary>
    public int Count { get; }

    /// <summary>What each track should hold.</summary>
    public List<Part> Parts { get; } = [];

    /// <summary>The files, in the order of the parts their names say.</summary>
    public List<string> Paths { get; } = [];

    /// <summary>The reference's path; null for none.</summary>
    public string? Reference { get; private set; }

    /// <summary>True if it has a reference.</summary>
    public bool HasReference { get; }

    /// <summary>The part that each file really holds.</summary>
    public int[] Is { get; }

    /// <summary>What each file holds of each part besides its own, in dB of its energy.</summary>
    public double?[,] Bleeds { get; }

    /// <summary>The file that holds the same, and by how many frames this one is later.</summary>
    public (int File, double Lag)?[] Double { get; }

    /// <summary>Files that are upside down.</summary>
    public bool[] Upside { get; }

    /// <summary>Files that are silent.</summary>
    public bool[] Silent { get; }

    /// <summary>Files that clip.</summary>
    public bool[] Clipped { get; }

    /// <summary>Files with a dropout.</summary>
    public bool[] Dropped { get; }

    /// <summary>Files that break off.</summary>
    public bool[] CutOff { get; }

    /// <summary>Files with a click.</summary>
    public bool[] Clicked { get; }

    /// <summary>Seconds by which each file is late against its take.</summary>
    public double[] Late { get; }

    /// <summary>How many notes are missing at the start of each file.</summary>
    public int[] EntersAt { get; }

    /// <summary>Seconds by which the take is late.</summary>
    public double Offset { get; private set; }

    /// <summary>By how many millionths it is slow.</summary>
    public double Drift { get; private set; }

    /// <summary>RMS of its noise in dBFS.</summary>
    public double Noise { get; private set; } = -130;

    /// <summary>Judges it as the program would.</summary>
    public TakeProof Proof()
    {
        var open = Paths.Select(p => WaveReader.Open(p).Value!).ToList();
        using var reference = Reference is null ? null : WaveReader.Open(Reference).Value;
        try
        {
            return TakeProof.Of([.. open.Select((o, i) => new ProofFile(Parts[i].Name, o, i))], Parts, reference);
        }
        finally
        {
            open.ForEach(o => o.Dispose());
        }
    }

    private static double Ratio(double db) => Math.Pow(10, db / 20);

    private Split Laid(Chart chart, Song song)
    {
        var split = StartingSplit.Of([chart], (int)song.Bars, Rate);
        foreach (var unit in split.Units.Where(u => u.Chart.DeclaresPorts))
        {
            split = FaultPlanter.After(split, new DeclarePorts(unit.Id, 12, Width.Stereo, "Out", 1), new MarkRestarted(unit.Id));
        }

        split = Layer.Propose(SplitView.Of(split, song), new LayWish(HardPan: false) { Unity = true }).After;
        foreach (var unit in split.Units.Where(u => u.NeedsRestart))
        {
            split = FaultPlanter.After(split, new MarkRestarted(unit.Id));
        }

        // What bleeds is planted here, so that it is known.
        foreach (var unit in split.Units)
        {
            foreach (var element in unit.Chart.Elements.Where(e => e.Hears.Any(h => h.Bleed)))
            {
                split = FaultPlanter.After(split, new SetBleed(new ElementRef(unit.Id, element.Id), new Decibels(-120)));
            }
        }

        return split;
    }

    /// <summary>A song in which every voice of a chart plays a pattern of its own, sparse or dense, with the hand of a person.</summary>
    private MidiFile RandomSong(Chart chart)
    {
        var tempo = 80 + _random.Next(70);
        var writer = new PatternWriter(480, Tempo.FromQuartersPerMinute(tempo), new Metre(4, 4));
        var bars = (int)Math.Ceiling((30 + 20 * _random.NextDouble()) * tempo / 240);
        var density = 0.08 + 0.25 * _random.NextDouble();
        foreach (var voice in chart.Voices)
        {
            var key = voice.Keys.IsEmpty ? 36 + _random.Next(30) : voice.Keys[0];
            if (voice.Drum is not null)
            {
                var pattern = Enumerable.Range(0, 2).Select(_ => Pattern(density)).ToArray();
                for (var bar = 0; bar < bars; bar++)
                {
                    writer.Hits(voice.Channel, key, bar, _random.Next(6) == 0 ? Pattern(density) : pattern[bar % 2]);
                }

                continue;
            }

            int[] scale = [0, 2, 3, 5, 7, 8, 10];
            var length = 0.5 * (1 << _random.Next(4));
            for (var quarter = 0.0; quarter < bars * 4 - length; quarter += length)
            {
                if (_random.Next(4) > 0)
                {
                    writer.Hold(voice.Channel, voice.Keys.IsEmpty ? key + scale[_random.Next(scale.Length)] : voice.Keys[_random.Next(voice.Keys.Length)], 60 + _random.Next(60), quarter, length * (0.5 + 0.4 * _random.NextDouble()));
                }
            }
        }

        return writer.ToFile("Planted", bars);
    }

    private string Pattern(double density) => string.Concat(Enumerable.Range(0, 16).Select(_ => _random.NextDouble() < density ? _random.Next(4) == 0 ? 'X' : 'x' : '.'));

    private void Chosen(SplitView view, Song song, string folder)
    {
        var tracks = view.Split.Tracks.Where(t => t.Pass == 1 && t.Armed).ToList();
        var parts = Core.Proofing.Parts.Of(view, tracks);
        var chosen = tracks.Zip(parts).Where(p => p.Second.Notes.Length >= 6).OrderBy(_ => _random.Next()).Take(MostTracks).OrderBy(p => tracks.IndexOf(p.First)).ToList();
        if (chosen.Count == 0)
        {
            return;
        }

        var printed = new StandInRecorder(view, song) { Only = chosen.Select(c => c.First.Id).ToHashSet() }.Print(t => Path.Combine(folder, $"stem-{t.Id}.wav"), DateTime.UnixEpoch);
        foreach (var (track, part) in chosen)
        {
            var path = printed.First(p => p.Track.Id == track.Id).Path;
            using var reader = WaveReader.Open(path).Value!;
            var stem = new float[reader.Frames.Count];
            new MonoReader(reader).Read(0, stem);
            // What is no louder than noise tells nothing, and two that are one sound cannot be told apart.
            if (stem.Max(Math.Abs) > 0.01 && !_stems.Exists(s => Alike(s, stem)))
            {
                _stems.Add(stem);
                Parts.Add(part);
            }
        }

        // All as loud, as a person would set the inputs.
        foreach (var stem in _stems)
        {
            var gain = 0.5f / stem.Max(Math.Abs);
            for (var i = 0; i < stem.Length; i++)
            {
                stem[i] *= gain;
            }
        }
    }

    /// <summary>True if two microphones hear the same the other way round, before anything is done to their files: by brute force, where the first is loudest.</summary>
    public bool IsTurned(int file, int against)
    {
        const int Window = 4096;
        const int Reach = 1000;
        var (one, other) = (_stems[Is[against]], _stems[Is[file]]);
        var at = Math.Clamp(Array.FindIndex(one, s => Math.Abs(s) > 0.4f) - 100, Reach, one.Length - Window - Reach);
        return Enumerable.Range(-Reach, 2 * Reach).Select(lag => Enumerable.Range(at, Window).Sum(i => (double)one[i] * other[i + lag])).MaxBy(Math.Abs) < 0;
    }

    private static bool Alike(float[] one, float[] other)
    {
        var (both, first, second) = (0.0, 0.0, 0.0);
        for (var i = 0; i < Math.Min(one.Length, other.Length); i++)
        {
            both += (double)one[i] * other[i];
            first += (double)one[i] * one[i];
            second += (double)other[i] * other[i];
        }

        return both * both > 0.25 * first * second;
    }

    private bool OneIn(int many) => _random.Next(many) == 0;

    private void Spoil()
    {
        Offset = OneIn(3) ? 0 : Math.Round((_random.NextDouble() * 4 - 2) * Rate) / Rate;
        Drift = OneIn(2) ? 0 : _random.NextDouble() * 400 - 200;
        Noise = OneIn(3) ? -130 : -100 + 60 * _random.NextDouble();
        if (Count > 1 && OneIn(2))
        {
            var (a, b) = (_random.Next(Count), _random.Next(Count));
            (Is[a], Is[b]) = (Is[b], Is[a]);
        }

        for (var file = 0; file < Count; file++)
        {
            for (var from = 0; from < Count; from++)
            {
                if (Is[file] != from && OneIn(5) && !Parts[Is[file]].Shares(Parts[from]))
                {
                    Bleeds[file, from] = -(6 + 44 * _random.NextDouble());
                }
            }

            Upside[file] = OneIn(8);
            Late[file] = Count >= Company && OneIn(8) ? (_random.Next(2) == 0 ? 1 : -1) * (0.002 + 0.004 * _random.NextDouble()) : 0;
            Clipped[file] = OneIn(12);
            Dropped[file] = OneIn(12);
            Clicked[file] = OneIn(12);
            CutOff[file] = OneIn(12);
            EntersAt[file] = OneIn(12) ? Math.Min(2 + _random.Next(4), Parts[Is[file]].Notes.Length / 4) : 0;
            Silent[file] = OneIn(20);
        }

        if (Count > 2 && OneIn(3))
        {
            var (copy, of) = (_random.Next(Count), _random.Next(Count));
            if (copy != of && !Silent[of] && Is[copy] == copy && Is[of] == of)
            {
                Double[copy] = (of, _random.Next(3) == 0 ? 0 : _random.Next(1, 2000));
                (Is[copy], Silent[copy], Late[copy], EntersAt[copy], Upside[copy]) = (of, false, 0, EntersAt[of], false);
                for (var from = 0; from < Count; from++)
                {
                    Bleeds[copy, from] = null;
                }
            }
        }

        KeepCompany();
    }

    /// <summary>Where not most of what sounds lies together, nobody can tell which of it is late.</summary>
    private void KeepCompany()
    {
        var sounding = Enumerable.Range(0, Count).Where(f => !Silent[f] && Double[f] is null).ToList();
        if (sounding.Count < Company || 2 * sounding.Count(f => Late[f] != 0) >= sounding.Count)
        {
            Array.Clear(Late);
        }
    }

    private void Write(string folder)
    {
        var length = _stems.Max(s => s.Length);
        if (HasReference)
        {
            var mix = new float[length];
            for (var part = 0; part < Count; part++)
            {
                Add(mix, _stems[part], _gains[part], 0);
            }

            Reference = Path.Combine(folder, "reference.wav");
            Save(mix, Reference);
        }

        var sounds = Enumerable.Range(0, Count).Select(_ => new float[length + 3 * Rate]).ToArray();
        for (var file = 0; file < Count; file++)
        {
            if (Silent[file] || Double[file] is not null)
            {
                continue;
            }

            // What bleeds into a file is as late as what it holds, and has a longer way.
            var late = (int)Math.Round(Late[file] * Rate);
            Add(sounds[file], Entering(Is[file], EntersAt[file]), 1, late);
            for (var from = 0; from < Count; from++)
            {
                if (Bleeds[file, from] is { } level)
                {
                    Add(sounds[file], Coloured(_stems[from], _random.NextDouble()), Level(_stems[from], level), late + (int)(_random.NextDouble() * 0.01 * Rate));
                }
            }
        }

        for (var file = 0; file < Count; file++)
        {
            if (Double[file] is var (of, lag))
            {
                Add(sounds[file], sounds[of], 1, (int)lag);
            }
        }

        for (var file = 0; file < Count; file++)
        {
            Finish(file, Moved(sounds[file]));
            Paths.Add(Path.Combine(folder, $"{file}.wav"));
        }

        double Level(float[] stem, double db)
        {
            var energy = stem.Sum(s => (double)s * s);
            var coloured = Coloured(stem, _last).Sum(s => (double)s * s);
            return Ratio(db) * Math.Sqrt(energy / coloured);
        }

        void Finish(int file, float[] sound)
        {
            var noise = Ratio(Noise) * Math.Sqrt(3);
            // Inside a sound: a hole that takes its beginning is none, but a sound that begins later.
            var loud = Enumerable.Range(sound.Length / 2, sound.Length - sound.Length / 2).FirstOrDefault(i => Math.Abs(sound[i]) > 0.05 && sound.AsSpan(i - 8, 8).ToArray().Max(Math.Abs) > 0.05);
            if (Clicked[file] && !Silent[file] && sound.Length > Rate * 4)
            {
                _clickAt = Quiet(sound);
                Clicked[file] = _clickAt > 0;
                if (Clicked[file])
                {
                    sound[_clickAt] += 0.2f;
                }
            }
            else
            {
                Clicked[file] = false;
            }

            for (var i = 0; i < sound.Length; i++)
            {
                sound[i] = (Upside[file] ? -sound[i] : sound[i]) + (Silent[file] ? 0 : (float)(noise * (2 * _random.NextDouble() - 1)));
            }

            Clipped[file] &= !Silent[file];
            if (Clipped[file])
            {
                // Three in a row are a clip; a cymbal may have none, and is left as it is.
                float[] clipped = [.. sound.Select(s => Math.Clamp(3 * s, -1, 32767f / 32768))];
                Clipped[file] = Enumerable.Range(2, sound.Length - 2).Any(i => Enumerable.Range(i - 2, 3).All(k => Math.Abs(clipped[k]) >= 32767f / 32768));
                sound = Clipped[file] ? clipped : sound;
            }

            Dropped[file] &= loud > 0 && !Silent[file];
            if (Dropped[file])
            {
                // Behind it, it sounds as well: what is quiet then has ended a little earlier.
                var hole = sound.AsSpan(loud, 64 + _random.Next(400));
                Dropped[file] = sound.AsSpan(loud + hole.Length, 48).ToArray().Max(Math.Abs) > 0.05;
                if (Dropped[file])
                {
                    hole.Clear();
                }
            }

            // Far over its noise, which is louder where all was turned up until it clips.
            var heard = Math.Max(0.1, 10 * Ratio(Noise) * (Clipped[file] ? 3 : 1));
            var end = CutOff[file] && !Silent[file] ? Array.FindIndex(sound, sound.Length * 3 / 4, s => Math.Abs(s) > heard) : -1;
            CutOff[file] = end > 0;
            Save(CutOff[file] ? sound[..(end + 100)] : sound, Path.Combine(folder, $"{file}.wav"));
        }
    }

    private int _clickAt;
    private double _last;

    /// <summary>A place where something dies away, far from where anything begins.</summary>
    private static int Quiet(float[] sound)
    {
        for (var at = sound.Length / 3; at < sound.Length - 5000; at += 997)
        {
            if (sound.AsSpan(at - 2000, 4000).ToArray().Max(Math.Abs) < 0.01)
            {
                return at;
            }
        }

        return 0;
    }

    private float[] Entering(int part, int notes)
    {
        if (notes == 0)
        {
            return _stems[part];
        }

        var stem = (float[])_stems[part].Clone();
        stem.AsSpan(0, Math.Min(stem.Length, (int)((Parts[part].Notes[notes] - 0.02) * Rate))).Clear();
        return stem;
    }

    /// <summary>As another microphone would hear it: a first-order low or high shelf.</summary>
    private float[] Coloured(float[] stem, double colour)
    {
        _last = colour;
        var (coloured, low) = (new float[stem.Length], 0.0);
        var share = 0.05 + 0.3 * colour;
        for (var i = 0; i < stem.Length; i++)
        {
            low += share * (stem[i] - low);
            coloured[i] = (float)(colour > 0.5 ? 0.5 * low + 0.5 * stem[i] : 1.5 * stem[i] - 0.5 * low);
        }

        return coloured;
    }

    private static void Add(float[] into, float[] sound, double gain, int at)
    {
        for (var i = Math.Max(0, -at); i < sound.Length && at + i < into.Length; i++)
        {
            into[at + i] += (float)(gain * sound[i]);
        }
    }

    private float[] Moved(float[] sound) => Drawn.Out(sound, Offset * Rate, Drift);

    private void Save(float[] sound, string path)
    {
        using var writer = new WaveWriter(path, new AudioFormat(1, Rate, SampleFormat.Float32), sound.Length, null);
        var bytes = new byte[sound.Length * 4];
        Buffer.BlockCopy(sound, 0, bytes, 0, bytes.Length);
        writer.Write(bytes);
        writer.Finish();
        writer.TakeName();
    }
}
