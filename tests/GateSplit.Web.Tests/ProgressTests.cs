using System.Text.RegularExpressions;
using GateSplit.Core.Handoff;
using GateSplit.Data;
using GateSplit.Tests.Shared;
using GateSplit.Web.Endpoints;

namespace GateSplit.Web.Tests;

public sealed partial class ProgressTests(DemoApp demo)
{
    [Theory]
    [InlineData(JobState.Queued, 0, null, "Waiting for its turn")]
    [InlineData(JobState.Running, 0.01, 1.0, "Printing, 1 %")]
    [InlineData(JobState.Running, 0.25, 10.0, "Printing, 25 %, 0:30 left")]
    [InlineData(JobState.Done, 1, 10.0, "Done")]
    public void A_job_is_told_in_words_with_its_time_left(string state, double share, double? seconds, string sentence) =>
        Assert.Equal(sentence, JobEndpoints.Sentence(new Job { Kind = TakeKind.Print, State = state, Share = share, Seconds = seconds }));

    [Fact]
    public async Task Progress_is_pushed_until_the_end_and_rises()
    {
        using var visitor = new Visitor(demo.App);
        await visitor.Get("/");
        await visitor.Send("#new-name", new Dictionary<string, string> { ["name"] = "Pushed", ["charts"] = "ostler-kit-room", ["bars"] = "60" });
        await visitor.Get(visitor.Page.Location.PathName.Replace("/split", "/print"));
        await visitor.Send("#start");
        var address = visitor.Page.QuerySelector("#status")!.GetAttribute("data-events")!;
        using var reply = await demo.App.Http.GetAsync(new Uri(address, UriKind.Relative), HttpCompletionOption.ResponseHeadersRead);
        Assert.Equal("text/event-stream", reply.Content.Headers.ContentType!.MediaType);
        using var lines = new StreamReader(await reply.Content.ReadAsStreamAsync());
        var shares = new List<double>();
        var ended = false;
        while (!ended && await lines.ReadLineAsync() is { } line)
        {
            ended = line == "event: end";
            if (line.StartsWith("data: {\"id\":\"job-line-", StringComparison.Ordinal) && Share().Match(line) is { Success: true } share)
            {
                shares.Add(double.Parse(share.Groups["share"].Value));
            }
        }

        Assert.True(ended);
        Assert.NotEmpty(shares);
        Assert.Equal(shares.Order(), shares);
    }

    [GeneratedRegex("value=.{1,8}?(?<share>[0-9.]+)", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex Share();

    [Fact]
    public async Task A_session_is_exported_as_the_command_line_reads_it()
    {
        using var visitor = new Visitor(demo.App);
        var opened = SessionFile.Read(await visitor.Bytes("/sessions/2/session.json"));
        Assert.Equal("Fog Signal", opened.Value!.File.Name);
        Assert.Equal(16, opened.Value.Song.Bars);
    }
}
