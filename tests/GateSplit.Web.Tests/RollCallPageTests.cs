using System.Net;
using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

/// <summary>The roll call without script: its notes, a recording of it, what is wrong, and the edit that puts it right.</summary>
public sealed class RollCallPageTests(DemoApp demo) : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("gate-split-test-").FullName;

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    [Fact]
    public async Task Crossed_cables_are_heard_and_the_tracks_listen_where_they_arrive_after_one_edit()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Called");
        await visitor.Get($"{path}/line-check");
        await visitor.Send("form:has(select[name='a'])", new Dictionary<string, string> { ["a"] = "b-u1:3", ["b"] = "b-u1:4" });
        await visitor.Get($"{path}/line-check");
        Assert.NotNull(visitor.Page.QuerySelector("#to-roll-call"));
        await visitor.Get($"{path}/roll-call");
        Assert.Contains("Nothing was called yet.", visitor.Text);
        await Read(visitor, path, "form:has(#simulated)");
        Assert.Equal("2 lines of 9 are not as the split says:", visitor.Page.QuerySelector("#called")!.TextContent);
        Assert.Contains("Kick arrives on USB 4 instead of USB 3, in the place of Snare: two cables or inputs are exchanged.", visitor.Text);
        Assert.Equal(2, visitor.Page.QuerySelectorAll("#wrong form").Length);
        Assert.Contains("from the simulated rig", visitor.Page.QuerySelector("#read-at")!.TextContent);
        Assert.Equal(4, visitor.Page.QuerySelectorAll("#call-table .differs").Length);

        await visitor.Send("form:has(#fix-all)");
        Assert.Equal("What arrives elsewhere is listened to there by now; all else arrives as planned.", visitor.Page.QuerySelector("#called")!.TextContent);
        Assert.Null(visitor.Page.QuerySelector("#out-of-date"));
        await visitor.Get($"{path}/split?line=track%3At1");
        Assert.Equal("b-u1:4", visitor.Page.QuerySelector("#ins-input option[selected]")!.GetAttribute("value"));
        await visitor.Get($"{path}/roll-call");
        await visitor.Send("form:has(#undo)");
        Assert.Equal("2 lines of 9 are not as the split says:", visitor.Page.QuerySelector("#called")!.TextContent);

        // One line alone, and then what is called changes.
        await visitor.Send("#wrong form");
        Assert.StartsWith("1 line of 9 is not as the split says:", visitor.Page.QuerySelector("#called")!.TextContent);
        await visitor.Get($"{path}/split?line=element%3Au1%2Fclap");
        await visitor.Send(".inspector form:has(button[aria-pressed])");
        await visitor.Get($"{path}/roll-call");
        Assert.NotNull(visitor.Page.QuerySelector("#out-of-date"));
        Assert.Null(visitor.Page.QuerySelector("#fix-all"));
    }

    [Fact]
    public async Task A_recording_comes_back_is_shown_and_read_or_thrown_away()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Brought back");
        await visitor.Get($"{path}/roll-call");
        var midi = await visitor.Bytes($"{path}/roll-call?handler=Midi&pass=1");
        await File.WriteAllBytesAsync(Path.Combine(_folder, "call.mid"), midi);
        Assert.Contains("Kick", Programs.Run("midicsv", Path.Combine(_folder, "call.mid")));

        // A recording in which nobody plays: it is told, and what was known stays.
        var silence = Path.Combine(_folder, "silence.flac");
        Programs.Run("sox", "-n", "-r", "48000", "-c", "12", "-b", "16", Path.Combine(_folder, "silence.wav"), "trim", "0", "10");
        Programs.Run("ffmpeg", "-v", "error", "-nostdin", "-i", Path.Combine(_folder, "silence.wav"), "-filter_complex", "pan=2c|c0=c0|c1=c1", silence);
        await visitor.Send("form.bring-in", file: ("call.flac", await File.ReadAllBytesAsync(silence)));
        Assert.Equal(2, visitor.Page.QuerySelectorAll("#what-came tbody tr").Length);
        Assert.Contains("USB 1", visitor.Page.QuerySelector("#what-came")!.TextContent);
        Assert.Contains("2 channels came, and the recorder has 12 inputs", visitor.Text);
        await Read(visitor, path, "form:has(#read)");
        Assert.Contains("silence or noise only", visitor.Page.QuerySelector("#roll-call-end")!.TextContent);
        Assert.Null(visitor.Page.QuerySelector("#called"));

        await visitor.Send("form.bring-in", file: ("call.txt", "no sound"u8.ToArray()));
        Assert.Contains("call.txt: ", visitor.Notice);
        await visitor.Send("form.bring-in", file: ("call.wav", await File.ReadAllBytesAsync(Path.Combine(_folder, "silence.wav"))));
        var from = visitor.Page.QuerySelector("form:has(#read) input[name='from']")!.GetAttribute("value");
        await visitor.Send("form:has(input[name='from']):not(:has(#read))");
        await visitor.Get($"{path}/roll-call?from={from}");
        Assert.Null(visitor.Page.QuerySelector("#read"));
    }

    [Fact]
    public async Task What_cannot_be_called_is_said()
    {
        using var visitor = new Visitor(demo.App);
        await visitor.Get("/");
        var nothing = MidiWriter.Write(new PatternWriter(480, Tempo.Default, Metre.Common).ToFile("Nothing", 2));
        await visitor.Send("#new-name", new Dictionary<string, string> { ["name"] = "Nobody", ["charts"] = "mudlark-nine" }, ("nothing.mid", nothing));
        var path = visitor.Page.QuerySelector(".station")!.GetAttribute("href")!;
        path = path[..path.LastIndexOf('/')];
        await visitor.Get($"{path}/roll-call");
        Assert.Contains("takes notes, so there is nobody to call.", visitor.Text);
        await visitor.Get($"{path}/roll-call?handler=Midi");
        Assert.Equal(HttpStatusCode.NotFound, visitor.Status);
        await visitor.Get("/sessions/99999/roll-call");
        Assert.Equal(HttpStatusCode.NotFound, visitor.Status);
    }

    private static async Task Read(Visitor visitor, string path, string form)
    {
        await visitor.Send(form);
        await visitor.WaitFor($"{path}/roll-call", p => p.QuerySelector("#roll-call-job") is null, "the roll call is read");
    }
}
