using System.Net;
using GateSplit.Core.Demo;
using GateSplit.Core.Notes;
using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

public sealed class PageTests(DemoApp demo)
{
    public static TheoryData<string> Pages =>
        ["/", "/shelf", "/shelf/tansy-grid", "/sessions/2/sources", "/sessions/2/recorder", "/sessions/3/recorder", "/sessions/3/split", "/sessions/2/lay?anew=true&pan=true", "/sessions/1/line-check?walk=true", "/sessions/2/line-check", "/sessions/1/ride?of=u1%2Fhat&control=Filter", "/sessions/1/print?show=chosen", "/sessions/1/print?line=t3", "/sessions/1/split", "/sessions/2/split", "/sessions/2/split?line=element%3Au1%2Fclap&all=true", "/sessions/2/split?line=track%3At3", "/sessions/1/print", "/sessions/1/handoff"];

    [Theory]
    [MemberData(nameof(Pages))]
    public async Task No_page_has_anything_inline(string path)
    {
        using var visitor = new Visitor(demo.App);
        var page = await visitor.Get(path);
        Assert.DoesNotContain(page.QuerySelectorAll("script"), s => s.GetAttribute("src") is null);
        Assert.Empty(page.QuerySelectorAll("style, [style]"));
        Assert.DoesNotContain(page.All, e => e.Attributes.Any(a => a.Name.StartsWith("on", StringComparison.Ordinal)));
        Assert.DoesNotContain(page.QuerySelectorAll("[src], link[href]"), e => (e.GetAttribute("src") ?? e.GetAttribute("href"))!.Contains("//"));

        // Ids name one thing each.
        Assert.Equal(page.QuerySelectorAll("[id]").Length, page.QuerySelectorAll("[id]").Select(e => e.Id).Distinct().Count());
    }

    [Fact]
    public async Task Replies_carry_a_policy_that_forbids_inline_script()
    {
        using var reply = await demo.App.Http.GetAsync(new Uri("/", UriKind.Relative));
        var policy = reply.Headers.GetValues("Content-Security-Policy").Single();
        Assert.StartsWith("default-src 'self'", policy);
        Assert.DoesNotContain("unsafe", policy);
    }

    [Theory]
    [InlineData("/sessions/2/split?handler=Edit")]
    [InlineData("/sessions/2/print?handler=Start")]
    [InlineData("/?handler=Delete")]
    [InlineData("/jobs/1/stop")]
    public async Task A_post_without_its_token_is_refused(string path)
    {
        using var content = new FormUrlEncodedContent([new("id", "1"), new("revision", "1")]);
        using var reply = await demo.App.Http.PostAsync(new Uri(path, UriKind.Relative), content);
        Assert.Equal(HttpStatusCode.BadRequest, reply.StatusCode);
    }

    [Fact]
    public async Task An_upload_without_its_token_is_refused()
    {
        using var content = new MultipartFormDataContent { { new ByteArrayContent([1]), "recording", "x.wav" } };
        using var reply = await demo.App.Http.PostAsync(new Uri("/sessions/1/bring-in/files?token=forged", UriKind.Relative), content);
        Assert.Equal("/sessions/1/print", reply.RequestMessage!.RequestUri!.PathAndQuery);
        Assert.Contains("The page is too old. Load it again and choose the files once more.", await reply.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task Another_host_name_is_refused()
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, "/");
        request.Headers.Host = "evil.example";
        using var reply = await demo.App.Http.SendAsync(request);
        Assert.Equal(HttpStatusCode.BadRequest, reply.StatusCode);
    }

    [Theory]
    [InlineData("/sessions/999/split")]
    [InlineData("/audio/../../etc/passwd")]
    [InlineData("/audio/ffff")]
    [InlineData("/handoffs/999.zip")]
    public async Task What_is_not_there_is_a_page_that_says_so(string path)
    {
        using var visitor = new Visitor(demo.App);
        await visitor.Get(path);
        Assert.Equal(HttpStatusCode.NotFound, visitor.Status);
        Assert.Contains("This is not here", visitor.Text);
    }

    [Fact]
    public async Task Health_is_told()
    {
        Assert.Equal("Healthy", await demo.App.Http.GetStringAsync(new Uri("/health/live", UriKind.Relative)));
        Assert.Equal("Healthy", await demo.App.Http.GetStringAsync(new Uri("/health/ready", UriKind.Relative)));
    }

    [Fact]
    public async Task A_session_is_made_renamed_edited_and_deleted_without_script()
    {
        using var visitor = new Visitor(demo.App);
        await visitor.Get("/");
        var midi = MidiWriter.Write(DemoSessions.All[1].Song);
        await visitor.Send("#new-name", new Dictionary<string, string> { ["name"] = "Harbour Bell", ["charts"] = "mudlark-nine", ["bars"] = "4" }, ("fog.mid", midi));
        Assert.Equal("Harbour Bell", visitor.Page.QuerySelector(".session-name")!.TextContent);
        Assert.Equal(8, visitor.Page.QuerySelectorAll(".drawing a.track").Length); // every voice of the song but the rim
        await visitor.Send(".finding form:has(input[value^='Settings'])"); // what is to be set on the machine is set
        Assert.Contains("Nothing to mend", visitor.Text);
        var id = visitor.Page.Location.PathName.Split('/')[2];

        var arm = visitor.Page.QuerySelector("#lines button[aria-label='armed: Snare']")!;
        await visitor.Send($"#{arm.Id}");
        Assert.Contains("Snare is not armed", visitor.Text);
        await visitor.Send("#undo");
        Assert.Contains("Nothing to mend", visitor.Text);

        await visitor.Get("/");
        await visitor.Send($"#name-{id}", new Dictionary<string, string> { ["name"] = "Harbour Bells" });
        Assert.Contains("Harbour Bells", visitor.Text);
        await visitor.Send($"form[action*='Delete']:has(input[value='{id}'])");
        Assert.DoesNotContain("Harbour Bells", visitor.Text);
    }

    [Theory]
    [InlineData("a\u0007bell", "mudlark-nine", "", "needs a name")]
    [InlineData("x", "", "", "at least one source")]
    [InlineData("x", "mudlark-nine", "fast", "10 to 400")]
    public async Task A_session_that_cannot_be_made_is_told(string name, string chart, string tempo, string words)
    {
        using var visitor = new Visitor(demo.App);
        await visitor.Get("/");
        var fields = new Dictionary<string, string> { ["name"] = name, ["tempo"] = tempo };
        if (chart.Length > 0)
        {
            fields["charts"] = chart;
        }

        await visitor.Send("#new-name", fields);
        Assert.Contains(words, visitor.Notice);
    }

    [Fact]
    public async Task A_midi_file_cut_in_half_is_told_with_its_byte()
    {
        using var visitor = new Visitor(demo.App);
        await visitor.Get("/");
        var midi = MidiWriter.Write(DemoSessions.All[1].Song);
        await visitor.Send("#new-name", new Dictionary<string, string> { ["name"] = "x", ["charts"] = "mudlark-nine" }, ("half.mid", midi[..(midi.Length / 2)]));
        Assert.Contains($"half.mid: The MIDI file is cut off", visitor.Notice);
        Assert.Contains($"byte {midi.Length / 2}", visitor.Notice);
    }

    [Fact]
    public async Task Of_two_windows_the_later_edit_is_refused_and_the_current_state_is_shown()
    {
        using var one = new Visitor(demo.App);
        using var two = new Visitor(demo.App);
        await one.Get("/");
        await one.Send("#new-name", new Dictionary<string, string> { ["name"] = "Two windows", ["charts"] = "ostler-kit-room" });
        var path = one.Page.Location.PathName;
        await two.Get(path);
        await one.Send("#lines button[aria-label='armed: Hat']");
        await two.Send("#lines button[aria-label='armed: Ride']");
        Assert.Contains("changed in another window", two.Notice);
        Assert.Contains("Hat is not armed", two.Text);
        Assert.DoesNotContain("Ride is not armed", two.Text);
        Assert.Contains("Meanwhile: Disarm Hat.", two.Notice);
        await two.Send(".notice form"); // Do it again on top
        Assert.Contains("Ride is not armed", two.Text);
        Assert.Contains("Hat is not armed", two.Text);
    }
}
