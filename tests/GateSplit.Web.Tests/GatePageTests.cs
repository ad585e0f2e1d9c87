using System.Net;
using System.Text;
using GateSplit.Core.Charts;
using GateSplit.Core.Demo;
using GateSplit.Core.Notes;
using GateSplit.Data;
using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

/// <summary>What pages answer to what does not pass: a form with nonsense in it, a page that is no longer current, a row that nobody can read.</summary>
public sealed class GatePageTests
{
    [Fact]
    public async Task Two_windows_on_one_chart_lose_nothing_and_are_told()
    {
        await using var app = await PageApp.Start(demo: false);
        using var one = new Visitor(app);
        using var two = new Visitor(app);
        await one.Get("/shelf/mudlark-nine");
        await one.Send("form[action*='Copy']");
        await one.Get("/shelf/mudlark-nine-copy");
        await two.Get("/shelf/mudlark-nine-copy");
        await one.Send("form[action*='AddElement']", new Dictionary<string, string> { ["name"] = "First" });
        Assert.Equal("", one.Notice);
        await two.Send("form[action*='AddElement']", new Dictionary<string, string> { ["name"] = "Second" });
        Assert.StartsWith(ChartStore.Moved, two.Notice);
        await two.Send(".notice form");
        Assert.Equal("", two.Notice);
        var chart = ChartJson.Read(Encoding.UTF8.GetString(await one.Bytes("/shelf/mudlark-nine-copy?handler=Export"))).Value!;
        Assert.Equal(["First", "Second"], chart.Elements[^2..].Select(e => e.Name));

        // Brought in under an id that is there: both stay, and it is said.
        await one.Get("/shelf");
        await one.Send("input[type='file']", file: ("again.chart.json", Encoding.UTF8.GetBytes(ChartJson.Write(chart))));
        Assert.Contains("There was a chart with the id mudlark-nine-copy already", one.Notice);
        Assert.Contains("mudlark-nine-copy-2", one.Notice);
    }

    [Fact]
    public async Task Nonsense_in_a_form_changes_nothing_and_is_told()
    {
        await using var app = await PageApp.Start(demo: false);
        using var visitor = new Visitor(app);
        var path = await visitor.NewSession("Gate", "mudlark-nine") + "/split";
        await visitor.Get(path + "?line=element:u1/kick");
        foreach (var (form, fields, sentence) in new[]
        {
            ("form:has(input[name='edit'][value='fader'])", new Dictionary<string, string> { ["value"] = "5000" }, "A fader goes from -120 to +12 dB."),
            ("form:has(input[name='edit'][value='fader'])", new() { ["value"] = "NaN" }, "The fader needs a number."),
            ("form:has(input[name='edit'][value='mute'])", new() { ["on"] = "abc" }, "The field on is either true or false."),
            ("form:has(input[name='edit'][value='pan'])", new() { ["value"] = "5000" }, "Pan goes from -1 (left) to 1 (right)."),
        })
        {
            await visitor.Get(path + "?line=element:u1/kick");
            await visitor.Send(form, fields);
            Assert.Equal(sentence, visitor.Notice);
        }

        await visitor.Get(path + "?line=track:t1");
        await visitor.Send("form:has(input[name='edit'][value='monitor'])", new Dictionary<string, string> { ["monitor"] = "99" });
        Assert.Equal("Choose one of the possibilities for the monitoring.", visitor.Notice);
        await visitor.Get(path + "?line=track:t1");
        await visitor.Send("form:has(input[name='edit'][value='input'])", new Dictionary<string, string> { ["input"] = "b-u1:NaN" });
        Assert.Equal("Choose an input.", visitor.Notice);
    }

    [Fact]
    public async Task A_row_that_nobody_can_read_is_told_where_it_stands_and_harms_no_other_page()
    {
        await using var app = await PageApp.Start(demo: false);
        using var visitor = new Visitor(app);
        var good = await visitor.NewSession("Good", "mudlark-nine");
        string bad;
        await using (var database = Database.Open(app.ConnectionString))
        {
            // Not through a page: what was seen once is kept in memory.
            bad = $"/sessions/{await new SessionStore(database).Create("Bad", MidiWriter.Write(LampLit.Session.Song), LampLit.Session.Split)}";
            await using var spoil = database.CreateCommand(
                $"""
                update split_revisions set document = jsonb_set(document, '{"{tracks,0,pan}"}', '50') where session_id = {bad.Split('/')[2]};
                insert into charts (id, document, format) values ('strange', '{"{}"}', 2);
                """);
            await spoil.ExecuteNonQueryAsync();
        }

        await visitor.Get("/");
        Assert.Contains("The session Bad cannot be read", visitor.Text);
        Assert.Contains("split.tracks[0].pan: Pan goes from -1 (left) to 1 (right).", visitor.Text);
        await visitor.Get(good + "/split");
        Assert.Equal(HttpStatusCode.OK, visitor.Status);
        await visitor.Get(bad + "/split");
        Assert.Equal(HttpStatusCode.InternalServerError, visitor.Status);
        Assert.Contains("The session Bad cannot be read", visitor.Text);
        await visitor.Get("/shelf");
        Assert.Equal(HttpStatusCode.OK, visitor.Status);
        Assert.Contains("The chart strange on the shelf cannot be read.", visitor.Text);
        await visitor.Get(good + "/sources");
        Assert.Equal(HttpStatusCode.OK, visitor.Status);
    }
}
