using Dapper;
using GateSplit.Core.Demo;
using GateSplit.Core.Templates;
using GateSplit.Tests.Shared;
using Npgsql;

namespace GateSplit.Data.Tests;

/// <summary>Templates, their versions, and ticks of setup sheets in the database.</summary>
public sealed class TemplateStoreTests : IAsyncLifetime
{
    private readonly TestDatabase _database = new();
    private NpgsqlDataSource _source = null!;
    private TemplateStore _templates = null!;

    public ValueTask InitializeAsync()
    {
        Migrator.Run(_database.ConnectionString);
        _source = Database.Open(_database.ConnectionString);
        _templates = new TemplateStore(_source);
        return ValueTask.CompletedTask;
    }

    public async ValueTask DisposeAsync()
    {
        await _source.DisposeAsync();
        await _database.DisposeAsync();
    }

    [Fact]
    public async Task The_first_and_the_newest_versions_stay()
    {
        var template = Made("Many");
        KeptTemplate last = null!;
        for (var i = 0; i < TemplateStore.MostVersions + 3; i++)
        {
            last = (await _templates.Keep(template)).Value!;
        }

        Assert.Equal(TemplateStore.MostVersions + 3, last.Version);
        var numbers = (await _templates.Versions(last.Id)).Select(v => v.Version).ToList();
        Assert.Equal([.. Enumerable.Range(5, TemplateStore.MostVersions - 1).Reverse(), 1], numbers);
        Assert.True((await _templates.Find(last.Id, 1))!.Value.Ok);
        Assert.Null(await _templates.Find(last.Id, 2));
        Assert.Equal(TemplateStore.MostVersions, Assert.Single(await _templates.List()).Versions);
    }

    [Fact]
    public async Task Two_who_keep_one_name_at_the_same_time_make_two_versions_of_one_template()
    {
        var kept = await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => _templates.Keep(Made("Same"))));
        Assert.Single(kept.Select(k => k.Value!.Id).Distinct());
        Assert.Equal(Enumerable.Range(1, 8), kept.Select(k => k.Value!.Version).Order());
    }

    [Fact]
    public async Task One_that_cannot_be_read_is_told_and_a_name_is_taken_once()
    {
        var one = (await _templates.Keep(Made("One"))).Value!;
        var two = (await _templates.Keep(Made("Two"))).Value!;
        Assert.StartsWith("There is a template oNE already", await _templates.Rename(two.Id, "oNE"));
        Assert.Null(await _templates.Rename(two.Id, "TWO"));
        Assert.Equal("TWO", (await _templates.Find(two.Id))!.Value.Value!.Name);

        // Deleted, its name is free; taken back, both are there.
        await _templates.Delete(one.Id);
        Assert.Null(await _templates.Find(one.Id));
        Assert.NotEqual(one.Id, (await _templates.Keep(Made("One"))).Value!.Id);
        await _templates.Restore(one.Id);
        Assert.Equal(3, (await _templates.List()).Count);
        Assert.Equal(2, (await _templates.List("one")).Count);
        Assert.Equal((await _templates.List()).Skip(1).Take(1), await _templates.List("", from: 1, most: 1));
        await _templates.Delete(two.Id);
        await _templates.Empty();
        Assert.Empty(await _templates.Deleted());

        await using var connection = await _source.OpenConnectionAsync();
        await connection.ExecuteAsync("update template_versions set document = '{}'");
        Assert.Equal("This is no template.", (await _templates.Find(one.Id))!.Value.Trouble);
        Assert.Equal(2, (await _templates.List()).Count);
    }

    [Fact]
    public async Task Ticks_go_with_their_session_and_links_lead_to_it()
    {
        var sessions = new SessionStore(_source);
        var setups = new SetupStore(_source);
        var id = await sessions.Create("Ticked", [], DemoSessions.All[1].Split);
        Assert.True(await setups.Tick(id, ["a", "b", "b"], []));
        Assert.True(await setups.Tick(id, ["c"], ["a"]));
        Assert.Equal(["b", "c"], (await setups.Ticked(id)).Order());
        Assert.False(await setups.Tick(id + 1, ["a"], []));
        Assert.Null(await setups.Link(id));
        await setups.OpenLink(id);
        var token = await setups.Link(id);
        await setups.OpenLink(id);
        Assert.Equal(token, await setups.Link(id));
        Assert.Equal(id, await setups.Find(token!));
        await using var connection = await _source.OpenConnectionAsync();
        await connection.ExecuteAsync("delete from sessions where id = @id", new { id });
        Assert.Null(await setups.Find(token!));
        Assert.Empty(await setups.Ticked(id));
    }

    private static Template Made(string name) => TemplateMaker.Whole(name, DemoSessions.All[1].Split, DemoSessions.All[1].Song, withNotes: false).Value!;
}
