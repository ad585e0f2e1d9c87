using GateSplit.Core.Demo;
using GateSplit.Core.Edits;
using GateSplit.Core.Handoff;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
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
    public void Names_are_safe_for_every_file_system(string name, string clean) => Assert.Equal(clean, FileNames.Clean(name));

    [Theory]
    [InlineData("{elemant}")]
    [InlineData("all the same")]
    public void A_pattern_that_cannot_work_is_told(string pattern) =>
        Assert.EndsWith(".", FileNames.For(pattern, ["a", "b"], "s", 120).Trouble);

    [Fact]
    public void The_track_sheet_is_quoted_as_RFC_4180_says()
    {
        var format = new AudioFormat(1, 48000, SampleFormat.Pcm24);
        var sheet = TrackSheet.Write([new HandoffTrack(1, "a.wav", "Say \"hi\", twice", "Kick", "Box port 1", format, 72000, -1.234, null, 0, null)]);
        var lines = sheet.Split("\r\n");
        Assert.Equal("1,a.wav,\"Say \"\"hi\"\", twice\",Kick,Box port 1,1,48000,24 bit,72000,1.500,-1.23,,0", lines[1]);
        Assert.Equal(13, lines[0].Split(',').Length);
    }

    [Fact]
    public void A_lines_file_is_read_with_pairs()
    {
        var lines = LinesFile.Read(new StringReader("track,channels\nKick,3\n\"Overheads, wide\",9-10\n")).Value!;
        Assert.Equal(["Kick", "Overheads, wide"], lines.Select(l => l.Track));
        Assert.Equal([9, 10], lines[1].Channels);
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

    [Fact]
    public void Beside_each_audio_track_stands_a_track_with_just_its_notes()
    {
        var (split, _) = Sessions.Fog;
        var file = FogSignal.Session.Song;
        split = Sessions.After(split, new SetKeepsNotes(Sessions.TrackOf(split, "Snare").Id, false));
        var made = NoteTracks.Of(file, Sessions.View(split, Song.Of(file)));
        var again = MidiReader.Read(MidiWriter.Write(made)).Value!;
        string NameOf(IEnumerable<MidiEvent> track) => System.Text.Encoding.UTF8.GetString([.. track.First(e => e.MetaType == MidiFile.TrackName).Data]);
        var byName = again.Tracks.Skip(1).ToDictionary(t => NameOf(t), t => t);
        Assert.DoesNotContain("Snare", byName.Keys);

        // Counted in the song itself: the kick is key 36 on channel 10, the bass all of channel 1.
        var all = file.Tracks.SelectMany(t => t).Where(e => e.IsNoteOn).ToList();
        Assert.Equal(all.Count(e => e.Channel == 10 && e.Data[0] is 35 or 36), byName["Kick"].Count(e => e.IsNoteOn));
        Assert.All(byName["Kick"].Where(e => e.IsNoteOn), e => Assert.True(e.Data[0] is 35 or 36));
        Assert.Equal(byName["Kick"].Count(e => e.IsNoteOn), byName["Kick"].Count(e => e.IsNoteOff));
        Assert.Contains(again.Tracks[0], e => e.MetaType == MidiFile.SetTempo);
    }
}
