using System.Collections.Immutable;
using System.Text;
using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Proofing;

/// <summary>
/// A known order of single elements, to be played on the real gear while all inputs are recorded: a start marker, then each element in turn. One
/// for each pass of a split.
/// </summary>
/// <param name="Pass">The pass whose elements it calls, from 1.</param>
/// <param name="Turns">Who is called, in order.</param>
/// <param name="NotCalled">Names of what is not called: what takes no notes, and what hears several others and is heard in their turns.</param>
/// <param name="Inputs">The recorder's inputs, in the order of the channels of a recording of all of them.</param>
public sealed record RollCall(int Pass, ImmutableArray<Turn> Turns, ImmutableArray<string> NotCalled, ImmutableArray<InputRef> Inputs)
{
    /// <summary>When the hits of the start marker sound, in seconds: the first element, at intervals that no turn has.</summary>
    public static readonly ImmutableArray<double> Marker = [0, 0.5, 1.25, 1.75];

    /// <summary>Velocities of the hits of what is struck, a second apart.</summary>
    public static readonly ImmutableArray<int> Velocities = [64, 96, 127];

    private const double FirstTurn = 2.75; // s: 1.0 behind the last hit of the marker
    private const double HeldSeconds = 1.5;
    private const double LeastGap = 1; // s of nothing between elements
    private const double HitSeconds = 0.25;
    private const int HeldVelocity = 110;
    private const int MarkerVelocity = 110;
    private const int MiddleKey = 48;
    private const int TicksPerQuarter = 480;
    private const int TicksASecond = 2 * TicksPerQuarter; // at 120 quarters a minute

    /// <summary>Calls everything that a pass can hear.</summary>
    /// <param name="whole">The split.</param>
    /// <param name="pass">The pass, from 1.</param>
    public static RollCall Of(SplitView whole, int pass)
    {
        var view = whole.Split.Passes == 1 ? whole : whole.InPass(pass);
        var listening = Listening(view.Split);
        var inputs = listening.Tracks.Select(t => t.Input!).ToImmutableArray();
        var all = new SplitView(listening, view.Sounding);
        var elements = all.SoundingElements.Where(e => inputs.Length > 0 && e.Chart.Kind != ElementKind.NoteOnly && whole.PlaysIn(e.Ref, pass)).ToList();
        var turns = ImmutableArray.CreateBuilder<Turn>();
        var at = FirstTurn;
        foreach (var together in elements.Where(e => Own(e.Chart).Any() && !elements.Exists(o => o.Unit.Id == e.Unit.Id && Own(e.Chart).ToHashSet().IsProperSupersetOf(Own(o.Chart)) && Own(o.Chart).Any())).GroupBy(e => (e.Unit.Id, Voices: string.Join(',', Own(e.Chart)))))
        {
            var unit = together.First().Unit;
            var called = Own(together.First().Chart).Select(id => unit.Chart.Voices.First(v => v.Id == id)).First();
            if (NoteOf(unit, called) is not var (channel, key))
            {
                continue;
            }

            var held = called.Drum is null;
            ImmutableArray<double> hits = held ? [at] : [at, at + 1, at + 2];
            var end = held ? at + HeldSeconds : at + 2;
            var own = together.Select(e => e.Ref).ToImmutableArray();
            turns.Add(new(own, string.Join(" + ", together.Select(e => e.Chart.Name)), channel, key, held, hits, end, [.. Planned(all, unit, called, own)]));
            at = end + Gap(all, unit, called);
        }

        return new(pass, turns.ToImmutable(), [.. elements.Where(e => !turns.Any(t => t.Elements.Contains(e.Ref))).Select(e => e.Chart.Name)], inputs);
    }

    /// <summary>How long nothing is called after a voice: as long as it rings as it is set, or a return that is heard.</summary>
    private static double Gap(SplitView all, Unit unit, ChartVoice called) =>
        all.SoundingElements.Where(e => e.Unit.Id == unit.Id && e.Chart.Kind == ElementKind.Return && all.Signal.Reaching(e.Ref).Any())
            .Select(e => e.Chart.ReturnSeconds)
            .Append(called.RingSeconds * unit.Voice(called.Id).DecayScale)
            .Append(LeastGap)
            .Max();

    /// <summary>The same split with one armed track on each input that is switched on, and no other: what a recorder that records everything hears.</summary>
    public static Split Listening(Split split)
    {
        var tracks = ImmutableArray.CreateBuilder<Track>();
        foreach (var bank in split.Banks.Where(b => b.Kind is not (BankKind.Buses or BankKind.StemBuses or BankKind.Loopback)))
        {
            for (var channel = 1; channel <= bank.Count; channel++)
            {
                tracks.Add(new Track(new TrackId($"t{tracks.Count + 1}"), bank.InputName(channel, Width.Mono), Width.Mono) { Input = new InputRef(bank.Id, channel) });
            }
        }

        return split with
        {
            Tracks = tracks.ToImmutable(),
            Banks = [.. split.Banks.Select(b => b with { Widths = InputWidths.Any })],
            TrackGroups = [],
            Rides = [],
            Steps = [],
            Pass = split.Pass with { Looped = false, CountInBars = 0 },
        };
    }

    /// <summary>Seconds from the first hit of the marker to the end.</summary>
    public double Seconds => Turns.IsEmpty ? 0 : Turns[^1].End + LeastGap;

    /// <summary>The marker and every turn as notes: one track an element, named, at 120 quarters a minute.</summary>
    /// <param name="name">The file's name for itself.</param>
    public MidiFile ToMidi(string name)
    {
        var end = TicksAt(Seconds);
        var tracks = ImmutableArray.CreateBuilder<ImmutableArray<MidiEvent>>();
        tracks.Add([Named(name), Song.MetreEvent(0, Metre.Common), Song.TempoEvent(0, Tempo.Default), MidiEvent.Meta(end, MidiFile.EndOfTrack)]);
        for (var i = 0; i < Turns.Length; i++)
        {
            var turn = Turns[i];
            var notes = turn.Held
                ? [.. Each(turn, [turn.Hits[0]], [HeldVelocity], HeldSeconds)]
                : Each(turn, turn.Hits, Velocities, HitSeconds).ToList();
            if (i == 0)
            {
                notes.InsertRange(0, Each(turn, Marker, [.. Marker.Select(_ => MarkerVelocity)], HitSeconds));
            }

            tracks.Add([Named(turn.Name), .. notes, MidiEvent.Meta(end, MidiFile.EndOfTrack)]);
        }

        return new MidiFile(1, TimeBase.Metrical(TicksPerQuarter), tracks.ToImmutable());
    }

    /// <summary>What to do with it, in four lines.</summary>
    public ImmutableArray<string> Instructions =>
    [
        $"Arm one mono track for each of the {Inputs.Length} inputs, from the first to the last, with nothing on the way.",
        $"Play this file into the gear from the start and record all inputs: {Words.Clock(Seconds)} in all.",
        "Touch nothing while it runs: every element plays alone, and what is heard between them is the noise of the room.",
        "Bring the recording back as one file with a channel for each input, or as one file each, in the order of the inputs.",
    ];

    /// <summary>What to do for gear that takes no notes, in four lines.</summary>
    public ImmutableArray<string> ByHand =>
    [
        $"Arm one mono track for each of the {Inputs.Length} inputs, from the first to the last, with nothing on the way, and record.",
        $"Press, about once a second and each three times: {string.Join(", ", Turns.Select(t => t.Name))}.",
        "Let each die away before the next, and leave two seconds at least; the tempo does not matter, the order does.",
        "Bring the recording back as one file with a channel for each input, or as one file each, in the order of the inputs.",
    ];

    private static MidiEvent Named(string name) => MidiEvent.Meta(0, MidiFile.TrackName, Encoding.ASCII.GetBytes(name));

    private static Ticks TicksAt(double seconds) => new((long)Math.Round(seconds * TicksASecond));

    private static IEnumerable<MidiEvent> Each(Turn turn, IEnumerable<double> times, ImmutableArray<int> velocities, double seconds) =>
        times.SelectMany((at, i) => new[]
        {
            MidiEvent.Message(TicksAt(at), 0x90, turn.Channel, (byte)turn.Key, (byte)velocities[i]),
            MidiEvent.Message(TicksAt(at + seconds), 0x80, turn.Channel, (byte)turn.Key, 0),
        });

    private static IEnumerable<VoiceId> Own(ChartElement element) => element.Hears.Where(h => !h.Bleed).Select(h => h.VoiceId);

    /// <summary>A note that plays a voice, whatever notes are led elsewhere on the way.</summary>
    private static (int Channel, int Key)? NoteOf(Unit unit, ChartVoice voice)
    {
        var usual = (voice.Channel, Key: voice.Keys.IsEmpty ? MiddleKey : voice.Keys[0]);
        return unit.Plays(voice, usual.Channel, usual.Key)
            ? usual
            : Enumerable.Range(1, 16).SelectMany(c => Enumerable.Range(0, 128).Select(k => (Channel: c, Key: k))).Where(n => unit.Plays(voice, n.Channel, n.Key)).Select(n => ((int, int)?)n).FirstOrDefault();
    }

    /// <summary>Where a voice should be heard: on the inputs of its own elements, and beside them on those of all that hear it as well.</summary>
    private static IEnumerable<PlannedInput> Planned(SplitView view, Unit unit, ChartVoice voice, ImmutableArray<ElementRef> own)
    {
        var least = new Decibels(-60);
        var channels = view.Split.Tracks.Select((t, i) => (t.Id, Channel: i + 1)).ToDictionary(t => t.Id, t => t.Channel);
        var hearing = unit.Chart.Elements.SelectMany(e => e.Kind == ElementKind.Return
            ? [(Ref: new ElementRef(unit.Id, e.Id), Gain: Decibels.Unity)]
            : e.Hears.Where(h => h.VoiceId == voice.Id).Select(h => (Ref: new ElementRef(unit.Id, e.Id), Gain: h.GainDb)));
        return
            from heard in hearing
            from reaching in view.Signal.Reaching(heard.Ref)
            let gain = Decibels.FromRatio(reaching.Gain.Largest) + heard.Gain
            where gain > least
            group (gain, Direct: own.Contains(heard.Ref)) by channels[reaching.TrackId] into channel
            orderby channel.Key
            select new PlannedInput(channel.Key, channel.Max(c => c.gain), channel.Any(c => c.Direct));
    }
}
