using GateSplit.Core.Charts;
using GateSplit.Core.Demo;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Proofing;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Core.Views;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>Roll calls are written as they are documented, and read back from rooms in which cables are crossed, missing and doubled.</summary>
public sealed class RollCallTests : IDisposable
{
    private readonly TempFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Fact]
    public void It_calls_every_element_once_with_the_marker_first()
    {
        var view = View(FogSignal.Session);
        var call = RollCall.Of(view, 1);
        Assert.Equal(call.Turns.Length, call.Turns.SelectMany(t => t.Elements).Distinct().Count());
        Assert.Equal([2.75, 3.75, 4.75], call.Turns[0].Hits);
        foreach (var (turn, next) in call.Turns.Zip(call.Turns.Skip(1)))
        {
            // As long as it rings, or its return.
            var chart = view.Split.Unit(turn.Elements[0].UnitId)!.Chart;
            Assert.Equal(Math.Max(chart == WickerKeys.Chart ? 2.4 : 1.1, VoiceOf(view, turn).RingSeconds), next.Hits[0] - turn.End, 1e-9);
            Assert.Equal(turn.Held ? 1.5 : 2, turn.End - turn.Hits[0], 1e-9);
            Assert.Equal(turn.Held ? 1 : 3, turn.Hits.Length);
        }

        var song = Song.Of(call.ToMidi("Roll call"));
        Assert.Equal(4 + call.Turns.Sum(t => t.Hits.Length), song.Notes.Length);
        Assert.Equal(call.Turns.Length + 1, song.File.Tracks.Length);
        Assert.Equal(4, call.Instructions.Length);
        Assert.Equal(4, call.ByHand.Length);
        Assert.All(call.Turns, t => Assert.Contains(t.Name, call.ByHand[1]));
    }

    [Fact]
    public void Where_no_return_is_heard_it_waits_a_second_or_as_long_as_a_voice_rings_as_it_is_set()
    {
        var (split, song) = Sessions.Fog;
        Edit[] muted = [.. SplitView.Of(split, song).Elements.Where(e => e.Chart.Kind == ElementKind.Return).Select(e => new SetMuted(e.Ref, true))];
        split = Sessions.After(split, muted);
        split = split.With(split.Units[1] with { Voices = [.. split.Units[1].Voices.Select(v => v.VoiceId.Value == "pad" ? v with { DecayScale = 2 } : v)] });
        var turns = RollCall.Of(SplitView.Of(split, song), 1).Turns;
        var gaps = turns.Zip(turns.Skip(1)).ToDictionary(t => t.First.Name, t => t.Second.Hits[0] - t.First.End);
        Assert.Equal(3.2, gaps["Mist pad"], 1e-9); // 1.6 s, set to ring twice as long
        Assert.Equal(1, gaps["Keel bass"], 1e-9);
    }

    [Fact]
    public void Microphones_of_one_drum_share_a_turn_and_a_room_has_none()
    {
        var call = RollCall.Of(View(LampLit.Session), 1);
        Assert.Contains("Kick in + Kick out", call.Turns.Select(t => t.Name));
        Assert.Contains("Overheads", call.NotCalled);
        Assert.Contains("Hall return", call.NotCalled);
        Assert.Equal(2, call.Turns.First(t => t.Name == "Kick in + Kick out").Planned.Count(p => p.Direct));
    }

    [Theory]
    [InlineData(1)]
    [InlineData(3)]
    [InlineData(204)]
    [InlineData(208)]
    [InlineData(1930273)] // it clips, and hits that are not alike seem to tell of a clock that is off by 5,000 ppm
    public void What_arrives_where_is_read_from_a_room(int seed)
    {
        var room = new PlantedRoom(seed, _folder.Path);
        Assert.True(room.Any);
        var reading = room.Read();
        Assert.True(reading.Ok, reading.Trouble);
        var noise = Math.Pow(10, room.Noise / 10);
        for (var turn = 0; turn < room.Call.Turns.Length; turn++)
        {
            var heard = reading.Value.Turns[turn];
            var energies = Enumerable.Range(0, room.Cables.Length).Select(c => room.Energies[turn, c]).ToArray();
            if (energies.Max() is > 0 and var loudest && loudest < 30 * noise)
            {
                continue;
            }

            // Where a channel carries a fifth of the loudest or more it is said, and what is far under it is not.
            var main = heard.Main.Select(a => a.Channel).ToHashSet();
            for (var channel = 0; channel < energies.Length; channel++)
            {
                if (energies[channel] > Math.Max(0.04 * energies.Max(), 30 * noise) && energies.Max() > 1e-9)
                {
                    Assert.Contains(channel + 1, main);
                }
                else if (energies[channel] < 0.002 * energies.Max() || energies.Max() == 0)
                {
                    Assert.DoesNotContain(channel + 1, main);
                }
            }
        }
    }

    [Theory]
    [InlineData(9800084)] // nothing of the first element, which has the marker, arrives
    [InlineData(9800168)] // a tom rings on under the hat in the mix
    [InlineData(9800083)] // by hand: a clap in the mix begins before it does on its own channel; a pad rises slowly
    [InlineData(9800013)] // by hand, all in the mix: two hats that sound the same
    [InlineData(9800176)] // by hand: echoes on two channels of their own
    public void Order_levels_and_latencies_are_read_from_a_room(int seed)
    {
        var room = new PlantedRoom(seed, _folder.Path);
        var score = new ProofScore();
        score.Add(seed, room, room.Read().Value);
        Assert.Empty(score.Wrong);
    }

    [Fact]
    public void Two_crossed_cables_lead_to_the_one_edit_that_puts_them_right()
    {
        // The rig has two inputs of the drum machine in each other's place; the split does not know.
        var view = View(FogSignal.Session);
        var bank = view.Split.BankOf(view.Split.Units[0]);
        var tracks = view.Split.Tracks.Where(t => t.Armed && t.Width == Width.Mono && t.Input?.BankId == bank.Id && t.Name is "Closed hat" or "Low tom").ToArray();
        var (one, other) = (tracks[0].Input!, tracks[1].Input!);
        var call = RollCall.Of(view, 1);
        var listening = RollCall.Listening(view.Split) with { Interface = new SimulatedInterface { Crossed = [new CrossedInputs(one, other)] } };
        var song = Song.Of(call.ToMidi("Roll call"));
        listening = listening with { Pass = listening.Pass with { LengthBars = (int)song.Bars + 2, SettleLoops = 0 } };
        var printed = new StandInRecorder(SplitView.Of(listening, song), song).Print(t => _folder[$"{t.Id}.wav"], DateTime.UnixEpoch);
        var open = printed.Select(p => WaveReader.Open(p.Path).Value!).ToList();
        var reading = RollCallReading.Of(call, [.. open.Select(o => new MonoReader(o))]).Value!;
        open.ForEach(o => o.Dispose());
        var wrong = reading.Turns.Where(t => !t.AsPlanned && t.Turn.Elements[0].UnitId == view.Split.Units[0].Id && t.Arrivals.Length > 0).ToList();
        Assert.Equal(2, wrong.Count);
        Assert.All(wrong, w => Assert.Contains("two cables or inputs are exchanged", RollCallFindings.Sentence(view.Split, reading, w)));
        var fix = RollCallFindings.FixAll(view.Split, reading)!;
        var mended = fix.Apply(view.Split).Value!;
        Assert.Equal(other, mended.Tracks.First(t => t.Id == tracks[0].Id).Input);
        Assert.Equal(one, mended.Tracks.First(t => t.Id == tracks[1].Id).Input);
        Assert.Equal(
            view.Split.Tracks.Where(t => !tracks.Any(c => c.Id == t.Id)).Select(t => t.Input),
            mended.Tracks.Where(t => !tracks.Any(c => c.Id == t.Id)).Select(t => t.Input));
        Assert.NotNull(RollCallFindings.Fix(view.Split, reading, wrong[0]));

        // Once the tracks listen there, it is said, and nothing is offered a second time.
        Assert.All(wrong, w => Assert.True(RollCallFindings.IsPutRight(mended, reading, w)));
        Assert.All(wrong, w => Assert.False(RollCallFindings.IsPutRight(view.Split, reading, w)));
        Assert.All(wrong, w => Assert.Contains("Its track listens there by now.", RollCallFindings.Sentence(mended, reading, w)));
        Assert.Null(RollCallFindings.FixAll(mended, reading));

        // It is kept and read again as it was, and knows whether the split still calls the same.
        var read = ProofJson.ReadRollCall(ProofJson.Write(reading))!;
        Assert.Equal(ProofJson.Write(reading), ProofJson.Write(read));
        Assert.True(ProofJson.Same(read.Call, RollCall.Of(SplitView.Of(mended, view.Song!), 1)));
        Assert.False(ProofJson.Same(read.Call, RollCall.Of(SplitView.Of(Sessions.After(view.Split, new SetMuted(wrong[0].Turn.Elements[0], true)), view.Song!), 1)));
        Assert.Null(ProofJson.ReadRollCall("""{"call": 3}"""));
        Assert.Null(RollCallFindings.Fix(view.Split, reading, reading.Turns.First(t => t.AsPlanned)));
    }

    [Fact]
    public void What_is_no_roll_call_is_refused_in_a_sentence()
    {
        var call = RollCall.Of(View(FogSignal.Session), 1);
        Assert.Equal("There is no channel in the recording.", RollCallReading.Of(call, []).Trouble);
        var sox = new SoxTake(_folder.Path);
        using var noise = WaveReader.Open(sox.Save("silence", new float[SoxTake.Rate * 20])).Value!;
        Assert.Contains("silence or noise only. Look at the output mode of the gear, its cables and the inputs.", RollCallReading.Of(call, [new MonoReader(noise)]).Trouble);
        using var other = WaveReader.Open(sox.Save("other", sox.Placed("Thud", [1, 2.3], 5))).Value!;
        Assert.Contains("The start marker was not found", RollCallReading.Of(call, [new MonoReader(other)]).Trouble);
        Assert.Contains("do not fit the order", RollCallReading.Of(call, [new MonoReader(other)], byHand: true).Trouble);
        Assert.Contains("nobody to call", RollCallReading.Of(call with { Turns = [] }, [new MonoReader(other)]).Trouble);
    }

    private static ChartVoice VoiceOf(SplitView view, Turn turn) =>
        view.Split.Unit(turn.Elements[0].UnitId)!.Chart.Voices.First(v => v.Channel == turn.Channel && v.Plays(turn.Channel, turn.Key));

    private static SplitView View(DemoSession demo) => SplitView.Of(demo.Split, Song.Of(demo.Song));
}
