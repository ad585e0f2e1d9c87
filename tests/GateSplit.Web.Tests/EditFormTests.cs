using GateSplit.Core.Charts;
using GateSplit.Core.Demo;
using GateSplit.Core.Edits;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Web.Forms;
using GateSplit.Web.Pages;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.Primitives;

namespace GateSplit.Web.Tests;

/// <summary>What the forms of the pages mean.</summary>
public sealed class EditFormTests
{
    private static readonly Split Split = FogSignal.Session.Split;
    private static readonly ElementRef Snare = new(new UnitId("u1"), new ElementId("snare"));

    public static TheoryData<string, Edit> Understood => new()
    {
        { "edit=assign-port&unit=u1&element=snare&port=3", new AssignPort(Snare, 3) },
        { "edit=assign-port&unit=u1&element=snare&port=", new AssignPort(Snare, null) },
        { "edit=in-main&unit=u1&element=snare&on=false", new SetInMain(Snare, false) },
        { "edit=fader&unit=u1&element=snare&value=-6.5", new SetFader(Snare, new Decibels(-6.5)) },
        { "edit=fader&unit=u1&element=snare&value=−6,5", new SetFader(Snare, new Decibels(-6.5)) },
        { "edit=pan&unit=u1&element=snare&value=-100", new SetPan(Snare, new Pan(-1)) },
        { "edit=mute&unit=u1&element=snare&on=true", new SetMuted(Snare, true) },
        { "edit=bleed&unit=u1&element=snare&value=3", new SetBleed(Snare, new Decibels(3)) },
        { "edit=shape&unit=u1&voice=snare&tune=2&decay=0.5&level=-3", new ShapeVoice(new UnitId("u1"), new UnitVoice(new VoiceId("snare")) { TuneSemitones = 2, DecayScale = 0.5, LevelDb = new Decibels(-3) }) },
        { "edit=mode&unit=u1&mode=mix", new SetMode(new UnitId("u1"), new ModeId("mix")) },
        { "edit=input&track=t1&input=b-u1:7", new SetTrackInput(new TrackId("t1"), new InputRef(new BankId("b-u1"), 7)) },
        { "edit=input&track=t1&input=", new SetTrackInput(new TrackId("t1"), null) },
        { "edit=width&track=t1&width=stereo", new SetTrackWidth(new TrackId("t1"), Width.Stereo) },
        { "edit=step&unit=u1&element=kick&kind=Roll&from=1.5&to=2&number=8", new AddStep(new PerformedStep(new ElementRef(new UnitId("u1"), new ElementId("kick")), StepKind.Roll, 1.5, 2, 8)) },
        { "edit=unstep&unit=u1&element=kick&kind=Variation&from=3&to=4&number=1", new RemoveStep(new PerformedStep(new ElementRef(new UnitId("u1"), new ElementId("kick")), StepKind.Variation, 3, 4, 1)) },
        { "edit=rename&track=t1&name=Deep", new RenameTrack(new TrackId("t1"), "Deep") },
        { "edit=arm&track=t1&on=true", new SetArmed(new TrackId("t1"), true) },
        { "edit=monitor&track=t1&monitor=Never", new SetMonitor(new TrackId("t1"), MonitorMode.Never) },
        { "edit=bus&track=t1&bus=buses:2", new SetTrackBus(new TrackId("t1"), new InputRef(new BankId("buses"), 2)) },
        { "edit=add-track", new AddTrack(new Track(FogSignal.Session.Split.NewTrackId(), "", Width.Mono)) },
        { "edit=remove-track&track=t1", new RemoveTrack(new TrackId("t1")) },
        { "edit=move-track&track=t1&steps=up", new MoveTrack(new TrackId("t1"), -1) },
        { "edit=move-track&track=t1&steps=down", new MoveTrack(new TrackId("t1"), 1) },
        { "edit=pass&bars=8&countin=2&tail=1.5&rate=96000&format=Float32", new SetPass(new PassSettings(8, 2, 1.5, 96000, SampleFormat.Float32)) },
        { "edit=pass&bars=8&countin=2&tail=&rate=48000&format=Pcm16", new SetPass(new PassSettings(8, 2, null, 48000, SampleFormat.Pcm16)) },
    };

    [Theory]
    [MemberData(nameof(Understood))]
    public void A_form_is_the_edit_it_says(string fields, Edit edit) => Assert.Equal(edit, EditForms.Read(Form(fields), Split).Value);

    [Theory]
    [InlineData("")]
    [InlineData("edit=explode")]
    [InlineData("edit=fader&unit=u1&element=snare&value=loud")]
    [InlineData("edit=fader&unit=u1&element=snare&value=NaN")]
    [InlineData("edit=pan&unit=u1&element=snare&value=")]
    [InlineData("edit=assign-port&unit=u1&element=snare&port=three")]
    [InlineData("edit=shape&unit=u1&voice=snare&tune=x&decay=1&level=0")]
    [InlineData("edit=monitor&track=t1&monitor=sometimes")]
    [InlineData("edit=pass&bars=many&countin=0&tail=&rate=48000")]
    [InlineData("edit=pass&bars=4&countin=0&tail=long&rate=48000")]
    public void A_form_that_makes_no_sense_gets_a_sentence(string fields) => Assert.EndsWith(".", EditForms.Read(Form(fields), Split).Trouble);

    [Theory]
    [InlineData(null, "−∞")]
    [InlineData(-12.34, "−12.3")]
    [InlineData(0.0, "0.0")]
    [InlineData(1.26, "1.3")]
    public void Levels_are_written_with_one_decimal_and_a_true_minus(double? db, string text) => Assert.Equal(text, Ui.Level(db is { } value ? new Decibels(value) : null));

    private static FormCollection Form(string fields) => new(fields
        .Split('&', StringSplitOptions.RemoveEmptyEntries)
        .Select(f => f.Split('=', 2))
        .ToDictionary(f => f[0], f => new StringValues(f[1])));
}
