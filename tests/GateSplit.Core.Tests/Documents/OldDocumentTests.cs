using System.Text;
using System.Text.Json.Nodes;
using GateSplit.Core.Charts;
using GateSplit.Core.Handoff;
using GateSplit.Core.Splits;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Documents;

/// <summary>Documents of every version there was are read as documents of the present one.</summary>
public sealed class OldDocumentTests
{
    public static TheoryData<int> Versions => [.. Fixtures.Versions];

    [Theory]
    [MemberData(nameof(Versions))]
    public void Sessions_and_charts_of_a_version_are_read_and_written_anew(int version)
    {
        Assert.All(Fixtures.Files(version, ".session.json"), path =>
        {
            var opened = SessionFile.Read(File.ReadAllBytes(path));
            Assert.True(opened.Ok, $"{path}: {opened.Trouble}");
            Assert.Equal(SplitVersions.Current, opened.Value.File.Version);
            var again = SessionFile.Read(opened.Value.File.ToJson());
            Assert.Equal(SplitJson.Write(opened.Value.File.Split), SplitJson.Write(again.Value!.File.Split));
        });
        Assert.All(Fixtures.Files(version, ".chart.json"), path =>
        {
            var read = ChartJson.Read(File.ReadAllText(path));
            Assert.True(read.Ok, $"{path}: {read.Trouble}");
            Assert.Equal(ChartJson.Write(read.Value), ChartJson.Write(ChartJson.Read(ChartJson.Write(read.Value)).Value!));
        });
    }

    [Fact]
    public void A_version_that_nobody_knows_is_refused()
    {
        foreach (var version in new[] { -1, 0, SplitVersions.Current + 1 })
        {
            var refused = SplitVersions.Read("{}", version);
            Assert.Equal($"The split has version {version} of the format; {SplitVersions.Current} is the newest that is read here.", refused.Trouble);
        }
    }

    [Fact]
    public void What_version_1_could_keep_and_the_present_one_cannot_is_mended()
    {
        var file = Session("fog-signal");
        var split = file["split"]!;
        split["tracks"]![0]!["monitor"] = 99;
        split["tracks"]![1]!["monitor"] = 2;
        split["tracks"]![2]!["input"] = JsonNode.Parse("""{"bankId":"b-u1","channel":13}""");
        split["tracks"]![3]!["input"] = JsonNode.Parse("""{"bankId":"b-u1","channel":12}""");
        split["units"]![0]!["clock"] = 1;
        split["banks"]![0]!["off"] = JsonNode.Parse("[1,12,13]");
        split["accepted"] = JsonNode.Parse("""[{"key":"Room@pass","sentence":"It is large.","why":"Meant."},{"key":"RoomX@pass","sentence":"S.","why":"W"}]""");
        split["units"]![0]!["chart"]!["voices"]![0]!["drum"]!["bodyHz"] = 1e308;
        split["units"]![0]!["chart"]!["voices"]![0]!["drum"]!["bodyLevel"] = -3;
        var read = Read(file);
        Assert.Equal([MonitorMode.Never, MonitorMode.Always], read.Tracks[..2].Select(t => t.Monitor));
        Assert.Null(read.Tracks[2].Input);
        Assert.Equal(12, read.Tracks[3].Input!.Channel);
        Assert.Equal(ClockMode.Leads, read.Units[0].Clock);
        Assert.Equal([1, 12], read.Banks[0].Off);
        Assert.Equal(["DiskSpace@pass", "RoomX@pass"], read.Accepted.Select(a => a.Key));
        Assert.Equal((22000.0, 0.0), (read.Units[0].Chart.Voices[0].Drum!.BodyHz, read.Units[0].Chart.Voices[0].Drum!.BodyLevel));
    }

    [Theory]
    [InlineData("tracks")]
    [InlineData("pass")]
    [InlineData("units")]
    public void What_a_document_must_have_is_asked_for(string part)
    {
        var file = Session("fog-signal");
        file["version"] = SplitVersions.Current;
        file["split"]!.AsObject().Remove(part);
        Assert.Contains(part, SessionFile.Read(Encoding.UTF8.GetBytes(file.ToJsonString())).Trouble, StringComparison.Ordinal);
    }

    [Fact]
    public void A_pair_that_stuck_out_of_its_row_is_taken_off()
    {
        var file = Session("lamp-lit");
        var stereo = file["split"]!["tracks"]!.AsArray().First(t => t!["width"]!.GetValue<string>() == "stereo")!;
        var bank = file["split"]!["banks"]!.AsArray().First(b => b!["id"]!.GetValue<string>() == stereo["input"]!["bankId"]!.GetValue<string>())!;
        stereo["input"]!["channel"] = bank["count"]!.GetValue<int>();
        Assert.Null(Read(file).Tracks.First(t => t.Width == Width.Stereo).Input);
        stereo["input"] = new JsonObject { ["bankId"] = bank["id"]!.DeepClone(), ["channel"] = bank["count"]!.GetValue<int>() - 1 };
        Assert.Equal(bank["count"]!.GetValue<int>() - 1, Read(file).Tracks.First(t => t.Width == Width.Stereo).Input!.Channel); // the last pair
        file["version"] = SplitVersions.Current; // of the present version it was never sound
        stereo["input"] = new JsonObject { ["bankId"] = bank["id"]!.DeepClone(), ["channel"] = bank["count"]!.DeepClone() };
        Assert.Contains("listens to a row of inputs, or to inputs of it", SessionFile.Read(Encoding.UTF8.GetBytes(file.ToJsonString())).Trouble);
    }

    private static JsonNode Session(string name) => JsonNode.Parse(File.ReadAllText(Assert.Single(Fixtures.Files(1, $"{name}.session.json"))))!;

    private static Split Read(JsonNode file)
    {
        var opened = SessionFile.Read(Encoding.UTF8.GetBytes(file.ToJsonString()));
        Assert.True(opened.Ok, opened.Trouble);
        return opened.Value.File.Split;
    }
}
