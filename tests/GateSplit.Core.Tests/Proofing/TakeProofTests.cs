using System.Collections.Immutable;
using GateSplit.Core.Proofing;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>What a take really holds, on sounds of another tool: what was planted is told, of the file it is in, and nothing of the others.</summary>
public sealed class TakeProofTests : IDisposable
{
    private const double Seconds = 40;
    private readonly TempFolder _folder = new();
    private readonly SoxTake _sox;
    private readonly Dictionary<string, double[]> _times = SoxTake.Times(Seconds);
    private readonly Dictionary<string, float[]> _stems;
    private readonly List<Part> _parts;

    public TakeProofTests()
    {
        _sox = new SoxTake(_folder.Path);
        _stems = SoxTake.Names.ToDictionary(n => n, n => _sox.Placed(n, _times[n], Seconds));
        _parts = [.. SoxTake.Names.Select((n, i) => new Part(n, [.. _times[n]], false) { Keys = [(10, 36 + i)] })];
    }

    public void Dispose() => _folder.Dispose();

    [Fact]
    public void A_clean_take_is_clean_and_its_tracks_add_up_to_the_mix()
    {
        // At unity the tracks of which one is 6 dB off leave what is missing of it; fitted nothing.
        var mix = Mix(n => n == "Thud" ? 0.5 : 1);
        var proof = Proved(_stems, mix);
        Assert.DoesNotContain(ProofFindings.Of(proof), f => f.Severity >= Severity.Warning);
        Assert.Equal("All 5 files hold what their names say; 0.0 ms late against the reference; nothing to mend.", ProofWords.Verdict(proof));
        Assert.True(proof.Null!.Fitted.Value < -100, $"{proof.Null.Fitted} at {proof.FromReference} {string.Join(' ', proof.Null.Gains.Select(g => g[0]))}");
        var (half, whole) = (_stems["Thud"].Sum(s => 0.25 * s * s), mix.Sum(s => (double)s * s));
        Assert.Equal(10 * Math.Log10(half / whole), proof.Null.Unity.Value, 0.01);
        Assert.Equal([0.5, 1, 1, 1, 1], proof.Null.Gains.Select(g => Math.Round(g[0]!.Value, 4)));
        Assert.All(proof.Null.OverTime, o => Assert.True(o.Value < -100));
        Assert.All(proof.Tracks, t => Assert.Equal((1, 0L, 0L, null, null), (t.Polarity, t.Scan.Clicks, t.Scan.Dropouts, t.Double, t.Scan.EndsInSound)));
        Assert.All(proof.Tracks, (t, i) => Assert.Equal((i, _parts[i].Notes.Length), (t.Identity.Part, t.Identity.Hits)));
    }

    [Fact]
    public void Where_no_notes_tell_the_sounds_of_a_roll_call_do()
    {
        // Nobody knows when anything is played; each sound was heard once by itself, at another level.
        var parts = SoxTake.Names.Select(n =>
        {
            using var alone = WaveReader.Open(_sox.Save($"alone {n}", [.. _sox.Placed(n, [0.5], 2).Select(s => 0.3f * s)])).Value!;
            return new Part(n, [], false) { Signature = Signature.Of(new MonoReader(alone), 0.5) };
        }).ToList();
        var files = _stems.ToDictionary(s => s.Key, s => s.Value);
        (files["Crack"], files["Pluck"]) = (files["Pluck"], files["Crack"]);
        using var opened = new Opened(_sox, files);
        var proof = TakeProof.Of([.. opened.Waves.Select((w, i) => new ProofFile(SoxTake.Names[i], w, i))], parts, null);
        Assert.Equal([0, 2, 1, 3, 4], proof.Tracks.Select(t => t.Identity.Part));
        Assert.Equal(["Crack", "Pluck"], ProofFindings.Of(proof).Where(f => f.Fault == ProofFault.OtherElement).Select(f => proof.Tracks[f.File!.Value].File).Order());
        Assert.Contains("Its name says Crack, but it sounds as Pluck did in the roll call.", ProofWords.Sentence(proof, 1));
        Assert.StartsWith("This is Thud, by its sound in the roll call", ProofWords.Sentence(proof, 0));
        Assert.StartsWith("3 of 5 files hold what their names say", ProofWords.Verdict(proof));

        // A file that sounds as none of them is called nothing.
        using var strange = new Opened(_sox, new() { ["Thud"] = _stems["Tick"] });
        var unknown = TakeProof.Of([new ProofFile("Thud", strange.Waves[0], 0)], [parts[0]], null);
        Assert.Null(unknown.Tracks[0].Identity.Part);
        Assert.DoesNotContain(ProofFindings.Of(unknown), f => f.Fault == ProofFault.OtherElement);
    }

    /// <summary>Sounds as open files.</summary>
    private sealed class Opened(SoxTake sox, Dictionary<string, float[]> files) : IDisposable
    {
        public List<WaveReader> Waves { get; } = [.. files.Select(f => WaveReader.Open(sox.Save($"opened {f.Key} {Guid.NewGuid():N}", f.Value)).Value!)];

        public void Dispose() => Waves.ForEach(w => w.Dispose());
    }

    [Fact]
    public void What_was_planted_is_told_of_its_file_and_of_no_other()
    {
        var files = _stems.ToDictionary(s => s.Key, s => (float[])s.Value.Clone());
        (files["Crack"], files["Tick"]) = (files["Tick"], files["Crack"]);
        files["Chirp"] = [.. files["Chirp"].Select(s => -s)];
        SoxTake.Add(files["Thud"], _stems["Pluck"], 120, 0.1);
        var proof = Proved(files, Mix(_ => 1));
        var told = ProofFindings.Of(proof).Where(f => f.File is not null && f.Fault != ProofFault.Bleed).Select(f => (f.Fault, proof.Tracks[f.File!.Value].File)).Order();
        Assert.Equal([(ProofFault.OtherElement, "Crack"), (ProofFault.OtherElement, "Tick"), (ProofFault.UpsideDown, "Chirp")], told);
        Assert.Equal([0, 4, 2, 3, 1], proof.Tracks.Select(t => t.Identity.Part));
        var bleed = Assert.Single(proof.Tracks[0].Bleed);
        Assert.Equal((2, true), (bleed.From, Math.Abs(bleed.Level.Value + 20) < 1));
        Assert.All(proof.Tracks.Skip(1), t => Assert.Empty(t.Bleed));
        Assert.StartsWith("This is Tick: ", ProofWords.Sentence(proof, 1), StringComparison.Ordinal);
        Assert.Contains("Its name says Crack, but it plays the notes of Tick.", ProofWords.Sentence(proof, 1));
        Assert.Contains("It is upside down.", ProofWords.Sentence(proof, 3));
        Assert.Contains("Pluck bleeds in at −", ProofWords.Sentence(proof, 0));
    }

    [Fact]
    public void A_verdict_names_the_files_of_which_nothing_tells_what_they_should_hold()
    {
        var tick = SoxTake.Names.ToList().IndexOf("Tick");
        _parts[tick] = _parts[tick] with { Notes = [] };
        var verdict = ProofWords.Verdict(Proved(_stems, null));
        Assert.StartsWith("4 of 5 files hold what their names say, and nothing tells what Tick should hold; ", verdict, StringComparison.Ordinal);
    }

    [Fact]
    public void A_file_whose_noise_is_louder_than_its_notes_is_not_said_to_play_others()
    {
        var random = new Random(8);
        var files = _stems.ToDictionary(s => s.Key, s => s.Value);
        files["Tick"] = [.. files["Tick"].Select(s => (0.0003f * s) + (float)(0.05 * ((2 * random.NextDouble()) - 1)))];
        var proof = Proved(files, null);
        Assert.Equal("Neither Tick nor any other of the elements can be made out in it.", ProofWords.Sentence(proof, Array.IndexOf([.. SoxTake.Names], "Tick")));
        Assert.Equal([ProofFault.Unknown], ProofFindings.Of(proof).Where(f => f.Severity >= Severity.Warning).Select(f => f.Fault));
        Assert.StartsWith("4 of 5 files hold what their names say", ProofWords.Verdict(proof), StringComparison.Ordinal);
    }

    [Fact]
    public void What_bleeds_in_under_noise_is_not_denied()
    {
        // At -45 dB, under noise that is 30 dB louder than it, nobody hears it; where there is no noise, everybody does.
        var files = _stems.ToDictionary(s => s.Key, s => (float[])s.Value.Clone());
        SoxTake.Add(files["Thud"], _stems["Pluck"], 120, 0.0056);
        SoxTake.Add(files["Tick"], _stems["Pluck"], 120, 0.0056);
        files["Thud"] = SoxTake.Noisy(files["Thud"], -30);
        var proof = Proved(files, null);
        Assert.DoesNotContain(proof.Tracks[0].Bleed, b => b.From == 2);
        Assert.InRange(Assert.Single(proof.Tracks[0].Hidden, b => b.From == 2).Level.Value, -45, -10);
        Assert.Equal(-45, Assert.Single(proof.Tracks[4].Bleed).Level.Value, 1.0);
        Assert.DoesNotContain(proof.Tracks[4].Hidden, b => b.From == 2);
    }

    [Theory]
    [InlineData(0, 1.0)]
    [InlineData(480, 0.5)]
    [InlineData(2390, 0.5)]
    [InlineData(-2390, 0.7)]
    [InlineData(-97, -1.0)]
    public void A_double_is_told_with_lag_and_first_notch(int lag, double gain)
    {
        var files = _stems.ToDictionary(s => s.Key, s => s.Value);
        files["Tick"] = new float[_stems["Tick"].Length];
        SoxTake.Add(files["Tick"], _stems["Crack"], lag, gain);
        var proof = Proved(files.ToDictionary(f => f.Key, f => SoxTake.Noisy(f.Value, -50, f.Key.Length)), null);
        var twin = proof.Tracks[4].Double!;
        Assert.Equal((1, Math.Sign(gain)), (twin.File, twin.Polarity));
        Assert.Equal(lag, twin.LagFrames, 0.1);
        Assert.Equal(20 * Math.Log10(Math.Abs(gain)), twin.Gain.Value, 0.2);
        double? notch = lag == 0 ? null : 48000.0 / (2 * Math.Abs(lag));
        Assert.Equal(notch ?? 0, twin.FirstNotch(SoxTake.Rate) ?? 0, 2.0);
        Assert.Equal(notch is null, twin.FirstNotch(SoxTake.Rate) is null);
        Assert.All(proof.Tracks.Take(4), t => Assert.Null(t.Double));
        Assert.Equal(1, proof.Tracks[4].Identity.Part); // it holds what its twin holds
    }

    [Theory]
    [InlineData(38, 4)] // another microphone of the drum
    [InlineData(39, 1)] // another drum
    public void A_copy_keeps_its_name_where_the_same_notes_play_both(int key, int holds)
    {
        _parts[1] = _parts[1] with { Keys = [(10, 38)] };
        _parts[4] = new Part("Tick", key == 38 ? _parts[1].Notes : _parts[4].Notes, false) { Keys = [(10, key)] };
        var files = _stems.ToDictionary(s => s.Key, s => s.Value);
        (files["Crack"], files["Tick"]) = (SoxTake.Noisy(_stems["Crack"], -60, 1), SoxTake.Noisy(_stems["Crack"], -60, 2));
        var proof = Proved(files, null);
        Assert.Equal([0, 1, 2, 3, holds], proof.Tracks.Select(t => t.Identity.Part));
        Assert.Single(proof.Tracks, t => t.Double is not null);
    }

    [Theory]
    [InlineData(38, false)] // the same notes
    [InlineData(39, true)] // those of another drum, which it does not hold
    public void A_little_less_top_makes_another_microphone_of_what_the_same_notes_play(int key, bool copy)
    {
        _parts[1] = _parts[1] with { Keys = [(10, 38)] };
        _parts[4] = new Part("Tick", key == 38 ? _parts[1].Notes : _parts[4].Notes, false) { Keys = [(10, key)] };
        var files = _stems.ToDictionary(s => s.Key, s => s.Value);

        // 0.9 dB less at 17 kHz.
        var crack = _stems["Crack"];
        float[] duller = [.. crack.Select((s, i) => i == 0 || i == crack.Length - 1 ? s : 0.94f * s + 0.03f * (crack[i - 1] + crack[i + 1]))];
        (files["Crack"], files["Tick"]) = (SoxTake.Noisy(crack, -80, 1), SoxTake.Noisy(duller, -80, 2));
        Assert.Equal(copy ? 1 : 0, Proved(files, null).Tracks.Count(t => t.Double is not null));
    }

    [Theory]
    [InlineData(0.5, 0, 4)]
    [InlineData(1, 0, 4)]
    [InlineData(3, 60, 4)]
    [InlineData(3, 0, 2)] // far louder than the other, and no later: that is no bleed
    public void Of_two_copies_with_loud_bleed_the_one_that_holds_what_its_name_says_is_asked(double bleed, int later, int holds)
    {
        // The bleed's own file is silent, and would not hold it.
        var files = _stems.ToDictionary(s => s.Key, s => s.Value);
        var both = (float[])_stems["Tick"].Clone();
        SoxTake.Add(both, _stems["Pluck"], later, bleed);
        (files["Tick"], files["Thud"], files["Pluck"]) = (SoxTake.Noisy(both, -80, 1), SoxTake.Noisy(both, -80, 2), new float[both.Length]);
        var proof = Proved(files, null);
        Assert.Equal([holds, 1, null, 3, holds], proof.Tracks.Select(t => t.Identity.Part));

        // Of the two, the one that does not hold what its name says is the copy, or else the later.
        var copy = Assert.Single(proof.Tracks.Index(), t => t.Item.Double is not null);
        Assert.Equal(holds == 4 ? (0, 4) : (4, 0), (copy.Index, copy.Item.Double!.File));
    }

    [Theory]
    [InlineData(0, 107, 0)] // the drum, and two others later
    [InlineData(140, 190, 4)] // all of them from three feet off
    [InlineData(140, -40, 4)]
    [InlineData(20, 107, 0)] // from less than a foot
    public void Of_a_drum_and_a_room_that_are_copies_it_is_the_drum_where_that_begins_with_the_take(int away, int later, int holds)
    {
        _parts[4] = new Part("Tick", [.. _parts.Take(4).SelectMany(p => p.Notes).Distinct().Order()], false) { Keys = [.. Enumerable.Range(36, 4).Select(key => (10, key))] };
        var (all, copy) = (new float[_stems["Thud"].Length], new float[_stems["Thud"].Length]);
        foreach (var (name, bled) in new[] { ("Thud", 0), ("Crack", 150), ("Pluck", 240), ("Chirp", 200) }) // one is hardly heard from afar
        {
            SoxTake.Add(all, _stems[name], holds == 0 ? away + bled : away, name != "Pluck" ? 1 : holds == 0 ? 0 : 0.1);
        }

        SoxTake.Add(copy, all, later, 1);
        var files = _stems.ToDictionary(s => s.Key, s => s.Value);
        (files["Thud"], files["Tick"]) = holds == 0 ? (all, copy) : (copy, all);
        var proof = Proved(files.ToDictionary(f => f.Key, f => SoxTake.Noisy(f.Value, -80, f.Key.Length)), null);
        Assert.Equal([holds, 1, 2, 3, holds], proof.Tracks.Select(t => t.Identity.Part));
        Assert.Equal(holds == 0 ? 4 : 0, Assert.Single(proof.Tracks.Index(), t => t.Item.Double is not null).Index);
    }

    [Theory]
    [InlineData(0.3)]
    [InlineData(1)]
    public void Of_two_copies_the_one_whose_notes_are_heard_in_time_is_asked(double bleed)
    {
        // In the later one what is struck comes beside its notes, and what is held fits its name by its pitches.
        var files = _stems.ToDictionary(s => s.Key, s => s.Value);
        var (both, later) = ((float[])_stems["Crack"].Clone(), new float[_stems["Crack"].Length]);
        both.AsSpan(..(both.Length / 4)).Clear();
        SoxTake.Add(both, _stems["Pluck"], 0, bleed);
        SoxTake.Add(later, both, 1127, 1);
        (files["Crack"], files["Pluck"]) = (SoxTake.Noisy(both, -80, 1), SoxTake.Noisy(later, -80, 2));
        Assert.Equal([0, 1, 1, 3, 4], Proved(files, null).Tracks.Select(t => t.Identity.Part));
    }

    [Theory]
    [InlineData("Crack", 1)] // late by itself
    [InlineData("Thud", 0)] // as much behind what it is a copy of
    public void A_file_far_beside_its_take_is_known_and_a_copy_is_not_taken_for_one(string holds, int part)
    {
        var files = _stems.ToDictionary(s => s.Key, s => s.Value);
        files["Crack"] = new float[_stems["Crack"].Length];
        SoxTake.Add(files["Crack"], _stems[holds], 1500, 1);
        var track = Proved(files.ToDictionary(f => f.Key, f => SoxTake.Noisy(f.Value, -80, f.Key.Length)), null).Tracks[1];
        Assert.Equal((part, part == 1), (track.Identity.Part, track.Double is null));
        Assert.Equal(1500.0 / SoxTake.Rate, track.Identity.Offset!.Value, 0.001);
    }

    [Fact]
    public void A_file_far_beside_its_take_is_known_where_others_are_copies()
    {
        var files = _stems.ToDictionary(s => s.Key, s => s.Value);
        (files["Crack"], files["Tick"]) = (new float[_stems["Crack"].Length], _stems["Thud"]);
        SoxTake.Add(files["Crack"], _stems["Crack"], 1500, 1);
        var tracks = Proved(files.ToDictionary(f => f.Key, f => SoxTake.Noisy(f.Value, -80, f.Key.Length)), null).Tracks;
        Assert.Equal([0, 1, 2, 3, 0], tracks.Select(t => t.Identity.Part));
        Assert.Equal(0, Assert.Single(tracks, t => t.Double is not null).Double!.File);
        Assert.Equal(1500.0 / SoxTake.Rate, tracks[1].Identity.Offset!.Value, 0.001);
    }

    [Fact]
    public void A_copy_lies_behind_what_it_is_a_copy_of()
    {
        // Further from the mix than it would be looked for by itself.
        var files = _stems.ToDictionary(s => s.Key, s => s.Value);
        (files["Crack"], files["Tick"]) = (new float[_stems["Crack"].Length], new float[_stems["Tick"].Length]);
        SoxTake.Add(files["Crack"], _stems["Crack"], 450, -1);
        SoxTake.Add(files["Tick"], _stems["Crack"], 450 + 1990, 0.5);
        var copy = Proved(files.ToDictionary(f => f.Key, f => SoxTake.Noisy(f.Value, -70, f.Key.Length)), Mix(_ => 1)).Tracks[4];
        Assert.Equal((1, -1), (copy.Double!.File, copy.Double.Polarity));
        Assert.Equal((2440.0 / SoxTake.Rate, 1, false), (Math.Round(copy.OffsetSeconds!.Value * SoxTake.Rate) / SoxTake.Rate, copy.Polarity, copy.ByNotes));
    }

    [Fact]
    public void Silence_a_late_file_a_late_entry_a_clip_a_click_and_a_broken_end_are_told()
    {
        var files = _stems.ToDictionary(s => s.Key, s => (float[])s.Value.Clone());
        files["Thud"] = new float[files["Thud"].Length];
        files["Crack"] = new float[files["Crack"].Length];
        SoxTake.Add(files["Crack"], _stems["Crack"], 240, 1); // 5 ms
        files["Pluck"].AsSpan(0, (int)((_times["Pluck"][3] - 0.01) * SoxTake.Rate)).Clear();
        files["Chirp"] = [.. files["Chirp"].Select(s => Math.Clamp(6 * s, -1, 1))];
        var last = (int)((_times["Tick"][^1] + 0.005) * SoxTake.Rate);
        files["Tick"] = files["Tick"][..last];
        files["Tick"][(int)((_times["Tick"][5] + 0.15) * SoxTake.Rate)] += 0.3f;
        var proof = Proved(files, null);
        var told = ProofFindings.Of(proof).Where(f => f is { File: not null, Severity: >= Severity.Warning }).Select(f => (proof.Tracks[f.File!.Value].File, f.Fault)).ToList();
        Assert.Equal(
            [("Thud", ProofFault.Silent), ("Crack", ProofFault.TrackOff), ("Pluck", ProofFault.EntersLate), ("Chirp", ProofFault.Clips), ("Tick", ProofFault.Clicks), ("Tick", ProofFault.CutOff)],
            told);
        Assert.Equal(0.005, proof.Tracks[1].OffsetSeconds!.Value, 0.0005);
        Assert.Equal(3, proof.MissingAtStart(2));
        Assert.Contains(ProofFindings.Of(proof), f => f is { Fault: ProofFault.Uneven, File: null });
        Assert.Equal($"Nothing is in it, though {_times["Thud"].Length} notes are played.", ProofWords.Sentence(proof, 0));
    }

    [Theory]
    [InlineData(null, 3)]
    [InlineData(0, 0)] // they sound, whatever hides that they begin
    [InlineData(2, 2)]
    public void Where_levels_tell_a_late_entry_beginnings_are_not_asked(int? soft, int told)
    {
        var proof = Proved(_stems.ToDictionary(s => s.Key, s => SoxTake.Noisy(s.Value, -60)), null);
        var (track, notes) = (proof.Tracks[1], proof.Parts[1].Notes.Length);
        track = track with { SoftAtStart = soft, Identity = track.Identity with { Heard = [.. Enumerable.Range(3, notes - 3)], Notes = notes } };
        Assert.Equal(told, (proof with { Tracks = proof.Tracks.SetItem(1, track) }).MissingAtStart(1));
    }

    [Theory]
    [InlineData(120, 0, 0)] // more than are shown
    [InlineData(120, 3, 3)] // and three clicks beside them
    [InlineData(2, 0, 2)] // as few may be clicks that meet a note
    [InlineData(3, 0, 0)]
    public void A_sound_that_is_a_single_spike_is_no_click_where_several_notes_begin_so(int spikes, int clicks, long told)
    {
        const double Length = 40;
        double[] notes = [.. Enumerable.Range(0, 120).Select(i => 1 + (0.3 * i) + (0.01 * (i * i % 7)))];
        var crack = _sox.Placed("Crack", notes.Skip(spikes), Length);
        foreach (var spike in notes.Take(spikes).Concat(Enumerable.Range(1, clicks).Select(i => notes[25 * i] + 0.15)))
        {
            crack[(int)(spike * SoxTake.Rate)] = 0.5f;
        }

        using var reader = WaveReader.Open(_sox.Save("spikes", crack)).Value!;
        var scan = TrackScan.Of(reader);
        Assert.Equal(spikes + clicks, scan.Clicks);
        var left = scan.ClicksBeside(notes, notes);
        Assert.Equal((told, told), (left.Clicks, left.ClickPlaces.Length));

        // Where it is not known what is played, they are told, the first hundred with their places.
        Assert.Equal((scan.Clicks, Math.Min(100, (int)scan.Clicks)), (scan.ClicksBeside(notes, []).Clicks, scan.ClicksBeside(notes, []).ClickPlaces.Length));
    }

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public void Of_many_clicks_the_places_of_a_hundred_are_kept_whether_notes_are_known_or_not(bool known)
    {
        var cracks = _stems["Crack"].ToArray();
        for (var i = 0; i < 250; i++)
        {
            cracks[(int)((1.6 + (0.0917 * i)) * SoxTake.Rate)] += 0.9f;
        }

        List<Part> parts = known ? _parts : [.. _parts.Select(p => p with { Notes = [] })];
        using var reader = WaveReader.Open(_sox.Save("crackles", cracks)).Value!;
        var scan = TakeProof.Of([new("Crack", reader, 1)], parts, null, cancel: TestContext.Current.CancellationToken).Tracks[0].Scan;
        Assert.InRange(scan.Clicks, 101, 250);
        Assert.Equal(100, scan.ClickPlaces.Length);
    }

    [Fact]
    public void More_clicks_than_a_meter_keeps_are_only_counted()
    {
        using var reader = WaveReader.Open(_sox.Save("one", _stems["Tick"])).Value!;
        var scan = TrackScan.Of(reader);
        Click[] At(int count) => [.. Enumerable.Range(0, count).Select(i => new Click(i * 100, Spike: true))];
        double[] notes = [.. Enumerable.Range(0, 5000).Select(i => i * 100.0 / SoxTake.Rate)];
        TrackScan Left(int count) => (scan with { Clicks = count, ClickPlaces = [.. At(count)] }).ClicksBeside(notes, notes);
        Assert.Equal((0L, 0), (Left(ClickMeter.MostKept).Clicks, Left(ClickMeter.MostKept).ClickPlaces.Length));
        Assert.Equal((ClickMeter.MostKept + 1L, 100), (Left(ClickMeter.MostKept + 1).Clicks, Left(ClickMeter.MostKept + 1).ClickPlaces.Length));
    }

    [Fact]
    public void A_file_is_late_from_a_millisecond_on_by_a_reference_and_from_more_by_notes_alone()
    {
        var proof = Proved(_stems.ToDictionary(s => s.Key, s => SoxTake.Noisy(s.Value, -60)), null);
        Assert.All(proof.Tracks, t => Assert.True(t.ByNotes));
        Assert.False(Proved(_stems.ToDictionary(s => s.Key, s => SoxTake.Noisy(s.Value, -60)), Mix(_ => 1)).Tracks[1].ByNotes);
        ImmutableArray<TrackId> ids = [.. proof.Tracks.Select((_, i) => new TrackId(i + 1))];
        (bool Told, bool Sure) Late(double milliseconds, bool byNotes)
        {
            var late = proof with { Tracks = proof.Tracks.SetItem(1, proof.Tracks[1] with { OffsetSeconds = milliseconds / 1000, ByNotes = byNotes }) };
            var finding = ProofFindings.Of(late).FirstOrDefault(f => f is { Fault: ProofFault.TrackOff, File: 1 });
            return (finding is not null, finding is not null && MendOffers.Of(late, finding, ids)!.Sure);
        }

        Assert.Equal((false, false), Late(0.99, byNotes: false));
        Assert.Equal((true, true), Late(1.01, byNotes: false));
        Assert.Equal((true, true), Late(-2.8, byNotes: false));

        // Its notes say that it is not late at all.
        Assert.Equal((true, false), Late(3.2, byNotes: false));
        Assert.Equal((false, false), Late(1.49, byNotes: true));
        Assert.Equal((true, false), Late(-1.51, byNotes: true));
        Assert.Equal((true, false), Late(2.99, byNotes: true));
        Assert.Equal((true, true), Late(-3.01, byNotes: true));

        // What is held begins later than its notes say, with a reference in which it is not heard as well as without one.
        var beside = Proved(_stems.ToDictionary(s => s.Key, s => SoxTake.Noisy(s.Value, -60)), Mix(_ => 1));
        foreach (var of in new[] { proof, beside })
        {
            bool IsTold(double milliseconds, bool byNotes) => ProofFindings.Of(of with
            {
                Parts = of.Parts.SetItem(1, of.Parts[1] with { Held = true }),
                Tracks = of.Tracks.SetItem(1, of.Tracks[1] with { OffsetSeconds = milliseconds / 1000, ByNotes = byNotes }),
            }).Any(f => f is { Fault: ProofFault.TrackOff, File: 1 });
            Assert.Equal((false, true), (IsTold(19.9, byNotes: true), IsTold(20.1, byNotes: true)));
            Assert.True(IsTold(1.01, byNotes: false));
        }
    }

    [Theory]
    [InlineData(1, 2, true)]
    [InlineData(2, 2, false)]
    [InlineData(2, 1, true)]
    public void To_move_a_file_is_sure_where_it_holds_what_its_name_says_or_will(int named, int other, bool sure)
    {
        var proof = Proved(_stems.ToDictionary(s => s.Key, s => SoxTake.Noisy(s.Value, -60)), null);
        var late = proof.Tracks[1] with { OffsetSeconds = 0.005, Named = named };
        proof = proof with { Tracks = proof.Tracks.SetItem(1, late).SetItem(2, proof.Tracks[2] with { Named = other }) };
        var finding = ProofFindings.Of(proof).Single(f => f is { Fault: ProofFault.TrackOff, File: 1 });
        Assert.Equal(sure, MendOffers.Of(proof, finding, [.. proof.Tracks.Select((_, i) => new TrackId(i + 1))])!.Sure);
    }

    [Theory]
    [InlineData(false, false)]
    [InlineData(true, true)]
    public void To_move_a_file_is_not_sure_where_another_is_told_to_hold_the_same(bool copy, bool sure)
    {
        var proof = Proved(_stems.ToDictionary(s => s.Key, s => SoxTake.Noisy(s.Value, -60)), null);
        var late = proof.Tracks[1] with { OffsetSeconds = 0.005 };
        var same = proof.Tracks[2] with { Identity = late.Identity, Double = copy ? new DoubleOf(1, 0, Core.Quantities.Decibels.Unity, 1, 1) : null };
        proof = proof with { Tracks = proof.Tracks.SetItem(1, late).SetItem(2, same) };
        var finding = ProofFindings.Of(proof).Single(f => f is { Fault: ProofFault.TrackOff, File: 1 });
        Assert.Equal(sure, MendOffers.Of(proof, finding, [.. proof.Tracks.Select((_, i) => new TrackId(i + 1))])!.Sure);
    }

    [Fact]
    public void What_bleeds_in_later_does_not_move_a_file_against_its_take()
    {
        // A crack that is loud in the mix, and in the file of another a little later, as in its microphone.
        var files = _stems.ToDictionary(s => s.Key, s => (float[])s.Value.Clone());
        SoxTake.Add(files["Thud"], _stems["Crack"], 60, 0.8);
        SoxTake.Add(files["Chirp"], _stems["Tick"], -62, 0.8);
        var proof = Proved(files, Mix(name => name is "Crack" or "Tick" ? 2 : 0.5));
        Assert.All(proof.Tracks, t => Assert.Equal(0, t.OffsetSeconds!.Value, 0.0003));
        Assert.DoesNotContain(ProofFindings.Of(proof), f => f.Fault is ProofFault.TrackOff or ProofFault.UpsideDown);
    }

    [Theory]
    [InlineData("Crack", "Thud")]
    [InlineData("Thud", "Tick")]
    public void What_bleeds_in_loudly_makes_no_copy(string quiet, string loud)
    {
        // At the strongest beginnings nothing but the other is heard; but it has others.
        var files = _stems.ToDictionary(s => s.Key, s => (float[])s.Value.Clone());
        files[quiet] = [.. files[quiet].Select(s => 0.4f * s)];
        SoxTake.Add(files[quiet], _stems[loud], 300, 0.9);
        var proof = Proved(files, reference: null);
        Assert.All(proof.Tracks, (t, i) => Assert.Equal((i, null), (t.Identity.Part, t.Double)));

        // With nothing else in it, it is one, whichever of the two is looked at first.
        files[quiet] = new float[files[loud].Length];
        SoxTake.Add(files[quiet], _stems[loud], 300, 0.9);
        var copied = Proved(files, reference: null).Tracks.Select((t, i) => (t.Double, Name: SoxTake.Names[i])).Single(t => t.Double is not null);
        Assert.Equal((quiet, 300), (copied.Name, (int)Math.Round(copied.Double!.LagFrames)));
    }

    [Fact]
    public void Where_most_files_lie_elsewhere_the_take_lies_where_two_agree()
    {
        // The loudest in each window lies somewhere else; none of these places has as many files as that of the take.
        var late = new Dictionary<string, int> { ["Thud"] = -120, ["Crack"] = 170, ["Pluck"] = 0, ["Chirp"] = 0, ["Tick"] = 260 };
        var files = _stems.ToDictionary(s => s.Key, s => new float[s.Value.Length + SoxTake.Rate]);
        foreach (var (name, stem) in _stems)
        {
            SoxTake.Add(files[name], stem, 24_000 + late[name], 1);
        }

        var proof = Proved(files, Mix(_ => 1));
        Assert.NotNull(proof.FromReference);
        Assert.Equal(0.5, proof.OffsetSeconds!.Value, 1.0 / SoxTake.Rate);
        Assert.All(proof.Tracks, (t, i) => Assert.Equal(late[SoxTake.Names[i]] / (double)SoxTake.Rate, t.OffsetSeconds!.Value, 0.0003));
    }

    [Fact]
    public void What_rings_in_two_files_bleeds_from_neither_into_the_other()
    {
        // Most of the thuds come while a long crack rings, which is heard in both files; some come when it is quiet.
        var cracks = Enumerable.Range(0, 18).Select(i => 1.0 + (2 * i)).ToArray();
        var thuds = cracks.SelectMany(c => new[] { c + 0.12, c + 1.9 }).Where((_, i) => i % 2 == 0 || i % 6 == 1).ToArray();
        (_times["Crack"], _times["Thud"]) = (cracks, thuds);
        (_stems["Crack"], _stems["Thud"]) = (Ringing(cracks), _sox.Placed("Thud", thuds, Seconds));
        var names = SoxTake.Names.ToList();
        _parts[names.IndexOf("Crack")] = _parts[names.IndexOf("Crack")] with { Notes = [.. cracks] };
        _parts[names.IndexOf("Thud")] = _parts[names.IndexOf("Thud")] with { Notes = [.. thuds] };
        foreach (var other in new[] { "Pluck", "Chirp", "Tick" })
        {
            (_times[other], _stems[other]) = ([], new float[_stems[other].Length]);
            _parts[names.IndexOf(other)] = _parts[names.IndexOf(other)] with { Notes = [] };
        }

        var files = _stems.ToDictionary(s => s.Key, s => (float[])s.Value.Clone());
        SoxTake.Add(files["Thud"], _stems["Crack"], 200, 0.4);
        var proof = Proved(files, reference: null);
        Assert.DoesNotContain(proof.Tracks[names.IndexOf("Crack")].Bleed, b => b.Level.Value > -45);
        Assert.Equal(20 * Math.Log10(0.4), Assert.Single(proof.Tracks[names.IndexOf("Thud")].Bleed).Level.Value, 1.0);
    }

    [Fact]
    public void What_rings_on_of_an_element_makes_its_bleed_no_softer()
    {
        // Each hit is only two and a half times as high as what still rings of those before it, in its own file and where it bleeds in.
        var thuds = Enumerable.Range(0, (int)((Seconds - 3) / 0.4)).Select(i => 1.0 + (0.4 * i)).ToArray();
        var random = new Random(3);
        var ringing = new float[_stems["Thud"].Length];
        foreach (var start in thuds.Select(t => (int)(t * SoxTake.Rate)))
        {
            for (var (i, low) = (0, 0.0); i < 2 * SoxTake.Rate; i++)
            {
                low += 0.1 * ((2 * random.NextDouble()) - 1 - low);
                ringing[start + i] += (float)(0.6 * Math.Exp(-i / (0.42 * SoxTake.Rate)) * low);
            }
        }

        var names = SoxTake.Names.ToList();
        (_times["Thud"], _stems["Thud"]) = (thuds, ringing);
        _parts[names.IndexOf("Thud")] = _parts[names.IndexOf("Thud")] with { Notes = [.. thuds] };
        var files = _stems.ToDictionary(s => s.Key, s => (float[])s.Value.Clone());
        SoxTake.Add(files["Tick"], _stems["Thud"], 120, 0.1);
        var bleed = Assert.Single(Proved(files, reference: null).Tracks[names.IndexOf("Tick")].Bleed);
        Assert.Equal((-20, false), (Math.Round(bleed.Level.Value, 0), bleed.About));
        Assert.Equal(-20, bleed.Level.Value, 0.5);
    }

    [Theory]
    [InlineData(12, true)]
    [InlineData(3, false)]
    public void Where_most_of_a_bleed_lies_under_other_sounds_its_level_is_told_as_about(double dull, bool about)
    {
        // Cracks with two thirds, or a tenth, of their energy below 400 Hz bleed into a file in which it rumbles there all the time.
        var names = SoxTake.Names.ToList();
        var random = new Random(4);
        double Noise() => (2 * random.NextDouble()) - 1;
        var crack = new float[6000];
        for (var (i, low) = (0, 0.0); i < crack.Length; i++)
        {
            var noise = Noise();
            low += 0.026 * (noise - low);
            crack[i] = (float)(0.1 * Math.Exp(-i / 2000.0) * ((dull * low) + noise));
        }

        var (cracks, rumble) = (new float[_stems["Crack"].Length], new float[_stems["Chirp"].Length]);
        foreach (var time in _times["Crack"])
        {
            SoxTake.Add(cracks, crack, (int)Math.Round(time * SoxTake.Rate), 1);
        }

        for (var (i, one, two) = (0, 0.0, 0.0); i < rumble.Length; i++)
        {
            one += 0.01 * (Noise() - one);
            two += 0.01 * (one - two);
            rumble[i] = (float)(6 * two);
        }

        (_stems["Crack"], _stems["Chirp"], _times["Chirp"]) = (cracks, rumble, []);
        _parts[names.IndexOf("Chirp")] = _parts[names.IndexOf("Chirp")] with { Notes = [] };
        var files = _stems.ToDictionary(s => s.Key, s => (float[])s.Value.Clone());
        SoxTake.Add(files["Chirp"], cracks, 90, 0.1);
        var proof = Proved(files, reference: null);
        var bleed = Assert.Single(proof.Tracks[names.IndexOf("Chirp")].Bleed);
        Assert.Equal(-20, bleed.Level.Value, 1.0);
        Assert.Equal(about, bleed.About);
        Assert.Contains($"Crack bleeds in at {(about ? "about " : "")}−", string.Join(' ', ProofFindings.Of(proof).Select(f => f.Sentence)));
    }

    [Theory]
    [InlineData(0.15, true)]
    [InlineData(0.05, false)]
    public void A_bleed_that_is_not_as_loud_at_each_hit_is_told_as_about(double spread, bool about)
    {
        // Cracks bleed in under noise, two softer, two louder, and so on: of the hits that are compared each half holds as many of both.
        var names = SoxTake.Names.ToList();
        var random = new Random(5);
        var files = _stems.ToDictionary(s => s.Key, s => (float[])s.Value.Clone());
        files["Chirp"] = [.. _stems["Chirp"].Select(s => s + (float)(0.02 * ((2 * random.NextDouble()) - 1)))];
        foreach (var (i, time) in _times["Crack"].Index())
        {
            var at = (int)Math.Round(time * SoxTake.Rate);
            SoxTake.Add(files["Chirp"], _stems["Crack"][at..Math.Min(at + (int)(0.2 * SoxTake.Rate), _stems["Crack"].Length)], at + 90, 0.1 * (1 + (i % 4 < 2 ? spread : -spread)));
        }

        var bleed = Assert.Single(Proved(files, reference: null).Tracks[names.IndexOf("Chirp")].Bleed);
        Assert.Equal(-20, bleed.Level.Value, 2.0);
        Assert.Equal(about, bleed.About);
    }

    [Theory]
    [InlineData(0, 1)]
    [InlineData(0, -1)]
    [InlineData(240, 1)]
    public void What_bleeds_into_a_held_sound_does_not_tell_where_it_lies(int late, int sign)
    {
        // A drone that swells; cracks bleed into it 7 ms later, where they begin far more clearly than it does.
        const string Drone = "Pluck";
        var notes = Enumerable.Range(0, 9).Select(i => 1.1 + (4 * i)).ToArray();
        _times[Drone] = notes;
        _stems[Drone] = Swelling(notes);
        _parts[SoxTake.Names.ToList().IndexOf(Drone)] = new Part(Drone, [.. notes], Held: true) { Keys = [(1, 45)] };
        var files = _stems.ToDictionary(s => s.Key, s => (float[])s.Value.Clone());
        files[Drone] = new float[files[Drone].Length];
        SoxTake.Add(files[Drone], _stems[Drone], late, sign);
        SoxTake.Add(files[Drone], _stems["Crack"], 330, 0.4);
        var drone = Proved(files, Mix(_ => 1)).Tracks[SoxTake.Names.ToList().IndexOf(Drone)];
        Assert.Equal(late / (double)SoxTake.Rate, drone.OffsetSeconds!.Value, 0.0005);
        Assert.Equal(sign, drone.Polarity);
    }

    [Theory]
    [InlineData(false, 1)]
    [InlineData(false, -1)]
    [InlineData(true, 1)]
    public void What_is_faint_in_a_mix_is_told_by_itself_unless_another_microphone_is_as_near(bool near, int sign)
    {
        // Most of the mix is noise that no file holds; the other microphone's file is silent.
        _parts[4] = new Part("Tick", near ? _parts[1].Notes : [.. _parts[0].Notes.Concat(_parts[1].Notes).Order()], false) { Keys = near ? _parts[1].Keys : _parts[0].Keys.Union(_parts[1].Keys) };
        var files = _stems.ToDictionary(s => s.Key, s => s.Value);
        (files["Crack"], files["Tick"]) = ([.. _stems["Crack"].Select(s => sign * s)], new float[_stems["Tick"].Length]);
        var proof = Proved(files, SoxTake.Noisy(Mix(n => n == "Tick" ? 0 : 1), -24));
        Assert.Equal(near ? null : sign, proof.Tracks[1].Polarity);
    }

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public void A_drum_of_which_another_microphone_is_louder_in_the_mix_is_not_told_upside_down_where_that_has_no_file(bool silent)
    {
        // The other one hears the drum from below: a little later, darker, upside down, and three times as loud.
        var crack = _stems["Crack"];
        _stems["Tick"] = [.. crack.Select((_, i) => i < 8 ? 0 : -(crack[i - 6] + crack[i - 7] + crack[i - 8]))];
        _parts[4] = new Part("Tick", _parts[1].Notes, false) { Keys = _parts[1].Keys };
        var files = _stems.ToDictionary(s => s.Key, s => SoxTake.Noisy(s.Value, -90));
        files["Tick"] = silent ? new float[crack.Length] : files["Tick"];
        Assert.Equal(silent ? null : 1, Proved(files, Mix(_ => 1)).Tracks[1].Polarity);
    }

    [Theory]
    [InlineData(0.9, false, true)]
    [InlineData(0.3, false, true)]
    [InlineData(0.29, false, false)]
    [InlineData(null, false, true)]
    [InlineData(0.9, true, false)]
    [InlineData(null, true, true)]
    public void To_turn_a_file_is_sure_unless_what_it_holds_is_hardly_known_or_heard_by_others_too(double? certainty, bool shared, bool sure)
    {
        var files = _stems.ToDictionary(s => s.Key, s => (float[])s.Value.Clone());
        files["Crack"] = [.. files["Crack"].Select(s => -s)];
        var proof = Proved(files, Mix(_ => 1));
        var crack = SoxTake.Names.ToList().IndexOf("Crack");
        var track = proof.Tracks[crack];
        track = track with { Identity = certainty is { } c ? track.Identity with { Certainty = c } : Identity.None };
        proof = proof with { Tracks = proof.Tracks.SetItem(crack, track), Parts = shared ? proof.Parts.Add(_parts[crack] with { Name = "Crack from below" }) : proof.Parts };
        ImmutableArray<TrackId> ids = [.. proof.Tracks.Select((_, i) => new TrackId($"t{i}"))];
        var offer = MendOffers.Of(proof, ProofFindings.Of(proof).Single(f => f.Fault == ProofFault.UpsideDown), ids)!;
        Assert.Equal((new TurnPolarity(ids[crack]), sure), (offer.Mend, offer.Sure));
        Assert.Equal(sure, MendOffers.AllSure(proof, ids).Contains(offer.Mend));
    }

    [Theory]
    [InlineData(0.3, 0)]
    [InlineData(-0.21, 150)]
    public void Offset_and_drift_are_told_by_the_reference_and_by_the_notes(double offset, double ppm)
    {
        var files = _stems.ToDictionary(s => s.Key, s => SoxTake.Noisy(Drawn.Out([.. s.Value, .. new float[SoxTake.Rate]], offset * SoxTake.Rate, ppm), -60));
        var proof = Proved(files, Mix(_ => 1));
        Assert.Equal(offset, proof.OffsetSeconds!.Value, 1.0 / SoxTake.Rate);
        Assert.Equal(ppm, proof.DriftPpm!.Value, 1.0);
        Assert.Equal(offset, proof.FromNotes!.Offset, 0.001);
        Assert.Equal(ppm == 0 ? [ProofFault.TakeOff] : [ProofFault.TakeOff, ProofFault.Drift], ProofFindings.Of(proof).Where(f => f is { File: null, ToMend: true }).Select(f => f.Fault));
        Assert.All(proof.Tracks, t => Assert.Equal(0, t.OffsetSeconds!.Value, 0.0005));
    }

    [Fact]
    public void To_move_a_take_is_sure_where_notes_and_reference_place_it_together()
    {
        var proof = Proved(_stems.ToDictionary(s => s.Key, s => SoxTake.Noisy(Drawn.Out([.. s.Value, .. new float[SoxTake.Rate]], 0.3 * SoxTake.Rate, 0), -60)), Mix(_ => 1));
        bool Sure(TakeProof told) => MendOffers.Of(told, ProofFindings.Of(told).Single(f => f.Fault == ProofFault.TakeOff), [.. told.Tracks.Select((_, i) => new TrackId(i + 1))])!.Sure;
        TakeProof Beside(double seconds, double ppm = 0) => proof with { FromReference = ((0.3 + seconds) * SoxTake.Rate, ppm * 1e-6), FromNotes = proof.FromNotes! with { Drift = 0, Spread = 2e-6 } };
        Assert.True(Sure(proof));
        Assert.True(Sure(Beside(0.049)));
        Assert.False(Sure(Beside(0.051)));
        Assert.False(Sure(Beside(-2.5)));
        Assert.True(Sure(Beside(0, 45)));
        Assert.False(Sure(Beside(0, 470)));
        Assert.False(Sure(Beside(0, -55)));

        // Where there are no notes, the reference alone tells it; where there is no reference, the notes do.
        Assert.True(Sure(Beside(-2.5) with { FromNotes = null, Tracks = [.. proof.Tracks.Select(t => t with { Identity = Identity.None })] }));
        Assert.True(Sure(proof with { FromReference = null }));

        // Notes tell it where two at least lie together.
        TakeProof Lying(params double[] beside) => proof with { FromReference = null, Tracks = [.. proof.Tracks.Select((t, i) => t with { Identity = t.Identity with { Offset = beside[i] } })] };
        Assert.True(Sure(Lying(0.0001, -0.0002, 0.004, 0.004, -0.004)));
        Assert.False(Sure(Lying(0.0004, -0.0004, 0.004, 0.004, -0.004)));
        Assert.False(Sure(Lying(0, 0.0004, 0.004, 0.004, -0.004)));

        // The reference tells it where most of what is heard in it lies together: copies and what hears all from afar do not count.
        TakeProof Heard(params double?[] beside) => proof with { Tracks = [.. proof.Tracks.Select((t, i) => t with { OffsetSeconds = beside[i] })] };
        Assert.True(Sure(Heard(0, 0, 0, 0.004, 0.004)));
        Assert.False(Sure(Heard(0, 0, 0.004, -0.004, null)));
        Assert.True(Sure(Heard(0, 0, 0.00029, -0.00029, 0.00029)));
        Assert.False(Sure(Heard(0, 0, 0.00031, -0.00031, 0.00031)));
        var apart = Heard(0, 0, 0.004, 0.004, null);
        Assert.True(Sure(apart with { Tracks = apart.Tracks.SetItem(3, apart.Tracks[3] with { Double = new DoubleOf(2, 0, Core.Quantities.Decibels.Unity, 1, 1) }) }));
        Assert.True(Sure(apart with { Parts = apart.Parts.SetItem(3, apart.Parts[3] with { Keys = apart.Parts[3].Keys.Union(apart.Parts[0].Keys) }) }));
    }

    [Fact]
    public void Where_the_reference_tells_that_what_is_struck_is_late_a_struck_file_that_it_lacks_is_as_late()
    {
        // Three of five have notes, and all three are late; one of them is not in the mix. What is low alone would tell no place.
        var random = new Random(3);
        _stems["Thud"] = [.. _sox.Placed("Crack", _times["Thud"], Seconds).Select(s => (float)(s * ((2 * random.NextDouble()) - 1)))];
        var files = _stems.ToDictionary(s => s.Key, s => s.Key is "Chirp" or "Pluck" ? s.Value : Drawn.Out([.. s.Value.Select(v => 0.3f * v)], 480, 0));
        foreach (var i in new[] { "Chirp", "Pluck" }.Select(n => _parts.FindIndex(p => p.Name == n)))
        {
            _parts[i] = _parts[i] with { Notes = [] };
        }

        var proof = Proved(files, Mix(n => n switch { "Tick" => 0, "Chirp" or "Pluck" => 1, _ => 0.3 }));
        Assert.Equal(0, proof.OffsetSeconds!.Value, 0.0001);
        Assert.Equal([0.01, 0.01, 0.01], proof.Tracks.Where(t => _parts[t.Named!.Value].Notes.Length > 0).Select(t => Math.Round(t.OffsetSeconds!.Value, 3)));
        Assert.Equal(["Tick"], proof.Tracks.Where(t => t.ByNotes && t.OffsetSeconds is not null).Select(t => t.File));
    }

    [Fact]
    public void Where_as_many_are_late_as_are_not_it_is_told_that_they_lie_apart_and_not_which_is_late()
    {
        // Two come 6 ms later than two others; the fifth holds nothing.
        string[] late = ["Crack", "Tick"];
        var files = _stems.ToDictionary(s => s.Key, s => s.Key == "Chirp" ? new float[s.Value.Length] : Drawn.Out(s.Value, (late.Contains(s.Key) ? 0.206 : 0.2) * SoxTake.Rate, 0));
        var proof = Proved(files, null);
        Assert.True(proof.IsAbout);
        Assert.Equal(0.203, proof.OffsetSeconds!.Value, 0.001);
        Assert.All(proof.Tracks, t => Assert.Null(t.OffsetSeconds));
        var told = Assert.Single(ProofFindings.Of(proof), f => f.Fault is ProofFault.Apart or ProofFault.TrackOff);
        Assert.Matches("^Crack and Tick come up to (5\\.[89]|6\\.[0-2]) ms later than Thud and Pluck: which of them are out of time cannot be told\\.$", told.Sentence);
        Assert.Matches("; about 203\\.[0-9] ms late against the notes; ", ProofWords.Verdict(proof));
        Assert.StartsWith("The take is about 203.", ProofFindings.Of(proof).Single(f => f.Fault == ProofFault.TakeOff).Sentence);
        Assert.Null(MendOffers.Of(proof, told, [.. proof.Tracks.Select((_, i) => new TrackId($"t{i}"))]));

        // From 1.5 ms on they lie apart; a copy, what is held and what hears all from afar do not count.
        TakeProof Lying(double crack, Func<TrackProof, TrackProof>? with = null, Func<Part, Part>? as_ = null) => proof with
        {
            Tracks = [.. proof.Tracks.Select(t => t.File == "Crack" ? (with ?? (x => x))(t with { Identity = t.Identity with { Offset = crack } }) : t with { Identity = t.Identity with { Offset = 0 } })],
            Parts = [.. proof.Parts.Select(p => p.Name == "Crack" ? (as_ ?? (x => x))(p) : p)],
        };
        string[] Told(TakeProof of) => [.. ProofFindings.Of(of).Where(f => f.Fault == ProofFault.Apart).Select(f => f.Sentence)];
        Assert.Empty(Told(Lying(0.00149)));
        Assert.Equal(["Crack comes up to 1.5 ms later than Thud, Pluck and Tick: which of them are out of time cannot be told."], Told(Lying(0.00151)));
        Assert.Equal(["Thud, Pluck and Tick come up to 1.5 ms later than Crack: which of them are out of time cannot be told."], Told(Lying(-0.00151)));
        Assert.Empty(Told(Lying(0.004, with: t => t with { Double = new DoubleOf(0, 0, Core.Quantities.Decibels.Unity, 1, 1) })));
        Assert.Empty(Told(Lying(0.004, with: t => t with { OffsetSeconds = 0.004 })));
        Assert.Empty(Told(Lying(0.004, as_: p => p with { Held = true })));
        Assert.Empty(Told(Lying(0.004, as_: p => p with { Keys = p.Keys.Union(_parts[0].Keys) })));

        // With a reference that holds them all, two lie where it does and two do not.
        var known = Proved(files, Mix(_ => 1));
        Assert.False(known.IsAbout);
        Assert.DoesNotContain(ProofFindings.Of(known), f => f.Fault == ProofFault.Apart);
        Assert.Equal(2, ProofFindings.Of(known).Count(f => f.Fault == ProofFault.TrackOff));
    }

    [Fact]
    public void Where_the_reference_holds_nothing_of_what_is_struck_it_does_not_tell_which_of_it_is_late()
    {
        // What is held lies where the reference does, and begins as late after its notes as goes with either; of the two that are struck, one comes 6 ms later.
        foreach (var i in new[] { "Chirp", "Pluck" }.Select(n => _parts.FindIndex(p => p.Name == n)))
        {
            _parts[i] = _parts[i] with { Held = true };
        }

        var files = _stems.ToDictionary(s => s.Key, s => s.Key switch { "Crack" => new float[s.Value.Length], "Thud" => Drawn.Out(s.Value, 0.006 * SoxTake.Rate, 0), _ => s.Value });
        var late = new Dictionary<string, double> { ["Chirp"] = 0.0025, ["Pluck"] = 0.008 };
        files = files.ToDictionary(f => f.Key, f => late.TryGetValue(f.Key, out var by) ? Drawn.Out(f.Value, by * SoxTake.Rate, 0) : f.Value);
        var mix = new float[files["Thud"].Length];
        SoxTake.Add(mix, files["Chirp"], 0, 1);
        SoxTake.Add(mix, files["Pluck"], 0, 1);

        var proof = Proved(files, mix);
        Assert.Equal(0, proof.Tracks.Single(t => t.File == "Chirp").OffsetSeconds!.Value, 0.0005);
        Assert.All(proof.Tracks.Where(t => t.File is "Thud" or "Tick"), t => Assert.Null(t.OffsetSeconds));
        Assert.Equal(ProofFault.Apart, Assert.Single(ProofFindings.Of(proof), f => f.Fault is ProofFault.Apart or ProofFault.TrackOff).Fault);
    }

    [Theory]
    [InlineData(0.0195, false)]
    [InlineData(0.0205, true)]
    public void A_take_of_held_sounds_alone_is_late_only_where_that_is_more_than_they_swell(double late, bool told)
    {
        for (var i = 0; i < _parts.Count; i++)
        {
            _parts[i] = _parts[i] with { Held = true };
        }

        var proof = Proved(_stems, null);
        proof = proof with { FromNotes = proof.FromNotes! with { Offset = late } };
        Assert.True(proof.IsAbout);
        Assert.Equal(told, ProofFindings.Of(proof).Any(f => f.Fault == ProofFault.TakeOff));
    }

    [Fact]
    public void Pairs_are_told_side_by_side()
    {
        var right = _sox.Placed("Crack", _times["Thud"], Seconds);
        var pairs = new[]
        {
            (_stems["Thud"], right, PairState.Two),
            (_stems["Thud"], _stems["Thud"], PairState.OneChannel),
            (_stems["Thud"], [.. _stems["Thud"].Select(s => -s)], PairState.UpsideDown),
            (new float[right.Length], right, PairState.LeftMissing),
            (right, new float[right.Length], PairState.RightMissing),
        };
        foreach (var (one, other, state) in pairs)
        {
            using var reader = WaveReader.Open(_sox.Save("pair", one, other)).Value!;
            Assert.Equal(state, TrackScan.Of(reader).Pair);
        }
    }

    [Fact]
    public void What_cannot_be_known_is_said()
    {
        // Nothing is known of the notes: nobody is called anything.
        using var reader = WaveReader.Open(_sox.Save("one", _stems["Thud"])).Value!;
        var proof = TakeProof.Of([new ProofFile("Thud", reader, null)], [], null);
        Assert.Equal((null, null, null), (proof.OffsetSeconds, proof.DriftPpm, proof.Tracks[0].Identity.Part));
        Assert.Equal("There are no notes to know it by.", ProofWords.Sentence(proof, 0));
        Assert.Equal("There are no notes to know the 1 file by; there is nothing to tell where the take lies; nothing to mend.", ProofWords.Verdict(proof));

        // A reference that has nothing in common.
        using var noise = WaveReader.Open(_sox.Save("noise", SoxTake.Noisy(new float[_stems["Thud"].Length], -20))).Value!;
        Assert.Contains(ProofFindings.Of(TakeProof.Of([new ProofFile("Thud", reader, 0)], _parts, noise)), f => f.Fault == ProofFault.NotTheMix);
        Assert.Equal("There are no files to look at.", ProofWords.Verdict(TakeProof.Of([], _parts, null)));
    }

    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    [InlineData(700)]
    public void Files_without_length_are_told(int frames)
    {
        using var reader = WaveReader.Open(_sox.Save("short", new float[frames])).Value!;
        using var other = WaveReader.Open(_sox.Save("Crack", _stems["Crack"])).Value!;
        var proof = TakeProof.Of([new ProofFile("Thud", reader, 0), new ProofFile("Crack", other, 1)], _parts, null);
        Assert.True(proof.Tracks[0].Scan.IsSilent);
        Assert.Equal(1, proof.Tracks[1].Identity.Part);
    }

    [Fact]
    public void A_file_of_another_rate_is_told_and_still_heard()
    {
        var path = _sox.Save("Thud", _stems["Thud"]);
        var slow = Path.Combine(_folder.Path, "slow.wav");
        Programs.Run("sox", path, "-r", "44100", slow);
        using var one = WaveReader.Open(slow).Value!;
        using var two = WaveReader.Open(_sox.Save("Crack", _stems["Crack"])).Value!;
        using var three = WaveReader.Open(_sox.Save("Pluck", _stems["Pluck"])).Value!;
        var proof = TakeProof.Of([new ProofFile("Thud", one, 0), new ProofFile("Crack", two, 1), new ProofFile("Pluck", three, 2)], _parts, null);
        Assert.Equal([0, 1, 2], proof.Tracks.Select(t => t.Identity.Part));
        Assert.Contains("44100 Hz", proof.Tracks[0].Remark);
        Assert.Null(proof.Tracks[1].Remark);
    }

    [Fact]
    public void It_is_the_same_after_it_was_kept()
    {
        var proof = Proved(_stems, Mix(_ => 0.8));
        var back = ProofJson.Read(ProofJson.Write(proof))!;
        Assert.Equal(ProofJson.Write(proof), ProofJson.Write(back));
        Assert.Equal(ProofFindings.Of(proof), ProofFindings.Of(back));
        Assert.Null(ProofJson.Read("""{"rate":48000,"tracks":7}"""));
    }

    private static float[] Ringing(double[] notes)
    {
        var (sound, random) = (new float[(int)(Seconds * SoxTake.Rate)], new Random(3));
        foreach (var note in notes)
        {
            for (var (i, level) = (0, 0.4); i < 1.6 * SoxTake.Rate && (int)(note * SoxTake.Rate) + i < sound.Length; i++, level *= 0.99994)
            {
                sound[(int)(note * SoxTake.Rate) + i] += (float)(level * (2 * random.NextDouble() - 1));
            }
        }

        return sound;
    }

    private static float[] Swelling(double[] notes)
    {
        var sound = new float[(int)(Seconds * SoxTake.Rate)];
        foreach (var (note, step) in notes.Select((n, i) => (n, Step: 5 * i % 12)))
        {
            var pitch = 110 * Math.Pow(2, step / 12.0);
            for (var i = 0; i < 3.5 * SoxTake.Rate && (int)(note * SoxTake.Rate) + i < sound.Length; i++)
            {
                var seconds = (double)i / SoxTake.Rate;
                var swell = Math.Min(1, seconds / 0.3) * Math.Min(1, (3.5 - seconds) / 0.3);
                sound[(int)(note * SoxTake.Rate) + i] += (float)(0.1 * swell * Enumerable.Range(1, 12).Sum(k => Math.Sin(2 * Math.PI * pitch * k * seconds + k * k) / k));
            }
        }

        return sound;
    }

    private float[] Mix(Func<string, double> gain)
    {
        var mix = new float[_stems["Thud"].Length];
        foreach (var (name, stem) in _stems)
        {
            SoxTake.Add(mix, stem, 0, gain(name));
        }

        return mix;
    }

    private TakeProof Proved(Dictionary<string, float[]> files, float[]? reference)
    {
        var open = SoxTake.Names.Select(n => WaveReader.Open(_sox.Save(n, files[n])).Value!).ToImmutableArray();
        using var mix = reference is null ? null : WaveReader.Open(_sox.Save("mix", reference)).Value;
        try
        {
            return TakeProof.Of([.. open.Select((o, i) => new ProofFile(SoxTake.Names[i], o, i))], _parts, mix);
        }
        finally
        {
            foreach (var file in open)
            {
                file.Dispose();
            }
        }
    }
}
