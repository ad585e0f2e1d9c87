using GateSplit.Core.Charts;
using GateSplit.Core.Demo;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.StandIns;

public sealed class RecorderTests : IDisposable
{
    private static readonly DateTime Then = new(2026, 1, 2, 3, 4, 5);
    private readonly TempFolder _folder = new();
    private int _prints;

    public void Dispose() => _folder.Dispose();

    public static TheoryData<string> Demos => [.. DemoSessions.All.Select(d => d.Name)];

    [Theory]
    [MemberData(nameof(Demos))]
    public void The_bytes_do_not_depend_on_the_blocks_or_the_threads(string name)
    {
        var demo = DemoSessions.All.Single(d => d.Name == name);
        var split = demo.Split with { Pass = demo.Split.Pass with { LengthBars = 2, TailSeconds = 0.7 } };
        var song = Song.Of(demo.Song);
        var reference = Print(split, song, 4096, 1);
        foreach (var (block, threads) in ((int, int)[])[(64, 1), (1000, 2), (8192, 2)])
        {
            var again = Print(split, song, block, threads);
            Assert.Equal(reference.Keys, again.Keys);
            Assert.All(reference, p => Assert.True(File.ReadAllBytes(p.Value.Path).AsSpan().SequenceEqual(File.ReadAllBytes(again[p.Key].Path)), $"{p.Key} in blocks of {block}"));
        }
    }

    [Fact]
    public void All_files_have_the_length_of_the_pass_and_their_numbers_are_those_of_the_file()
    {
        var (split, song) = Sessions.Kit;
        var times = PassTimes.Of(Sessions.View(split, song), song);
        foreach (var track in Print(split, song).Values)
        {
            using var reader = WaveReader.Open(track.Path).Value!;
            Assert.Equal(times.Frames, reader.Frames);
            var measured = FileMeasure.Of(reader);
            Assert.Equal(measured.Channels.Select(c => c.SamplePeak), track.Measure.Channels.Select(c => c.SamplePeak));
            Assert.Equal(measured.Channels.Select(c => c.Rms), track.Measure.Channels.Select(c => c.Rms));
            Assert.Equal(measured.Overview.ToBytes(), track.Measure.Overview.ToBytes());
        }
    }

    [Fact]
    public void A_fader_after_which_the_port_listens_is_printed_to_a_hundredth_of_a_decibel()
    {
        var (split, song) = Sessions.Drums;
        var clean = Print(split, song)["Snare"].Measure.Channels[0];
        var low = Print(Sessions.After(split, new SetFader(Sessions.Element(split, "snare"), new Decibels(-6))), song)["Snare"].Measure.Channels[0];
        Assert.Equal(-6, low.Rms.Value - clean.Rms.Value, 0.01);
        Assert.Equal(-6, low.SamplePeak.Value - clean.SamplePeak.Value, 0.01);
    }

    [Fact]
    public void A_wrong_assignment_is_a_wrong_recording()
    {
        var (split, song) = Sessions.Drums;
        var right = Print(split, song);
        var kick = Sessions.TrackOf(split, "Kick");
        var wrong = Print(Sessions.After(split, new SetTrackInput(kick.Id, Sessions.TrackOf(split, "Snare").Input)), song);
        Assert.Equal(Samples(right["Snare"]), Samples(wrong["Kick"]));
        var closed = Print(Sessions.After(split, new SetMode(new UnitId("u1"), new ModeId("mix"))), song);
        Assert.All(closed.Values, t => Assert.True(t.Measure.Channels[0].Silent));
    }

    [Fact]
    public void A_drum_machines_voice_sounds_where_its_note_is_and_nowhere_else()
    {
        var (split, song) = Sessions.Drums;
        var rim = Samples(Print(split, song)["Rim"]);
        var note = song.Notes.Single(n => n.Key == 37);
        var start = (int)song.Tempos.ToFrames(note.StartTick, 48000).Count;
        Assert.Equal(0, rim[..start].Max(Math.Abs));
        Assert.True(rim[start..(start + 480)].Max(Math.Abs) > 0.1);
        Assert.Equal(0, rim[(start + 24000)..].Max(Math.Abs));
    }

    [Fact]
    public void Microphones_hear_the_rest_of_the_kit_at_the_bleed_that_is_set()
    {
        var (toned, song) = Sessions.Kit;
        var split = toned with { Units = [.. toned.Units.Select(u => u with { Chart = u.Chart with { Elements = [.. u.Chart.Elements.Select(e => e with { Mic = null })] } })] };
        var song1 = Song.Of(song.File with { Tracks = [song.File.Tracks[0], [.. song.File.Tracks[1].Where(e => e.Data.Length == 0 || e.Data[0] is 35 or 38 or 0)]] });
        var start = (int)song1.Tempos.ToFrames(song1.Notes.Single(n => n.Key == 38).StartTick, 48000).Count;

        // The kick's microphone at the snare's hit against the snare's own: 26 dB below by the chart.
        double Bleed(Split s)
        {
            var printed = Print(s, song1);
            double Energy(string name) => Samples(printed[name]).Skip(start).Take(9600).Sum(x => (double)x * x);
            return 10 * Math.Log10(Energy("Kick in") / Energy("Snare top"));
        }

        Assert.Equal(-26, Bleed(split), 0.2);
        Assert.Equal(-32, Bleed(Sessions.After(split, new SetBleed(Sessions.Element(split, "kick-in"), new Decibels(-6)))), 0.2);

        // With the tone of each microphone it is another number, and turned by as much.
        Assert.Equal(-6, Bleed(Sessions.After(toned, new SetBleed(Sessions.Element(split, "kick-in"), new Decibels(-6)))) - Bleed(toned), 0.05);
    }

    [Fact]
    public void Two_voices_panned_hard_apart_on_one_pair_print_as_if_alone()
    {
        var (split, song) = Sessions.Kit;
        var alone = Print(split, song);
        var tom = Sessions.Element(split, "tom2");
        var shared = Sessions.After(
            split, new AssignPort(tom, 6), new SetPan(tom, new Pan(1)), new SetTrackInput(Sessions.TrackOf(split, "Mid tom").Id, new InputRef(new BankId("b-u1"), 12)));
        var together = Print(shared, song);
        Assert.Equal(Samples(alone["High tom"]), Samples(together["High tom"]));
        Assert.Equal(Samples(alone["Mid tom"]), Samples(together["Mid tom"]));
    }

    [Fact]
    public void A_bus_adds_its_tracks_up_and_the_sum_is_exact()
    {
        var (split, song) = Sessions.Drums;
        var stem = new Track(new TrackId("t90"), "Stem", Width.Mono) { Input = new InputRef(new BankId("buses"), 1) };
        split = Sessions.After(split, new AddTrack(stem, 0), new SetPass(split.Pass with { Format = SampleFormat.Float32 }));
        foreach (var name in new[] { "Kick", "Snare" })
        {
            split = Sessions.After(split, new SetTrackBus(Sessions.TrackOf(split, name).Id, new InputRef(new BankId("buses"), 1)));
        }

        var printed = Print(split, song);
        var sum = Samples(printed["Kick"]).Zip(Samples(printed["Snare"]), (a, b) => a + b);
        Assert.Equal(sum, Samples(printed["Stem"]));
    }

    [Fact]
    public void Effects_are_in_the_mix_and_not_in_the_single_lines()
    {
        var (split, song) = Sessions.Drums;
        split = Sessions.After(split, new AddTrack(new Track(new TrackId("t90"), "Mix", Width.Stereo) { Input = new InputRef(new BankId("b-u1"), 1) }));
        var printed = Print(split, song);
        var note = song.Notes.Single(n => n.Key == 39); // the clap sends to the effect
        var after = (int)song.Tempos.ToFrames(note.StartTick, 48000).Count + 22000;
        Assert.True(Samples(printed["Clap"])[after..].Max(Math.Abs) < 1e-4);
        using var mix = WaveReader.Open(printed["Mix"].Path).Value!;
        Assert.True(printed["Mix"].Measure.Channels[0].SamplePeak > new Decibels(-6));
    }

    [Fact]
    public void Tune_and_decay_are_heard()
    {
        var (split, song) = Sessions.Drums;
        var kick = new UnitVoice(new VoiceId("kick"));
        double Crossings(UnitVoice shape)
        {
            // Half a second after the hit the bend is over and the body alone is left.
            var samples = Samples(Print(Sessions.After(split, new ShapeVoice(new UnitId("u1"), shape)), song)["Kick"]).Skip(9600).Take(9600).ToArray();
            return samples.Zip(samples.Skip(1)).Count(p => p.First < 0 != p.Second < 0) / 2.0 / 0.2;
        }

        Assert.Equal(46, Crossings(kick with { DecayScale = 3 }), 3.0);
        Assert.Equal(92, Crossings(kick with { DecayScale = 3, TuneSemitones = 12 }), 3.0);
    }

    [Fact]
    public void A_body_has_fallen_by_60_dB_after_its_decay()
    {
        // The drum machine's kick is a body alone; its hit is the song's first note of key 36.
        var (split, song) = Sessions.Drums;
        var patch = split.Units[0].Chart.Voices.Single(v => v.Id.Value == "kick").Drum!;
        var start = (int)song.Tempos.ToFrames(song.Notes.First(n => n.Key == 36).StartTick, 48000).Count;
        var kick = Samples(Print(split, song)["Kick"]).Skip(start).ToArray();
        double PeakDb(double from, double seconds) =>
            20 * Math.Log10(kick.Skip((int)(from * 48000)).Take((int)(seconds * 48000)).Max(x => Math.Abs((double)x)));

        // Two windows a third of the decay apart lie 20 dB apart.
        var third = patch.BodyDecaySeconds / 3;
        Assert.Equal(-20, PeakDb(0.06 + third, 0.03) - PeakDb(0.06, 0.03), 1.0);
    }

    [Theory]
    [InlineData(36, 65.406)]
    [InlineData(45, 110)]
    [InlineData(57, 220)]
    public void A_held_note_has_the_pitch_of_its_key(int key, double hertz)
    {
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        writer.Hold(11, key, 100, 0, 4);
        var song = Song.Of(writer.ToFile("One note", 2));
        var split = StartingSplit.Of([WickerKeys.Chart], 2, 48000);
        split = Layer.Propose(Sessions.View(split, song), new LayWish(HardPan: false) { Unity = true }).Edit!.Apply(split).Value!;
        var samples = Samples(Print(split, song).Values.Single(t => !t.Measure.Channels[0].Silent));

        // A sine part: its rising crossings over a second, the first and the last placed between two samples.
        var rising = Enumerable.Range(24000, 48000).Where(i => samples[i] < 0 && samples[i + 1] >= 0)
            .Select(i => i + samples[i] / (double)(samples[i] - samples[i + 1])).ToList();
        Assert.Equal(hertz, 48000 * (rising.Count - 1) / (rising[^1] - rising[0]), hertz * 0.0005);
    }

    [Fact]
    public void A_closing_hat_cuts_the_open_one_off()
    {
        var pattern = new PatternWriter(480, Tempo.Default, Metre.Common);
        pattern.Hits(10, 46, 0, "X...............");
        var alone = Song.Of(pattern.ToFile("Open", 1));
        pattern.Hits(10, 42, 0, "....X...........");
        var both = Song.Of(pattern.ToFile("Open and closed", 1));
        var split = StartingSplit.Of([MudlarkNine.Chart], 1, 48000);
        split = Layer.Propose(Sessions.View(split, both), new LayWish(HardPan: false) { Unity = true }).Edit!.Apply(split).Value!;
        split = Sessions.After(split, new ShapeVoice(new UnitId("u1"), new UnitVoice(new VoiceId("hat-open")) { DecayScale = 4 }));
        double Late(Song song) => Samples(Print(split, song)["Open hat"]).Skip(24000 + 2400).Take(4800).Max(Math.Abs);
        Assert.True(Late(alone) > 0.003);
        Assert.True(Late(both) < Late(alone) / 100);
    }

    [Fact]
    public void Several_passes_give_the_same_files_as_ports_for_everybody_would()
    {
        // Three parts that have to share one pair, one pass each, against the same parts on a pair of their own.
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        for (var part = 0; part < 3; part++)
        {
            writer.Hold(new[] { 1, 6, 12 }[part], 48 + 7 * part, 100, part, 2);
        }

        var song = Song.Of(writer.ToFile("Three parts", 2));
        var wide = StartingSplit.Of([WickerKeys.Chart], 2, 48000);
        wide = Layer.Propose(Sessions.View(wide, song), new LayWish(HardPan: false) { Unity = true }).After;
        var narrowChart = WickerKeys.Chart with
        {
            Ports = [.. WickerKeys.Chart.Ports.Take(2)],
            Modes = [new ChartMode(new ModeId("one"), "One pair beside the main", [1, 2], false)],
            AssignedLeavesMain = false,
        };
        var narrow = StartingSplit.Of([narrowChart], 2, 48000);
        narrow = Layer.Propose(Sessions.View(narrow, song), new LayWish(HardPan: false) { Unity = true }).After;
        foreach (var unit in narrow.Units[0].Elements.Where(e => e.InMain))
        {
            narrow = Sessions.After(narrow, new SetInMain(new ElementRef(new UnitId("u1"), unit.ElementId), false));
        }

        Assert.True(narrow.Passes >= 3);
        var apart = Print(wide, song);
        var inTurn = Print(narrow, song);
        foreach (var name in new[] { "Keel bass", "Chapel organ", "Latch keys" })
        {
            Assert.Equal(Samples(apart[name]), Samples(inTurn[name]));
            Assert.Contains(Samples(inTurn[name]), s => Math.Abs(s) > 0.01);
        }
    }

    [Fact]
    public void Over_a_looped_back_pair_the_same_samples_come_so_many_later()
    {
        const int late = 12_345;
        var (split, song) = Sessions.Laid(SiskinMono.Chart);
        split = Sessions.After(split, new AddBank(BankKind.Loopback, "Back", 2));
        split = Sessions.After(
            split,
            new SetBank(split.Bank(new BankId("in1"))! with { DelaySamples = late }),
            new PlugCables(new UnitId("u1"), 1, 2, new InputRef(new BankId("in1"), 1)),
            new AddTrack(new Track(new TrackId("t90"), "Back again", split.Tracks[0].Width) { Input = new InputRef(new BankId("in1"), 1) }));
        var printed = Print(split, song);
        var direct = Samples(printed[split.Tracks[0].Name]);
        var back = Samples(printed["Back again"]);
        Assert.Contains(direct, s => Math.Abs(s) > 0.01);
        Assert.All(back[..late], s => Assert.Equal(0, s));
        Assert.Equal(direct[..^late], back[late..]);
        Assert.Equal(back, Samples(Print(split, song, 100, 1)["Back again"]));
    }

    [Fact]
    public void Outboard_on_a_looped_back_pair_changes_the_level_and_bends_what_is_loud()
    {
        var (split, song) = Sessions.Laid(SiskinMono.Chart);
        split = Sessions.After(split, new AddBank(BankKind.Loopback, "Back", 2));
        split = Sessions.After(
            split,
            new PlugCables(new UnitId("u1"), 1, 2, new InputRef(new BankId("in1"), 1)),
            new AddTrack(new Track(new TrackId("t90"), "Back again", split.Tracks[0].Width) { Input = new InputRef(new BankId("in1"), 1) }));
        float[] Back(double db, double drive) => Samples(Print(Sessions.After(split, new SetBank(split.Bank(new BankId("in1"))! with { OutboardDb = new Decibels(db), OutboardDrive = drive })), song)["Back again"]);
        var plain = Back(0, 0);
        var turned = Back(-6, 0);
        var driven = Back(-6, 2);
        var ratio = Math.Pow(10, -6 / 20.0);
        for (var i = 0; i < plain.Length; i += 37)
        {
            var x = plain[i] * ratio;
            Assert.Equal(x, turned[i], 1e-6);
            Assert.Equal(x * 3 / (1 + 2 * Math.Abs(x)), driven[i], 1e-6);
        }

        var signal = SplitSignal.Of(Sessions.After(split, new SetBank(split.Bank(new BankId("in1"))! with { OutboardDb = new Decibels(-6) })));
        Assert.All(signal.In(new TrackId("t90")).Where(c => !c.Gain.IsZero), c => Assert.Equal(ratio * signal.Reaching(c.Element).First(d => d.TrackId.Value != "t90").Gain.Largest, c.Gain.Largest, 1e-12));
        Assert.False(new SetBank(split.Banks[0] with { OutboardDb = new Decibels(3) }).Apply(split).Ok); // outboard stands on a loop only
    }

    [Fact]
    public void Sharers_of_a_voice_cut_each_other_off_in_the_sound_too()
    {
        // The second comes while the first still rings.
        var sharers = HeronTen.Chart.Elements.Where(e => e.SharedVoice is not null).GroupBy(e => e.SharedVoice).First().OrderByDescending(e => VoiceOf(e).RingSeconds).ToList();
        ChartVoice VoiceOf(ChartElement e) => HeronTen.Chart.Voices.Single(v => v.Id == e.Hears.First(h => !h.Bleed).VoiceId);
        var (first, second) = (VoiceOf(sharers[0]), VoiceOf(sharers[1]));
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        writer.Hits(first.Channel, first.Keys[0], 0, "X...............");
        var alone = Song.Of(writer.ToFile("Alone", 1));
        writer.Hits(second.Channel, second.Keys[0], 0, ".x..............");
        var both = Song.Of(writer.ToFile("Both", 1));
        var split = Layer.Propose(Sessions.View(StartingSplit.Of([HeronTen.Chart], 1, 48000), alone), new LayWish(HardPan: false) { Unity = true }).After;
        split = Sessions.After(split, new ShapeVoice(new UnitId("u1"), new UnitVoice(first.Id) { DecayScale = 4, LevelDb = new Decibels(6) }), new SetMuted(new ElementRef(new UnitId("u1"), sharers[1].Id), true));
        double Late(Song song) => Samples(Print(split, song).Values.First()).Skip(6_000 + 1_500).Take(2_000).Max(Math.Abs);
        Assert.True(Late(alone) > 1e-4);
        Assert.Equal(0, Late(both));
    }

    [Fact]
    public void Moved_cables_give_the_same_files_as_sockets_for_everybody_would()
    {
        var (usb, song) = Sessions.Drums;
        Split Over(int sockets) => Layer.Propose(
            Sessions.View(Sessions.After(usb, new AddBank(BankKind.Analog, "Analog", sockets), new SetBank(usb.Banks[0] with { Connected = false })), song),
            new LayWish(Anew: true)).After;
        var wide = Print(Over(16), song);
        var narrow = Over(4);
        Assert.Equal(3, narrow.Passes); // nine mono lines on four sockets
        var inTurn = Print(narrow, song);
        Assert.Equal(wide.Keys.Order(), inTurn.Keys.Order());
        Assert.All(wide, p => Assert.Equal(Samples(p.Value), Samples(inTurn[p.Key])));
    }

    [Fact]
    public void A_loop_or_nothing_armed_is_refused_and_stopping_leaves_nothing()
    {
        var (split, song) = Sessions.Drums;
        var loop = Sessions.After(split, new AddTrack(new Track(new TrackId("t90"), "Echo", Width.Mono) { Input = new InputRef(new BankId("buses"), 1), Bus = new InputRef(new BankId("buses"), 1) }));
        Assert.Contains("runs in a circle", new StandInRecorder(Sessions.View(loop, song), song).Refusal());
        var off = split with { Tracks = [.. split.Tracks.Select(t => t with { Armed = false })] };
        Assert.Contains("No track is armed", new StandInRecorder(Sessions.View(off, song), song).Refusal());
        using var cancel = new CancellationTokenSource();
        var recorder = new StandInRecorder(Sessions.View(split, song), song);
        Assert.ThrowsAny<OperationCanceledException>(() =>
            recorder.Print(t => _folder[t.Name + ".wav"], Then, new StopAt(cancel, 0.5), cancel.Token));
        Assert.Empty(_folder.Names);
    }

    [Fact]
    public void Stopped_early_the_files_hold_what_was_recorded_until_then()
    {
        var (split, song) = Sessions.Drums;
        var whole = Print(split, song);
        using var enough = new CancellationTokenSource();
        var folder = Directory.CreateDirectory(_folder["early"]).FullName;
        var blocks = 0;
        var early = new StandInRecorder(Sessions.View(split, song), song)
        {
            BlockFrames = 4800,
            Enough = enough.Token,
            Levels = _ =>
            {
                if (++blocks == 10)
                {
                    enough.Cancel();
                }
            },
        }.Print(t => Path.Combine(folder, t.Id + ".wav"), Then);

        // Two more steps are needed until a block is written: eight blocks are.
        Assert.All(early, t =>
        {
            Assert.Equal(8 * 4800, t.Measure.Frames);
            Assert.Equal(Samples(whole[t.Track.Name])[..(8 * 4800)], Samples(t));
            Assert.Equal("38400", Programs.Run("soxi", "-s", t.Path).Trim());
        });
    }

    [Fact]
    public void Some_tracks_alone_are_recorded_again_byte_for_byte()
    {
        var (split, song) = Sessions.Drums;
        var whole = Print(split, song);
        var ids = new[] { whole["Snare"].Track.Id, whole["Rim"].Track.Id }.ToHashSet();
        var folder = Directory.CreateDirectory(_folder["some"]).FullName;
        var some = new StandInRecorder(Sessions.View(split, song), song) { Only = ids }.Print(t => Path.Combine(folder, t.Id + ".wav"), Then);
        Assert.Equal(["Snare", "Rim"], some.Select(t => t.Track.Name));
        Assert.All(some, t => Assert.Equal(File.ReadAllBytes(whole[t.Track.Name].Path), File.ReadAllBytes(t.Path)));
        var nobody = new StandInRecorder(Sessions.View(split, song), song) { Only = new HashSet<TrackId> { new("t99") } };
        Assert.Equal("None of these tracks is armed any more, so a pass would record nothing.", nobody.Refusal());
    }

    [Fact]
    public void Levels_are_told_while_it_records()
    {
        var (split, song) = Sessions.Drums;
        var heard = new Dictionary<string, float>();
        var folder = Directory.CreateDirectory(_folder["levels"]).FullName;
        var printed = new StandInRecorder(Sessions.View(split, song), song)
        {
            Levels = levels =>
            {
                foreach (var (track, peak) in levels)
                {
                    heard[track.Value] = Math.Max(heard.GetValueOrDefault(track.Value), peak);
                }
            },
        }.Print(t => Path.Combine(folder, t.Id + ".wav"), Then);
        Assert.All(printed, t => Assert.Equal(t.Measure.Channels[0].SamplePeak.Value, Decibels.FromRatio(heard[t.Track.Id.Value]).Value, 0.001));
    }

    private Dictionary<string, PrintedTrack> Print(Split split, Song song, int block = 8192, int threads = 2)
    {
        var folder = Directory.CreateDirectory(_folder[$"p{_prints++}"]).FullName;
        return new StandInRecorder(Sessions.View(split, song), song) { BlockFrames = block, Threads = threads }
            .Print(t => Path.Combine(folder, t.Id + ".wav"), Then)
            .ToDictionary(t => t.Track.Name);
    }

    private static float[] Samples(PrintedTrack track) => Recorded.Samples(track.Path);

    private sealed class StopAt(CancellationTokenSource cancel, double share) : IProgress<double>
    {
        public void Report(double value)
        {
            if (value >= share)
            {
                cancel.Cancel();
            }
        }
    }
}
