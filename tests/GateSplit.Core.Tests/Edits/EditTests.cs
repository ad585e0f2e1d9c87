using GateSplit.Core.Charts;
using GateSplit.Core.Demo;
using GateSplit.Core.Edits;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Edits;

public sealed class EditTests
{
    private static readonly Split Kit = Sessions.Kit.Split;
    private static readonly Split Drums = Sessions.Drums.Split;

    public static TheoryData<Edit, string> Refused => new()
    {
        { new AssignPort(new ElementRef(new UnitId("u1"), new ElementId("snare")), 7), "sends Snare out of port 3 and no other" },
        { new AssignPort(new ElementRef(new UnitId("u1"), new ElementId("snare")), 99), "has no port 99" },
        { new AssignPort(new ElementRef(new UnitId("u1"), new ElementId("nobody")), 1), "no element u1/nobody" },
        { new SetFader(new ElementRef(new UnitId("u1"), new ElementId("snare")), new Decibels(12.5)), "-120 to +12" },
        { new SetPan(new ElementRef(new UnitId("u1"), new ElementId("snare")), new Pan(1.01)), "-1 (left)" },
        { new SetBleed(new ElementRef(new UnitId("u1"), new ElementId("snare")), new Decibels(0)), "has no bleed" },
        { new SetMode(new UnitId("u1"), new ModeId("loud")), "no such mode" },
        { new SetTrackInput(new TrackId("t1"), new InputRef(new BankId("b-u1"), 13)), "inputs 1 to 12" },
        { new SetTrackInput(new TrackId("t1"), new InputRef(new BankId("nowhere"), 1)), "no such row" },
        { new SetTrackBus(new TrackId("t1"), new InputRef(new BankId("b-u1"), 1)), "only be sent to a bus" },
        { new RenameTrack(new TrackId("t1"), new string('x', 81)), "80 characters" },
        { new RenameTrack(new TrackId("t1"), "Kick\tin"), "control characters" },
        { new RemoveTrack(new TrackId("t99")), "not in the split any more" },
        { new ShapeVoice(new UnitId("u1"), new UnitVoice(new VoiceId("kick")) { DecayScale = 5 }), "0.1 to 4" },
        { new SetPass(new PassSettings(0, 0, null, 48000, SampleFormat.Pcm24)), "1 to 2000 bars" },
        { new SetPass(new PassSettings(4, 5, null, 48000, SampleFormat.Pcm24)), "0 to 4 bars" },
        { new SetPass(new PassSettings(4, 0, null, 22050, SampleFormat.Pcm24)), "sample rate" },
    };

    [Theory]
    [MemberData(nameof(Refused))]
    public void What_makes_no_sense_is_refused_with_a_sentence(Edit edit, string words)
    {
        var result = edit.Apply(Drums);
        Assert.False(result.Ok);
        Assert.Contains(words, result.Trouble);
        Assert.EndsWith(".", result.Trouble);
    }

    [Fact]
    public void On_a_plug_in_an_assigned_element_leaves_the_main_mix_and_returns_to_it()
    {
        var snare = Sessions.Element(Kit, "snare-top");
        var away = Sessions.After(Kit, new AssignPort(snare, 9));
        Assert.False(away.Units[0].Element(new ElementId("snare-top")).InMain);
        Assert.Equal(9, away.Units[0].Element(new ElementId("snare-top")).Port);
        var back = Sessions.After(away, new AssignPort(snare, 1));
        Assert.True(back.Units[0].Element(new ElementId("snare-top")).InMain);
        Assert.Null(back.Units[0].Element(new ElementId("snare-top")).Port);
    }

    [Fact]
    public void On_hardware_a_voice_stays_in_the_mix_until_it_is_taken_out()
    {
        Assert.True(Drums.Units[0].Element(new ElementId("kick")).InMain);
        Assert.False(Sessions.After(Drums, new SetInMain(Sessions.Element(Drums, "kick"), false)).Units[0].Element(new ElementId("kick")).InMain);
    }

    [Fact]
    public void Several_edits_are_all_done_or_none()
    {
        var first = Drums.Tracks[0];
        var edit = new Several("both", [new SetArmed(first.Id, false), new RemoveTrack(new TrackId("t99"))]);
        Assert.False(edit.Apply(Drums).Ok);
        Assert.True(Drums.Tracks[0].Armed);
    }

    [Fact]
    public void Tracks_are_added_moved_and_removed_in_order()
    {
        var split = Sessions.After(Drums, new AddTrack(new Track(new TrackId("t50"), "New", Width.Mono)), new MoveTrack(new TrackId("t50"), -100));
        Assert.Equal("New", split.Tracks[0].Name);
        Assert.Equal("t51", split.NewTrackId().Value);
        Assert.Equal(SplitJson.Write(Drums), SplitJson.Write(Sessions.After(split, new RemoveTrack(new TrackId("t50")))));
    }

    [Fact]
    public void A_split_written_as_json_reads_back_the_same()
    {
        foreach (var demo in DemoSessions.All)
        {
            var json = SplitJson.Write(demo.Split);
            Assert.Equal(json, SplitJson.Write(SplitJson.Read(json)));
        }
    }

    [Fact]
    public void Every_edit_has_a_name_for_the_history()
    {
        Assert.Equal("Set Snare's fader to −6.0 dB", new SetFader(new ElementRef(new UnitId("u1"), new ElementId("snare")), new Decibels(-6)).Name(Drums));
        Assert.Equal("Put Kick on USB 7", new SetTrackInput(new TrackId("t1"), new InputRef(new BankId("b-u1"), 7)).Name(Drums));
        Assert.Equal("Pan Snare hard left", new SetPan(new ElementRef(new UnitId("u1"), new ElementId("snare")), new Pan(-1)).Name(Drums));
    }
}
