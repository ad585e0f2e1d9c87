using Dapper;
using GateSplit.Core.Charts;
using GateSplit.Tests.Shared;
using Npgsql;

namespace GateSplit.Data.Tests;

/// <summary>The shelf under people: several windows, charts that are too large, rows that nobody can read.</summary>
public sealed class ChartStoreTests : IAsyncLifetime
{
    private static readonly Chart Own = MudlarkNine.Chart with { Id = new ChartId("own"), Name = "Own" };

    private readonly TestDatabase _database = new();
    private NpgsqlDataSource _source = null!;
    private ChartStore _charts = null!;

    public ValueTask InitializeAsync()
    {
        Migrator.Run(_database.ConnectionString);
        _source = Database.Open(_database.ConnectionString);
        _charts = new ChartStore(_source);
        return ValueTask.CompletedTask;
    }

    public async ValueTask DisposeAsync()
    {
        await _source.DisposeAsync();
        await _database.DisposeAsync();
    }

    [Fact]
    public async Task Of_changes_that_are_made_at_once_each_is_kept_or_refused()
    {
        Assert.Null(await _charts.Add(Own));
        var told = await Task.WhenAll(Enumerable.Range(0, 30).Select(n => Task.Run(async () =>
        {
            var row = (await _charts.Row(new ChartId("own")))!;
            return await _charts.Change(row.Chart.Value!.AddElement($"Bell {n}"), row.Revision);
        })));
        var kept = told.Count(t => t is null);
        Assert.InRange(kept, 1, 30);
        Assert.All(told.Where(t => t is not null), t => Assert.Equal(ChartStore.Moved, t));
        var after = (await _charts.Row(new ChartId("own")))!;
        Assert.Equal((1 + kept, Own.Elements.Length + kept), (after.Revision, after.Chart.Value!.Elements.Length));
    }

    [Fact]
    public async Task A_chart_is_added_once_and_never_over_one_that_ships()
    {
        Assert.Null(await _charts.Add(Own));
        Assert.Equal("There is a chart with the id own already.", await _charts.Add(Own with { Name = "Another" }));
        Assert.Equal("Own", (await _charts.Find(new ChartId("own")))!.Name);
        Assert.Contains("a chart that ships", await _charts.Add(MudlarkNine.Chart));
        Assert.Contains("a chart that ships", await _charts.Change(MudlarkNine.Chart, 0));
        Assert.Equal(new ChartId("own-2"), await _charts.FreeId(new ChartId("own")));
        Assert.Equal(new ChartId("mudlark-nine-2"), await _charts.FreeId(new ChartId("mudlark-nine")));
        Assert.Equal(new ChartId("fresh"), await _charts.FreeId(new ChartId("fresh")));
    }

    [Fact]
    public async Task What_could_not_be_read_back_is_not_kept()
    {
        Assert.Contains("There is nothing where something belongs", await _charts.Add(Own with { Voices = Own.Voices.Add(null!) }));
        Assert.Contains("control characters", await _charts.Add(Own with { Gist = "a\0b" }));
        var wide = Own.Elements[1] with { Hears = [.. Enumerable.Repeat(new Hearing(Own.Voices[0].Id), ChartRules.MostParts)] };
        var huge = Own with { Elements = [.. Enumerable.Range(0, ChartRules.MostElements).Select(n => wide with { Id = new ElementId($"e{n}") })] };
        Assert.Null(ChartRules.Trouble(huge)); // each rule holds, and it is too long all the same
        Assert.Contains("larger than", await _charts.Add(huge));
        Assert.Contains("too many", await _charts.Add(Own with { Elements = [wide with { Hears = [.. wide.Hears, wide.Hears[0]] }] }));
        Assert.Null(await _charts.Find(new ChartId("own")));
    }

    [Fact]
    public async Task A_row_that_cannot_be_read_is_told_and_harms_no_other()
    {
        Assert.Null(await _charts.Add(Own));
        await using var connection = await _source.OpenConnectionAsync();
        await connection.ExecuteAsync("insert into charts (id, document, format) values ('strange', '{\"format\":\"gate-split-chart\",\"version\":99}', 99)");
        var rows = await _charts.Rows();
        var strange = Assert.Single(rows, r => !r.Chart.Ok);
        Assert.Equal("strange", strange.Id.Value);
        Assert.StartsWith("The chart strange on the shelf cannot be read.", strange.Chart.Trouble);
        Assert.Contains("version 99", strange.Chart.Trouble);
        Assert.Null(await _charts.Find(new ChartId("strange")));
        Assert.Equal(rows.Count - 1, (await _charts.All()).Count);
    }
}
