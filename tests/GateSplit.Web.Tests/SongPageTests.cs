using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

/// <summary>A song is replaced, and given another tempo and metre, as an edit like any other.</summary>
public sealed class SongPageTests(DemoApp demo)
{
    [Fact]
    public async Task A_song_on_the_wrong_channel_is_told_and_taken_back_with_undo()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Song");
        Assert.Contains("Nothing to mend.", visitor.Text);
        await visitor.Get($"{path}/sources");
        var before = visitor.Page.QuerySelector("#song-title + p")!.TextContent;

        // Eight quarters on channel 3, which the drum machine does not hear.
        var writer = new PatternWriter(480, Tempo.FromQuartersPerMinute(100), new Metre(3, 4));
        for (var beat = 0; beat < 24; beat++)
        {
            writer.Hold(3, 36, 100, beat, 0.5);
        }

        await visitor.Send("#song-file", file: ("other.mid", MidiWriter.Write(writer.ToFile("Other", 8))));
        Assert.Contains("24 notes, 8 bars", visitor.Page.QuerySelector("#song-title + p")!.TextContent);
        Assert.Equal(("100", "3/4"), (visitor.Page.QuerySelector("#song-tempo")!.GetAttribute("value"), visitor.Page.QuerySelector("#song-metre")!.GetAttribute("value")));
        Assert.Equal("Undo: Replace the song by other.mid", visitor.Page.QuerySelector("#undo")!.GetAttribute("title"));
        await visitor.Get($"{path}/split");
        Assert.Contains("channel 3", visitor.Page.QuerySelector(".finding")!.TextContent);
        Assert.DoesNotContain("Nothing to mend.", visitor.Text);

        // The pass was as long as the song, and still is.
        await visitor.Get($"{path}/print");
        Assert.Equal("8", visitor.Page.QuerySelector("#pass-bars")!.GetAttribute("value"));

        await visitor.Get($"{path}/split");
        await visitor.Send("#undo");
        Assert.Contains("Nothing to mend.", visitor.Text);
        await visitor.Get($"{path}/sources");
        Assert.Equal(before, visitor.Page.QuerySelector("#song-title + p")!.TextContent);
        await visitor.Send("#redo");
        Assert.Contains("24 notes", visitor.Page.QuerySelector("#song-title + p")!.TextContent);
    }

    [Fact]
    public async Task Tempo_and_metre_are_set_to_the_sample_and_nonsense_is_told()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Tempo");
        await visitor.Get($"{path}/print");
        await visitor.Send("#pass-bars", new Dictionary<string, string> { ["bars"] = "8", ["tail"] = "2.5" });
        await visitor.Get($"{path}/sources");
        await visitor.Send("#song-tempo", new Dictionary<string, string> { ["tempo"] = "90" });
        Assert.Equal("90", visitor.Page.QuerySelector("#song-tempo")!.GetAttribute("value"));
        await visitor.Get($"{path}/print");

        // 32 quarters at 90 are 21.333 s, 1,024,000 samples; with the tail 1,144,000.
        var lengths = visitor.Page.QuerySelectorAll(".lengths tbody tr").Select(r => string.Join(' ', r.QuerySelectorAll("td").Select(c => c.TextContent))).ToList();
        Assert.Equal(["0:21.333 1,024,000", "0:02.500 120,000", "0:23.833 1,144,000"], lengths.Skip(1));

        await visitor.Get($"{path}/sources");
        await visitor.Send("#song-metre", new Dictionary<string, string> { ["metre"] = "3/4" });
        await visitor.Get($"{path}/print");
        Assert.Contains("0:16.000 768,000", string.Join(' ', visitor.Page.QuerySelectorAll(".lengths td").Select(c => c.TextContent)));
        await visitor.Get($"{path}/sources");
        await visitor.Send("#song-metre", new Dictionary<string, string> { ["metre"] = "3/5" });
        Assert.StartsWith("The metre is 1 to 32 beats", visitor.Notice, StringComparison.Ordinal);
        await visitor.Send("#song-tempo", new Dictionary<string, string> { ["tempo"] = "9" });
        Assert.Equal("The tempo is 10 to 400 quarters a minute.", visitor.Notice);
        await visitor.Send("#song-file", file: ("broken.mid", [1, 2, 3]));
        Assert.StartsWith("broken.mid: ", visitor.Notice, StringComparison.Ordinal);
        Assert.Equal("3/4", visitor.Page.QuerySelector("#song-metre")!.GetAttribute("value"));
    }
}
