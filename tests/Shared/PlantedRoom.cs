using System.Numerics.Tensors;
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

/// <summary>The recording of a roll call in a random room with known faults, mixed from the stand-ins' inputs in plain loops.</summary>
public sealed class PlantedRoom
{
    private const double Tick = 0.002; // s: a note lies on the nearest tick of its file, which may be before its time
    private const int Alone = 3; // recordings for the true energies, each of every third turn: nothing of the one before still rings in it
    private readonly Random _random;
    private readonly int _rate;
    private float[][] _channels;
    private Func<int, float[][]> _alone = _ => [];

    /// <summary>Makes one.</summary>
    /// <param name="seed">Gives the same again.</param>
    /// <param name="folder">Where files are written.</param>
    /// <param name="rate">Its sample rate, in Hz.</param>
    public PlantedRoom(int seed, string folder, int rate = 48000)
    {
        (_random, _rate) = (new Random(seed), rate);
        var chart = Shelf.Charts[_random.Next(Shelf.Charts.Length)];
        ChartName = chart.Name;
        var song = Song.Of(CheckPattern.Of([chart], Tempo.Default));
        var split = StartingSplit.Of([chart], (int)song.Bars, _rate);
        foreach (var unit in split.Units.Where(u => u.Chart.DeclaresPorts))
        {
            split = FaultPlanter.After(split, new DeclarePorts(unit.Id, 12, Width.Stereo, "Out", 1), new MarkRestarted(unit.Id));
        }

        split = Layer.Propose(SplitView.Of(split, song), new LayWish(HardPan: _random.Next(2) == 0) { Unity = true }).After;
        foreach (var unit in split.Units.Where(u => u.NeedsRestart))
        {
            split = FaultPlanter.After(split, new MarkRestarted(unit.Id));
        }

        View = SplitView.Of(split, song);
        Call = RollCall.Of(View, 1);
        ByHand = _random.Next(4) == 0;
        NotSeparate = _random.Next(8) == 0 && split.Units[0].Chart.Settings.Any(s => s.Effect is SettingEffect.MainOnly or SettingEffect.AllInMain);
        _channels = [];
        if (Call.Turns.Length < 2)
        {
            return;
        }

        _channels = Recorded(split, folder);
        Spoil();
    }

    /// <summary>The chart it was made from.</summary>
    public string ChartName { get; }

    /// <summary>The split.</summary>
    public SplitView View { get; }

    /// <summary>The roll call.</summary>
    public RollCall Call { get; }

    /// <summary>True if it was played by hand.</summary>
    public bool ByHand { get; }

    /// <summary>True if the setting that separates the outputs was not made.</summary>
    public bool NotSeparate { get; }

    /// <summary>True if there is something to call.</summary>
    public bool Any => Call.Turns.Length > 1;

    /// <summary>True if nothing of it arrives anywhere.</summary>
    public bool IsSilent => Energies.Cast<double>().All(e => e < 1e-9);

    /// <summary>Where what belongs on each channel really arrives; -1 for nowhere.</summary>
    public int[] Cables { get; private set; } = [];

    /// <summary>Channels that carry another one as well.</summary>
    public (int From, int To)? Doubled { get; private set; }

    /// <summary>Seconds by which each channel is late.</summary>
    public double[] Latency { get; private set; } = [];

    /// <summary>By how many millionths the recording is slow.</summary>
    public double Drift { get; private set; }

    /// <summary>RMS of the noise in dBFS.</summary>
    public double Noise { get; private set; } = -120;

    /// <summary>True if all is too loud for the converter.</summary>
    public bool Clips { get; private set; }

    /// <summary>Reads it as the program would, once: what was recorded is let go.</summary>
    public Core.Result<RollCallReading> Read()
    {
        var reading = RollCallReading.Of(Call, [.. _channels.Select(c => (IMonoSound)new Samples(c, _rate))], ByHand);
        (_channels, _alone) = ([], _ => []);
        return reading;
    }

    /// <summary>The true energy of each turn on each channel, before noise.</summary>
    public double[,] Energies { get; private set; } = new double[0, 0];

    private float[][] Recorded(Split split, string folder)
    {
        var listening = RollCall.Listening(split);
        if (NotSeparate)
        {
            var unit = listening.Units[0];
            var not = unit.Chart.Settings.Select((s, i) => (s, i)).Where(s => s.s.Effect is SettingEffect.MainOnly or SettingEffect.AllInMain).Select(s => s.i);
            listening = listening.With(unit with { Simulated = unit.Simulated with { NotMade = [.. not] } });
        }

        Times = ByHand ? HandTimes() : [.. Call.Turns.Select(t => t.Hits.ToArray())];
        var velocities = Times.Select(turn => turn.Select(_ => ByHand ? 60 + _random.Next(60) : 0).ToArray()).ToArray();
        var bars = (int)Notes(_ => true).Bars + 2;
        _alone = third => Printed(Notes(turn => turn % Alone == third));
        return Printed(Notes(_ => true));

        Song Notes(Predicate<int> of) => Song.Of(ByHand ? HandSong(velocities, of) : Of(Call.ToMidi("Roll call"), of));

        float[][] Printed(Song song)
        {
            var room = listening with { Pass = listening.Pass with { LengthBars = bars, SettleLoops = 0 } };
            var printed = new StandInRecorder(SplitView.Of(room, song), song).Print(t => Path.Combine(folder, $"{t.Id}.wav"), DateTime.UnixEpoch);
            return [.. room.Tracks.Select(t => Samples(printed.First(p => p.Track.Id == t.Id).Path))];
        }
    }

    // The first track has the tempo, each other one the notes of a turn.
    private static MidiFile Of(MidiFile all, Predicate<int> of) => all with { Tracks = [.. all.Tracks.Where((_, i) => i == 0 || of(i - 1))] };

    /// <summary>When each hit of each turn sounds, before offset and drift.</summary>
    public double[][] Times { get; private set; } = [];

    private double[][] HandTimes()
    {
        var (at, beat) = (1.0, 0.9 + 0.4 * _random.NextDouble());
        var times = new List<double[]>();
        for (var turn = 0; turn < Call.Turns.Length; turn++)
        {
            var hits = new double[2 + _random.Next(3)];
            for (var i = 0; i < hits.Length; i++)
            {
                hits[i] = at + 0.15 * (_random.NextDouble() - 0.5);
                at += beat;
            }

            // It dies away, as the instructions ask.
            at += Math.Max(0.5 + _random.NextDouble(), turn + 1 < Call.Turns.Length ? Call.Turns[turn + 1].Hits[0] - Call.Turns[turn].End : 0);
            times.Add(hits);
        }

        return [.. times];
    }

    private MidiFile HandSong(int[][] velocities, Predicate<int> of)
    {
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        for (var turn = 0; turn < Times.Length; turn++)
        {
            for (var hit = 0; of(turn) && hit < Times[turn].Length; hit++)
            {
                writer.Hold(Call.Turns[turn].Channel, Call.Turns[turn].Key, velocities[turn][hit], Times[turn][hit] * 2, 0.5);
            }
        }

        return writer.ToFile("By hand", (long)(Times[^1][^1] / 2) + 3);
    }

    private void Spoil()
    {
        var count = _channels.Length;
        var offset = (int)(_random.NextDouble() * 5 * _rate);
        Cables = [.. Enumerable.Range(0, count)];
        var used = Enumerable.Range(0, count).Where(c => _channels[c].Any(s => Math.Abs(s) > 0.001)).ToList();
        if (used.Count > 1 && _random.Next(2) == 0)
        {
            var (a, b) = (used[_random.Next(used.Count)], used[_random.Next(used.Count)]);
            (Cables[a], Cables[b]) = (Cables[b], Cables[a]);
        }

        if (used.Count > 0 && _random.Next(3) == 0)
        {
            Cables[used[_random.Next(used.Count)]] = -1;
        }

        if (used.Count > 0 && used.Count < count && _random.Next(4) == 0)
        {
            Doubled = (used[_random.Next(used.Count)], Enumerable.Range(0, count).Except(used).ElementAt(_random.Next(count - used.Count)));
        }

        var oneLatency = _random.Next(2) == 0;
        var all = 0.2 * _random.NextDouble();
        Latency = [.. Enumerable.Range(0, count).Select(_ => Math.Round((oneLatency ? all : 0.2 * _random.NextDouble()) * _rate) / _rate)];
        Drift = _random.Next(2) == 0 ? 0 : 400 * _random.NextDouble() - 200;
        Noise = _random.Next(3) == 0 ? -120 : -90 + 40 * _random.NextDouble();
        Clips = _random.Next(10) == 0;
        var spoiled = Cabled(_channels, offset);
        Energies = new double[Call.Turns.Length, count];
        for (var third = 0; third < Alone; third++)
        {
            var alone = Cabled(_alone(third), offset);
            for (var turn = third; turn < Times.Length; turn += Alone)
            {
                // By hand, the next hit may come after 0.7 s.
                var length = (int)((!Call.Turns[turn].Held ? 0.45 : ByHand ? 0.7 : 1.4) * _rate);
                for (var channel = 0; channel < count; channel++)
                {
                    Energies[turn, channel] = Times[turn].Average(t => TensorPrimitives.SumOfSquares<float>(alone[channel].AsSpan(offset + (int)((t - Tick + Latency[channel]) * _rate), length)) / length);
                }
            }
        }

        var noise = Math.Pow(10, Noise / 20) * Math.Sqrt(3);
        foreach (var channel in spoiled)
        {
            for (var i = 0; i < channel.Length; i++)
            {
                channel[i] = (Clips ? Math.Clamp(4 * channel[i], -1, 1) : channel[i]) + (float)(noise * (2 * _random.NextDouble() - 1));
            }
        }

        _channels = [.. spoiled.Select(c => Drawn.Out(c, 0, Drift))];
    }

    /// <summary>What arrives on each channel through the cables.</summary>
    private float[][] Cabled(float[][] channels, int offset)
    {
        var arriving = Enumerable.Range(0, channels.Length).Select(_ => new float[channels.Max(c => c.Length) + offset + _rate]).ToArray();
        for (var channel = 0; channel < channels.Length; channel++)
        {
            if (Cables[channel] >= 0)
            {
                Put(channels[channel], arriving[Cables[channel]], offset + (int)(Latency[Cables[channel]] * _rate), 1);
            }
        }

        if (Doubled is var (from, to) && Cables[from] >= 0)
        {
            Put(channels[from], arriving[to], offset + (int)(Latency[to] * _rate), 1);
        }

        return arriving;
    }

    private static void Put(float[] sound, float[] into, int at, float gain)
    {
        for (var i = 0; i < sound.Length && at + i < into.Length; i++)
        {
            into[at + i] += gain * sound[i];
        }
    }

    private static float[] Samples(string path)
    {
        using var reader = WaveReader.Open(path).Value!;
        var samples = new float[reader.Frames.Count];
        new MonoReader(reader).Read(0, samples);
        return samples;
    }
}
