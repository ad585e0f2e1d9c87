using System.IO.Compression;
using System.Net;
using System.Net.Http.Headers;
using System.Text.Json;
using Dapper;
using GateSplit.Tests.Shared;
using Npgsql;

namespace GateSplit.Web.Tests;

/// <summary>What leaves is what is shown and ticked; what has left is made again, byte for byte, for as long as its takes are there.</summary>
public sealed class HandoffPageTests(DemoApp demo)
{
    [Fact]
    public async Task A_download_that_breaks_off_goes_on_with_the_same_bytes()
    {
        using var visitor = new Visitor(demo.App);
        var path = await Printed(visitor, "Broken off");
        var whole = await visitor.HandOff(path, "?format=pcm16");
        var address = new Uri(visitor.Page.QuerySelector(".made a")!.GetAttribute("href")!, UriKind.Relative);
        using var first = await demo.App.Http.GetAsync(address, HttpCompletionOption.ResponseHeadersRead);
        Assert.Equal((whole.Length, "bytes", "Broken off handoff 1.zip"), (first.Content.Headers.ContentLength, Assert.Single(first.Headers.AcceptRanges), first.Content.Headers.ContentDisposition!.FileName));
        var tag = first.Headers.ETag!;
        var random = new Random(7);
        for (var at = 0L; at < 10; at++)
        {
            // In the first file, in the last papers, and anywhere between.
            var from = at == 0 ? 1 : at == 9 ? whole.Length - 1 : random.NextInt64(whole.Length);
            using var request = new HttpRequestMessage(HttpMethod.Get, address);
            request.Headers.Range = new RangeHeaderValue(from, null);
            request.Headers.IfRange = new RangeConditionHeaderValue(tag);
            using var rest = await demo.App.Http.SendAsync(request);
            Assert.Equal(HttpStatusCode.PartialContent, rest.StatusCode);
            Assert.Equal(new ContentRangeHeaderValue(from, whole.Length - 1, whole.Length), rest.Content.Headers.ContentRange);
            Assert.Equal(whole[(int)from..], await rest.Content.ReadAsByteArrayAsync());
        }

        var (middle, end) = (await Part(address, new RangeHeaderValue(100, 199), tag), await Part(address, new RangeHeaderValue(null, 50), tag));
        Assert.Equal((HttpStatusCode.PartialContent, HttpStatusCode.PartialContent), (middle.Status, end.Status));
        Assert.Equal(whole[100..200], middle.Bytes);
        Assert.Equal(whole[^50..], end.Bytes);
        Assert.Equal(HttpStatusCode.RequestedRangeNotSatisfiable, (await Part(address, new RangeHeaderValue(whole.Length, null), tag)).Status);
        Assert.Equal((HttpStatusCode.OK, whole.Length), await Part(address, new RangeHeaderValue(5, null), new EntityTagHeaderValue("\"another\"")) is var (status, bytes) ? (status, bytes.Length) : default);
    }

    [Fact]
    public async Task What_is_ticked_leaves_from_bar_to_bar_and_is_checked_by_other_tools()
    {
        using var visitor = new Visitor(demo.App);
        var path = await Printed(visitor, "Ticked");
        const string Query = "?chosen=true&file=line%3At1&file=mix&from=2&to=2&format=flac-pcm24&pattern=%7Bsession%7D%20%7Belement%7D";
        await visitor.Get($"{path}/handoff{Query}");
        Assert.Equal(["line:t1", "mix"], visitor.Page.QuerySelectorAll("input[name='file'][checked]").Select(i => i.GetAttribute("value")));
        Assert.Contains("Ticked Kick.flac", visitor.Text);
        Assert.StartsWith("Make the handoff: 2 files, at most", visitor.Page.QuerySelector("#make")!.TextContent);
        var folder = Directory.CreateTempSubdirectory("gate-split-handoff-").FullName;
        try
        {
            await File.WriteAllBytesAsync(Path.Combine(folder, "x.zip"), await visitor.HandOff(path, Query));
            Programs.Run("unzip", "-tqq", Path.Combine(folder, "x.zip"));
            await ZipFile.ExtractToDirectoryAsync(Path.Combine(folder, "x.zip"), folder);
            Programs.Run("bash", "-c", $"cd '{folder}' && sha256sum -c --strict --quiet SHA256SUMS && flac -t -s -w */*.flac");
            Assert.Equal(["Ticked Kick.flac"], Directory.GetFiles(Path.Combine(folder, "lines")).Select(f => Path.GetFileName(f)!));

            // 120 quarters a minute: bar 2 of 4/4 lasts two seconds, and begins after two.
            Assert.Equal("96000", Programs.Run("soxi", "-s", Path.Combine(folder, "lines/Ticked Kick.flac")));
            Assert.Contains("TIME_REFERENCE=96000", Programs.Run("metaflac", "--export-tags-to=-", Path.Combine(folder, "lines/Ticked Kick.flac")).Split('\n'));
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    [Theory]
    [InlineData("?from=0", "Bars are counted from 1.")]
    [InlineData("?to=x", "Bars are counted from 1.")]
    [InlineData("?from=4&to=3", "The last bar lies before the first.")]
    [InlineData("?from=900", "ends before bar 900.")]
    [InlineData("?pattern=same", "Every file would have the same name.")]
    [InlineData("?pattern=%7Bwhat%7D", "braces around something else")]
    public async Task What_cannot_be_made_is_told(string query, string sentence)
    {
        using var visitor = new Visitor(demo.App);
        await visitor.WaitFor("/sessions/1/print", p => p.QuerySelectorAll(".take-track").Length == 12, "the demo take is printed");
        await visitor.Get($"/sessions/1/handoff{query}");
        Assert.Contains(sentence, visitor.Notice);
        Assert.Null(visitor.Page.QuerySelector("#make"));
    }

    [Fact]
    public async Task Nothing_ticked_is_told_and_makes_nothing()
    {
        using var visitor = new Visitor(demo.App);
        await visitor.WaitFor("/sessions/1/print", p => p.QuerySelectorAll(".take-track").Length == 12, "the demo take is printed");
        await visitor.Get("/sessions/1/handoff?chosen=true");
        await visitor.Send("form:has(#make)");
        Assert.Equal("Nothing is ticked, so nothing would leave.", visitor.Notice);
    }

    [Fact]
    public async Task More_than_two_hundred_handoffs_are_not_kept_and_that_is_told()
    {
        using var visitor = new Visitor(demo.App);
        var path = await Printed(visitor, "Often");
        await visitor.HandOff(path, "?chosen=true&file=line%3At1");
        var id = long.Parse(path.Split('/')[^1]);
        await using var database = new NpgsqlConnection(demo.App.ConnectionString);
        await database.ExecuteAsync(
            """
            insert into handoffs (session_id, number, takes, files, bytes, audio, tracks, document)
            select session_id, number + more, takes, files, bytes, audio, tracks, document from handoffs, generate_series(1, 198) more where session_id = @id
            """,
            new { id });
        await visitor.HandOff(path, "?chosen=true&file=line%3At2");
        await visitor.Send("form:has(#make)");
        Assert.Equal("200 handoffs of this session are listed, which are the most. Forget one first.", visitor.Notice);
        await visitor.Send("form[action*='handler=Forget']");
        await visitor.HandOff(path, "?chosen=true&file=line%3At2");
    }

    [Fact]
    public async Task Notes_and_split_of_a_take_are_those_it_was_recorded_with()
    {
        using var visitor = new Visitor(demo.App);
        var path = await Printed(visitor, "As it was");
        await visitor.Get($"{path}/split?line=track%3At1");
        await visitor.Send("form:has(#ins-name)", new Dictionary<string, string> { ["name"] = "Renamed since" });
        using var zip = new ZipArchive(new MemoryStream(await visitor.HandOff(path)));
        Assert.NotNull(zip.GetEntry("lines/01 Kick.wav"));
        using var session = JsonDocument.Parse(zip.GetEntry("split/session.json")!.Open());
        Assert.Equal("Kick", session.RootElement.GetProperty("split").GetProperty("tracks")[0].GetProperty("name").GetString());
        Assert.NotNull(zip.GetEntry("notes/elements/Kick.mid"));
    }

    [Fact]
    public async Task A_handoff_whose_take_is_gone_says_so_and_is_forgotten_when_asked()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Gone take");
        await visitor.Get($"{path}/print");
        await visitor.Send("form[action*='Pass']", new Dictionary<string, string> { ["tail"] = "1.7171" }); // files like no other session's
        await Print(visitor, path);
        await visitor.HandOff(path);
        var address = visitor.Page.QuerySelector(".made a")!.GetAttribute("href")!;
        await visitor.Get($"{path}/print");
        await visitor.Send("form[action*='handler=Delete']");
        using var reply = await demo.App.Http.GetAsync(new Uri(address, UriKind.Relative));
        Assert.Equal(HttpStatusCode.Gone, reply.StatusCode);
        Assert.Contains("cannot be made again: what it holds of Kick", await reply.Content.ReadAsStringAsync());
        await visitor.Get($"{path}/handoff");
        Assert.Contains("Not there any more: Kick", visitor.Text);
        await visitor.Send("form[action*='handler=Forget']");
        Assert.Empty(visitor.Page.QuerySelectorAll(".made a"));
        await visitor.Get(address);
        Assert.Equal(HttpStatusCode.NotFound, visitor.Status);
    }

    private async Task<(HttpStatusCode Status, byte[] Bytes)> Part(Uri address, RangeHeaderValue range, EntityTagHeaderValue tag)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, address);
        request.Headers.Range = range;
        request.Headers.IfRange = new RangeConditionHeaderValue(tag);
        using var reply = await demo.App.Http.SendAsync(request);
        return (reply.StatusCode, await reply.Content.ReadAsByteArrayAsync());
    }

    private static async Task<string> Printed(Visitor visitor, string name)
    {
        var path = await visitor.NewSession(name);
        await Print(visitor, path);
        return path;
    }

    private static async Task Print(Visitor visitor, string path)
    {
        await visitor.Get($"{path}/print");
        await visitor.Send("#start");
        await visitor.WaitFor($"{path}/print", p => p.QuerySelectorAll(".take-track").Length == 9 && p.QuerySelector("#job") is null, "the take is there");
    }
}
