using System.IO.Compression;
using System.Net;
using System.Text.Json;
using GateSplit.Core.Sound;
using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

/// <summary>What mends make of a take is what is heard, drawn, proved and handed off, and the printed files stay as they are.</summary>
public sealed class MendPageTests(DemoApp demo) : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("gate-split-test-").FullName;

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    [Fact]
    public async Task A_track_that_is_moved_and_turned_up_by_hand_is_so_wherever_it_leaves()
    {
        using var visitor = new Visitor(demo.App);
        var path = await Printed(visitor, "Mended by hand");
        var printed = await Audio(visitor, $"/audio/{Row(visitor, "Kick").GetAttribute("data-hash")}");
        await ByHand(visitor, path, "move", new() { ["of"] = "t1", ["value"] = "100", ["unit"] = "samples", ["way"] = "later" });
        await ByHand(visitor, path, "gain", new() { ["of"] = "t1", ["value"] = "-6.0206" });
        Assert.Equal(["Kick 2.08 ms later", "Kick −6.0 dB"], visitor.Page.QuerySelectorAll("#mends li").Select(l => l.TextContent));

        // Heard: the file that the player reads, by ranges as well.
        var source = JsonDocument.Parse(Row(visitor, "Kick").QuerySelector(".wave")!.GetAttribute("data-mended")!).RootElement;
        var url = source.GetProperty("url").GetString()!;
        var heard = await Audio(visitor, url);
        Assert.Equal(printed.Length + 100, heard.Length);
        Assert.All(heard.Take(100), s => Assert.Equal(0, s));
        for (var i = 0; i < printed.Length; i += 97)
        {
            Assert.Equal(printed[i] / 2, heard[100 + i], 2e-7f);
        }

        var bytes = await visitor.Bytes(url);
        using var part = new HttpRequestMessage(HttpMethod.Get, new Uri(url, UriKind.Relative));
        part.Headers.Range = new(1000, 4999);
        using var reply = await demo.App.Http.SendAsync(part);
        Assert.Equal(HttpStatusCode.PartialContent, reply.StatusCode);
        Assert.Equal(bytes[1000..5000], await reply.Content.ReadAsByteArrayAsync());
        Assert.Equal(68, source.GetProperty("offset").GetInt64());
        Assert.Equal("", Row(visitor, "Snare").QuerySelector(".wave")!.GetAttribute("data-mended"));

        // Handed off: the same samples, told as mended, with the levels that they have now.
        await visitor.Get($"{path}/handoff");
        Assert.Equal(["Kick 2.08 ms later", "Kick −6.0 dB"], visitor.Page.QuerySelectorAll("#mended li").Select(l => l.TextContent));
        var zip = new ZipArchive(new MemoryStream(await visitor.HandOff(path)));
        Assert.Equal(heard, Samples(Unpacked(zip, "lines/01 Kick.wav")));
        var manifest = JsonDocument.Parse(zip.GetEntry("manifest.json")!.Open()).RootElement;
        Assert.Equal("Kick 2.08 ms later", manifest.GetProperty("mends")[0].GetString());
        var files = manifest.GetProperty("files").EnumerateArray().ToList();
        Assert.Equal([true, false], files.Take(2).Select(f => f.GetProperty("mended").GetBoolean()));
        Assert.Equal(20 * Math.Log10(heard.Max(Math.Abs)), files[0].GetProperty("levels").GetProperty("samplePeakDbfs").GetDouble(), 0.001);
        Assert.Equal(heard.Length, files[0].GetProperty("frames").GetInt64());

        // The printed file is what it was, and the address of other mends is no longer answered.
        await visitor.Get($"{path}/print");
        Assert.Contains("Heard as its mends make it", visitor.Text);
        Assert.Equal(printed, await Audio(visitor, $"/audio/{Row(visitor, "Kick").GetAttribute("data-hash")}"));
        await visitor.Get($"{path}/proof");
        await visitor.Send("form:has(#undo-mend)");
        await visitor.Get(url);
        Assert.NotEqual(HttpStatusCode.NotFound, visitor.Status); // it never changes, so who holds the address may hear it out
        await visitor.Get(url.Replace("mends=", "mends=0"));
        Assert.Equal(HttpStatusCode.NotFound, visitor.Status);
    }

    [Fact]
    public async Task Levels_are_brought_to_a_target_by_group_and_what_makes_no_sense_is_told()
    {
        using var visitor = new Visitor(demo.App);
        var path = await Printed(visitor, "To a target");
        await ByHand(visitor, path, "peak", new() { ["of"] = "all", ["value"] = "-6" }, prove: false);
        Assert.Contains("Prove the take first", visitor.Notice);
        await Proved(visitor, path, "form:has(#prove)");
        await ByHand(visitor, path, "peak", new() { ["of"] = "all", ["value"] = "-6" });
        var peaks = visitor.Page.QuerySelectorAll(".proof-tracks tbody tr td:nth-child(3)").Select(td => td.TextContent).ToList();
        Assert.Equal("−6.0", peaks.Where(p => p != "−∞").MaxBy(p => double.Parse(p.Replace('−', '-'))));
        await ByHand(visitor, path, "loudness", new() { ["of"] = "t2", ["value"] = "-30" });
        Assert.Equal("−30.0", visitor.Page.QuerySelector("#proof-t2 td:nth-child(4)")!.TextContent);
        await ByHand(visitor, path, "trim", new() { ["from"] = "2", ["to"] = "3", ["tail"] = "0,5", ["fade"] = "5" });
        Assert.StartsWith("Trim to ", visitor.Page.QuerySelectorAll("#mends li")[^1].TextContent);

        foreach (var (mend, fields, told) in new (string, Dictionary<string, string>, string)[]
        {
            ("move", new() { ["of"] = "t1", ["value"] = "far", ["unit"] = "ms" }, "number"),
            ("move", new() { ["of"] = "t99", ["value"] = "1", ["unit"] = "ms" }, "no such track"),
            ("move", new() { ["of"] = "all", ["value"] = "1e9", ["unit"] = "ms" }, "-600 to 600"),
            ("gain", new() { ["of"] = "nobody", ["value"] = "1" }, "no such tracks"),
            ("gain", new() { ["of"] = "all", ["value"] = "400" }, "turned by"),
            ("sides", new() { ["track"] = "t1" }, "no pair"),
            ("exchange", new() { ["track"] = "t1", ["other"] = "t1" }, "Two tracks"),
            ("trim", new() { ["from"] = "3", ["to"] = "2", ["tail"] = "0", ["fade"] = "0" }, "not before it"),
            ("trim", new() { ["from"] = "1", ["to"] = "2147483647", ["tail"] = "0", ["fade"] = "0" }, "not before it"),
            ("trim", new() { ["from"] = "1", ["to"] = "1", ["tail"] = "0", ["fade"] = "100000" }, "fades that fit"),
            ("sing", [], "no such mend"),
        })
        {
            await ByHand(visitor, path, mend, fields, prove: false);
            Assert.Contains(told, visitor.Notice);
            Assert.Equal(3, visitor.Page.QuerySelectorAll("#mends li").Length);
        }
    }

    [Fact]
    public async Task Names_that_are_exchanged_leave_with_the_other_file()
    {
        using var visitor = new Visitor(demo.App);
        var path = await Printed(visitor, "Exchanged names");
        var (kick, snare) = (await Audio(visitor, $"/audio/{Row(visitor, "Kick").GetAttribute("data-hash")}"), await Audio(visitor, $"/audio/{Row(visitor, "Snare").GetAttribute("data-hash")}"));
        await ByHand(visitor, path, "exchange", new() { ["track"] = "t1", ["other"] = "t2" });
        var zip = new ZipArchive(new MemoryStream(await visitor.HandOff(path)));
        Assert.Equal(snare, Samples(Unpacked(zip, "lines/01 Kick.wav")));
        Assert.Equal(kick, Samples(Unpacked(zip, "lines/02 Snare.wav")));
        Assert.Equal([true, true, false], JsonDocument.Parse(zip.GetEntry("manifest.json")!.Open()).RootElement.GetProperty("files").EnumerateArray().Take(3).Select(f => f.GetProperty("mended").GetBoolean()));
    }

    [Fact]
    public async Task Waveforms_are_drawn_for_the_part_that_is_asked_for()
    {
        using var visitor = new Visitor(demo.App);
        var path = await Printed(visitor, "Drawn");
        var hash = Row(visitor, "Kick").GetAttribute("data-hash")!;
        var printed = await Audio(visitor, $"/audio/{hash}");
        var hit = Array.FindIndex(printed, s => Math.Abs(s) > 0.05);

        // Few enough to see each: 20 samples in 200 columns are points ten columns apart, at 1 less the sample.
        var near = JsonDocument.Parse(await visitor.Bytes($"/waveforms?from={hit}&frames=20&columns=200&of={hash}")).RootElement[0];
        Assert.Equal("", near.GetProperty("fill").GetString());
        var points = near.GetProperty("line").GetString()![1..].Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(double.Parse).Chunk(2).ToList();
        Assert.Equal(Enumerable.Range(0, 20).Select(i => (i * 10.0, Math.Round(1 - (double)printed[hit + i], 3))), points.Take(20).Select(p => (p[0], p[1])));
        Assert.Equal(20, near.GetProperty("dots").GetString()!.Split('M').Skip(1).Take(20).Count());

        // From afar each column spans what lies in it; taller, it is cut off at the border.
        var far = JsonDocument.Parse(await visitor.Bytes($"/waveforms?from=0&frames={printed.Length}&columns=10&tall=1000&of={hash}&of=nothing")).RootElement;
        Assert.Equal(JsonValueKind.Null, far[1].ValueKind);
        Assert.Contains(" 0 ", far[0].GetProperty("fill").GetString());
        Assert.DoesNotContain("-", far[0].GetProperty("fill").GetString());
        foreach (var wrong in new[] { "from=0&frames=0&columns=10", "from=0&frames=10&columns=100000", "from=NaN&frames=10&columns=10", "from=0&frames=10&columns=10&tall=0.1", $"from=0&frames=10&columns=10{string.Concat(Enumerable.Repeat("&of=a", 65))}" })
        {
            await visitor.Get($"/waveforms?{wrong}&of={hash}");
            Assert.Equal(HttpStatusCode.BadRequest, visitor.Status);
        }
    }

    [Fact]
    public async Task Two_tracks_are_laid_over_each_other()
    {
        using var visitor = new Visitor(demo.App);
        var path = await Printed(visitor, "Two tracks");
        await Proved(visitor, path, "form:has(#prove)");
        Assert.NotNull(visitor.Page.QuerySelector("#offsets .plot-line"));
        await visitor.Get($"{path}/proof?handler=TwoTracks&one=t1&other=t2");
        Assert.Equal(6, visitor.Page.QuerySelectorAll("#two-tracks polyline").Length);
        Assert.Contains("Kick solid, Snare dashed", visitor.Text);
        await visitor.Get($"{path}/proof?handler=TwoTracks&one=t1&other=t99");
        Assert.Equal(HttpStatusCode.NotFound, visitor.Status);
    }

    private static async Task<string> Printed(Visitor visitor, string name)
    {
        var path = await visitor.NewSession(name);
        await visitor.Get($"{path}/print");
        await visitor.Send("#start");
        await visitor.WaitFor($"{path}/print", p => p.QuerySelectorAll(".take-track").Length == 9, "it is printed");
        return path;
    }

    private static AngleSharp.Dom.IElement Row(Visitor visitor, string name) => visitor.Page.QuerySelector($".take-track[data-name='{name}']")!;

    /// <summary>Mends by hand, waits until the take is proved with it, and keeps it.</summary>
    private static async Task ByHand(Visitor visitor, string path, string mend, Dictionary<string, string> fields, bool prove = true)
    {
        await visitor.Get($"{path}/proof");
        await visitor.Send("form:has([name='mend'])", new Dictionary<string, string>(fields) { ["mend"] = mend });
        if (prove)
        {
            await visitor.WaitFor($"{path}/proof", p => p.QuerySelector("#proof-job") is null && p.QuerySelector("#verdict") is not null && p.QuerySelector("#trial") is not null, "the take is proved");
            await visitor.Send("form:has(#keep-mend)");
        }
    }

    private static async Task Proved(Visitor visitor, string path, string form)
    {
        await visitor.Get($"{path}/proof");
        await visitor.Send(form);
        await visitor.WaitFor($"{path}/proof", p => p.QuerySelector("#proof-job") is null && p.QuerySelector("#verdict") is not null, "the take is proved");
    }

    private async Task<float[]> Audio(Visitor visitor, string address)
    {
        var file = Path.Combine(_folder, Guid.NewGuid().ToString("N"));
        await File.WriteAllBytesAsync(file, await visitor.Bytes(address));
        return Samples(file);
    }

    private string Unpacked(ZipArchive zip, string name)
    {
        var file = Path.Combine(_folder, Guid.NewGuid().ToString("N"));
        zip.GetEntry(name)!.ExtractToFile(file);
        return file;
    }

    private static float[] Samples(string file)
    {
        using var wave = WaveReader.Open(file).Value!;
        var samples = new float[wave.Frames.Count];
        new MonoReader(wave, 0).Read(0, samples);
        return samples;
    }
}
