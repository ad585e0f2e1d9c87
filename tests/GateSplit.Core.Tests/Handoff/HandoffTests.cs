using GateSplit.Core.Charts;
using GateSplit.Core.Demo;
using GateSplit.Core.Edits;
using GateSplit.Core.Handoff;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Tests.Handoff;

public sealed class HandoffTests
{
    [Fact]
    public void Names_are_made_from_the_pattern()
    {
        var names = FileNames.For("{nn} {element} - {session} {tempo}", ["Kick", "Snare"], "Fog Signal", 92.0004).Value!;
        Assert.Equal(["01 Kick - Fog Signal 92", "02 Snare - Fog Signal 92"], names);
    }

    [Fact]
    public void Names_never_collide_even_where_case_does_not_count()
    {
        Assert.Equal(["Tom", "tom 2", "Tom 3"], FileNames.For("{element}", ["Tom", "tom", "Tom"], "s", 120).Value!);
    }

    [Theory]
    [InlineData("../../etc/passwd", "-..-etc-passwd")]
    [InlineData("a/b\\c:d*e?f\"g<h>i|j", "a-b-c-d-e-f-g-h-i-j")]
    [InlineData("  .. ", "Track")]
    [InlineData("con", "con-")]
    [InlineData("Tab\tand\nline", "Tab-and-line")]
    [InlineData("Glöckchen 鐘", "Glöckchen 鐘")]
    [InlineData("Glo\u0308ckchen \u1112\u1161\u11ab", "Gl\u00F6ckchen \uD55C")] // signs that are put together
    [InlineData("K\u212B\uFB01", "K\u00C5\uFB01")] // a sign that is another's double; a ligature is none
    [InlineData("Kick\u202Egnp.wav", "Kickgnp.wav")]
    [InlineData("\u200EKick\uFEFF\u200B", "Kick")]
    [InlineData("Next\u0085line\u2028end", "Next-line-end")]
    [InlineData("👩\u200D🎤", "👩\u200D🎤")]
    public void Names_are_safe_for_every_file_system(string name, string clean) => Assert.Equal(clean, FileName.Clean(name));

    [Theory]
    [InlineData(9, "09", "09")]
    [InlineData(99, "01", "99")]
    [InlineData(100, "001", "100")]
    public void Numbers_have_two_places_and_more_where_there_are_more_tracks(int tracks, string first, string last)
    {
        var names = FileNames.For("{nn}", [.. Enumerable.Repeat("x", tracks)], "s", 120).Value!;
        Assert.Equal((tracks == 9 ? "01" : first, last), (names[0], names[^1]));
    }

    [Fact]
    public void A_name_that_is_taken_by_a_number_gets_the_next_one_and_one_track_needs_no_field()
    {
        Assert.Equal(["Tom 2", "Tom", "tom 3", "Tom 2 2"], FileNames.For("{element}", ["Tom 2", "Tom", "tom", "Tom 2"], "s", 120).Value!);
        Assert.Equal(["\u00E9", "\u00E9 2"], FileNames.For("{element}", ["e\u0301", "\u00E9"], "s", 120).Value!); // two spellings of one name
        Assert.Equal(["all"], FileNames.For("all", ["a"], "s", 120).Value!);
        Assert.Equal(["{session} 3", "Kick 3"], FileNames.For("{element} {take}", ["{session}", "Kick"], "s", 120, ["3", "3"]).Value!); // what stands in a word's place is not read again
        Assert.Equal(["s 92.35"], FileNames.For("{session} {tempo}", ["a"], "s", 92.346).Value!);
        Assert.Equal(["01 all", "02 all"], FileNames.For("{nn} all", ["a", "b"], "s", 120).Value!);
        Assert.Equal("Every file would have the same name. Put {element} or {nn} into the pattern.", FileNames.For("{session}", ["a", "b"], "s", 120).Trouble);
        Assert.Contains("braces around something else", FileNames.For("{nn} }", ["a", "b"], "s", 120).Trouble);
        Assert.Contains("braces around something else", FileNames.For("{nn} {", ["a", "b"], "s", 120).Trouble);
    }

    [Fact]
    public void A_long_name_is_cut_where_a_sign_ends()
    {
        Assert.Equal(new string('x', 120), FileName.Clean(new string('x', 120)));
        Assert.Equal(new string('x', 120), FileName.Clean(new string('x', 121)));
        Assert.Equal(new string('太', 40), FileName.Clean(new string('太', 41))); // three bytes each
        Assert.Equal(string.Concat(Enumerable.Repeat("🥁", 30)), FileName.Clean(string.Concat(Enumerable.Repeat("🥁", 31)))); // four bytes, two chars
        Assert.Equal(new string('x', 118), FileName.Clean(new string('x', 118) + ". .y")); // no blank at the end, after the cut either
        Assert.Equal("a-b", FileName.Clean("a\u007Fb"));
        Assert.All(new[] { "COM1", "lpt9", "NUL", "aux", "PRN" }, name => Assert.Equal(name + "-", FileName.Clean(name)));
        Assert.All(new[] { "COM10", "CONX", "my con" }, name => Assert.Equal(name, FileName.Clean(name)));
        Assert.Equal(("con-.wav", "aux-.tar.gz", "COM¹-", "conout$-"), (FileName.Clean("con.wav"), FileName.Clean("aux .tar.gz").Replace(" ", ""), FileName.Clean("COM¹"), FileName.Clean("conout$")));
    }

    [Fact]
    public void The_formats_of_a_handoff_are_those_of_its_containers_and_as_printed_for_any_other_word()
    {
        Assert.Equal(
            ["as-printed: as printed, byte for byte", "pcm16: 16 bit, with dither", "pcm24: 24 bit", "float32: 32 bit float", "flac-pcm16: FLAC 16 bit, with dither", "flac-pcm24: FLAC 24 bit"],
            HandoffFormat.All.Select(f => $"{f.Value}: {f.Name}"));
        Assert.Equal([null, SampleFormat.Pcm16, SampleFormat.Pcm24, SampleFormat.Float32, SampleFormat.Pcm16, SampleFormat.Pcm24], HandoffFormat.All.Select(f => f.Sample));
        Assert.All(HandoffFormat.All, f => Assert.Same(f, HandoffFormat.Read(f.Value)));
        Assert.All(new[] { null, "", "PCM16", "mp3" }, word => Assert.Same(HandoffFormat.AsPrinted, HandoffFormat.Read(word)));
    }

    [Fact]
    public void A_track_sheet_has_a_row_a_file_under_its_header()
    {
        var file = Written("lines/12 B.wav", "B") with { Bytes = new(99) };
        file = file with
        {
            File = file.File with
            {
                Number = 12,
                Level = new(-1.5),
                Pan = Pan.HardLeft,
                Family = Family.Snare,
                Levels = new(new(-0.125001), null, new(-20.5), 3, 5, new Loudness(-23.1, null, null, null)),
                Mended = true,
                Remark = "Say \"hi\", twice",
            },
        };
        Assert.Equal(
            "number,kind,file,track,take,elements,source,pass,groups,level_db,pan_percent,family,colour,channels,sample_rate,bits,frames,seconds,time_reference,sample_peak_dbfs,true_peak_dbtp,rms_dbfs,integrated_lufs,loudness_range_lu,clipped_runs,full_scale_samples,mended,verdict,remark,sha256\r\n"
            + "12,lines,lines/12 B.wav,B,1,B,B,,,-1.50,-100,snare,#C04B00,2,44100,32 bit float,22050,0.500,7,-0.13,,-20.50,-23.10,,3,5,yes,,\"Say \"\"hi\"\", twice\",ab\r\n",
            TrackSheet.Write([file]));
    }

    [Theory]
    [InlineData("=1+2", "'=1+2")]
    [InlineData("+1", "'+1")]
    [InlineData("-1", "'-1")]
    [InlineData("@sum", "'@sum")]
    [InlineData("\t=1", "'\t=1")]
    [InlineData("a=1", "a=1")]
    [InlineData("", "")]
    public void No_cell_of_the_sheet_begins_a_formula(string name, string cell) =>
        Assert.StartsWith($"0,lines,{cell},{cell},1,{cell},{cell},,,,,,", TrackSheet.Write([Written(name, name)]).Split("\r\n")[1]);

    [Fact]
    public void A_manifest_says_what_there_is_under_the_names_a_program_looks_for()
    {
        var manifest = new Manifest("Fog", "2026-01-02T03:04:05", 92.5, "6/8", [new(3, "take 3", "")], ["Kick 1.00 ms earlier"], [Manifest.Track.Of(Written("lines/a.wav", "A"))], new Dictionary<string, string> { ["song.mid"] = "aa" });
        using var read = System.Text.Json.JsonDocument.Parse(manifest.ToJson());
        var root = read.RootElement;
        Assert.Equal(("Fog", 3, 92.5, "6/8"), (root.GetProperty("session").GetString(), root.GetProperty("takes")[0].GetProperty("number").GetInt32(), root.GetProperty("tempoQuartersPerMinute").GetDouble(), root.GetProperty("metre").GetString()));
        var file = root.GetProperty("files")[0];
        Assert.Equal(("lines/a.wav", "A", "ab", "line", 7, 22050), (file.GetProperty("file").GetString(), file.GetProperty("name").GetString(), file.GetProperty("sha256").GetString(), file.GetProperty("kind").GetString(), file.GetProperty("timeReference").GetInt32(), file.GetProperty("frames").GetInt32()));
        Assert.Equal("aa", root.GetProperty("others").GetProperty("song.mid").GetString());
        Assert.Equal(44_100, file.GetProperty("format").GetProperty("sampleRate").GetInt32());
        Assert.Contains("\n", manifest.ToJson());
        Assert.Contains("\"Ä\"", (manifest with { Session = "Ä" }).ToJson());
    }

    private static HandoffWritten Written(string path, string name)
    {
        var format = new AudioFormat(2, 44100, SampleFormat.Float32);
        var recipe = new FileRecipe([new("hash", RenderPlan.AsItIs(2, 22050), [], [])], 44100, 7, 22050);
        return new(new HandoffFile("line:t1", HandoffKind.Line, 0, path, name, name, name, "1", recipe, format, "wave", new(new BroadcastInfo(name, new DateTime(2026, 1, 1)))), 5, "ab");
    }

    [Theory]
    [InlineData("{elemant}")]
    [InlineData("all the same")]
    public void A_pattern_that_cannot_work_is_told(string pattern) =>
        Assert.EndsWith(".", FileNames.For(pattern, ["a", "b"], "s", 120).Trouble);

    [Fact]
    public void A_lines_file_is_read_with_pairs()
    {
        var lines = LinesFile.Read(new StringReader("track,channels\nKick,3\n\"Overheads, wide\",9-10\n")).Value!;
        Assert.Equal(["Kick", "Overheads, wide"], lines.Select(l => l.Track));
        Assert.Equal([3], lines[0].Channels);
        Assert.Equal([9, 10], lines[1].Channels);
        Assert.Equal(256, LinesFile.Read(new StringReader("track,channels\n All , 1 - 256 \n")).Value![0].Channels.Length);
        Assert.Equal([7], LinesFile.Read(new StringReader("track,channels\nOne,7-7\n")).Value![0].Channels);
    }

    [Theory]
    [InlineData("", "header")]
    [InlineData("name,input\nKick,3", "header")]
    [InlineData("track,channels\n", "no tracks")]
    [InlineData("track,channels\nKick,three", "Line 2")]
    [InlineData("track,channels\nKick,0", "Line 2")]
    [InlineData("track,channels\nKick,5-3", "Line 2")]
    [InlineData("track,channels\n,3", "names no track")]
    [InlineData("track,channels\nA/b,1\nA-b,2", "twice")]
    [InlineData("track,channels\n\nKick,1\nSnare,1-2-3", "Line 4 of the lines file gives Snare the channels \"1-2-3\"")]
    [InlineData("track,channels\nKick", "gives Kick the channels \"\"")]
    [InlineData("track,channels\nKick,1\nSnare,2\nkick,3\nSnare,4", "names Kick twice")]
    [InlineData("track,channels\nKick,-3", "Line 2")]
    [InlineData("track,channels\nKick,3-", "Line 2")]
    [InlineData("track,channels\nKick,1-257", "Line 2")]
    [InlineData("track,channels\nKick,99999999999", "Line 2")]
    public void A_lines_file_that_makes_no_sense_is_told(string text, string words) =>
        Assert.Contains(words, LinesFile.Read(new StringReader(text)).Trouble);

    [Fact]
    public void An_exported_session_reads_back_the_same()
    {
        var demo = DemoSessions.All[1];
        var json = SessionFile.Of(demo.Name, MidiWriter.Write(demo.Song), demo.Split).ToJson();
        Assert.Equal(json, SessionFile.Read(json).Value!.File.ToJson());
    }

    [Theory]
    [InlineData("hello")]
    [InlineData("{}")]
    [InlineData("{\"format\":\"gate-split-session\",\"version\":9,\"name\":\"x\",\"song\":\"\",\"split\":null}")]
    [InlineData("{\"format\":\"gate-split-session\",\"version\":1,\"name\":\"x\",\"song\":\"\",\"split\":{\"units\":[],\"banks\":[],\"tracks\":[],\"pass\":{\"lengthBars\":0,\"countInBars\":0,\"tailSeconds\":null,\"sampleRate\":48000,\"format\":\"pcm24\"}}}")]
    public void What_is_no_session_is_told(string json) =>
        Assert.EndsWith(".", SessionFile.Read(System.Text.Encoding.UTF8.GetBytes(json)).Trouble);

    [Theory]
    [InlineData("version", "0", "version 0 of the format")]
    [InlineData("version", "3", "version 3 of the format; 2 is the newest that is read here.")]
    [InlineData("name", "\"\"", "name: a session needs a name of 1 to 120 characters.")]
    [InlineData("name", "null", "name: a session needs a name of 1 to 120 characters.")]
    [InlineData("song", "\"\"", "song: This is not a MIDI file")]
    [InlineData("song", "null", "song: This is not a MIDI file")]
    [InlineData("split", "null", "split: there is no split.")]
    [InlineData("format", "\"other\"", "This is not an exported session.")]
    public void A_session_with_a_wrong_part_is_told(string part, string value, string words)
    {
        var file = System.Text.Json.Nodes.JsonNode.Parse(SessionFile.Of("Fog", MidiWriter.Write(FogSignal.Session.Song), FogSignal.Session.Split).ToJson())!;
        file[part] = System.Text.Json.Nodes.JsonNode.Parse(value);
        Assert.Contains(words, SessionFile.Read(System.Text.Encoding.UTF8.GetBytes(file.ToJsonString())).Trouble);
    }

    [Theory]
    [InlineData("version", "version 0 of the format")]
    [InlineData("name", "name: a session needs a name")]
    [InlineData("song", "song: This is not a MIDI file")]
    [InlineData("split", "split: there is no split.")]
    [InlineData("format", "This is not an exported session.")]
    public void A_session_that_lacks_a_part_is_told(string part, string words)
    {
        var file = System.Text.Json.Nodes.JsonNode.Parse(SessionFile.Of("Fog", MidiWriter.Write(FogSignal.Session.Song), FogSignal.Session.Split).ToJson())!.AsObject();
        Assert.True(file.Remove(part));
        Assert.Contains(words, SessionFile.Read(System.Text.Encoding.UTF8.GetBytes(file.ToJsonString())).Trouble);
    }

    [Theory]
    [InlineData(120, true)]
    [InlineData(121, false)]
    public void The_name_of_a_session_has_120_letters_at_most(int letters, bool fits) => Assert.Equal(
        fits, SessionFile.Read(SessionFile.Of(new string('x', letters), MidiWriter.Write(FogSignal.Session.Song), FogSignal.Session.Split).ToJson()).Ok);

    [Fact]
    public void Beside_each_audio_track_stands_a_track_with_just_its_notes()
    {
        var (split, _) = Sessions.Fog;
        var file = FogSignal.Session.Song;

        // In this session the inputs of kick and snare are exchanged, and a note track has the notes of what its track carries.
        split = Sessions.After(split, new SetKeepsNotes(Sessions.TrackOf(split, "Kick").Id, false), new RenameTrack(Sessions.TrackOf(split, "Kick").Id, "Snare, really"), new RenameTrack(Sessions.TrackOf(split, "Snare").Id, "Kick"));
        var made = NoteTracks.Of(file, Sessions.View(split, Song.Of(file)));
        var again = MidiReader.Read(MidiWriter.Write(made)).Value!;
        string NameOf(IEnumerable<MidiEvent> track) => System.Text.Encoding.UTF8.GetString([.. track.First(e => e.MetaType == MidiFile.TrackName).Data]);
        var byName = again.Tracks.Skip(1).ToDictionary(t => NameOf(t), t => t);
        Assert.DoesNotContain("Snare, really", byName.Keys);

        // Counted in the song itself: the kick is key 36 on channel 10, the bass all of channel 1.
        var all = file.Tracks.SelectMany(t => t).Where(e => e.IsNoteOn).ToList();
        Assert.Equal(all.Count(e => e.Channel == 10 && e.Data[0] is 35 or 36), byName["Kick"].Count(e => e.IsNoteOn));
        Assert.All(byName["Kick"].Where(e => e.IsNoteOn), e => Assert.True(e.Data[0] is 35 or 36));
        Assert.Equal(byName["Kick"].Count(e => e.IsNoteOn), byName["Kick"].Count(e => e.IsNoteOff));
        Assert.Contains(again.Tracks[0], e => e.MetaType == MidiFile.SetTempo);
    }
}
