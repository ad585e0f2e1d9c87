using GateSplit.Core.Charts;
using GateSplit.Core.Templates;
using GateSplit.Tests.Shared;
using Npgsql;

namespace GateSplit.Data.Tests;

/// <summary>What is owned, in the database: kept once, by whoever saw it last, and taken back.</summary>
public sealed class GearStoreTests : IAsyncLifetime
{
    private readonly TestDatabase _database = new();
    private NpgsqlDataSource _source = null!;
    private GearStore _gear = null!;

    public ValueTask InitializeAsync()
    {
        Migrator.Run(_database.ConnectionString);
        _source = Database.Open(_database.ConnectionString);
        _gear = new GearStore(_source);
        return ValueTask.CompletedTask;
    }

    public async ValueTask DisposeAsync()
    {
        await _source.DisposeAsync();
        await _database.DisposeAsync();
    }

    [Fact]
    public async Task Of_two_that_keep_what_they_both_saw_one_is_kept()
    {
        Assert.Equal((0, null), ((await _gear.Load()).Revision, (await _gear.Load()).LastChange));
        var kept = await Task.WhenAll(Enumerable.Range(0, 8).Select(i => _gear.Save(Gear.None with { Pattern = $"{i} {{nn}}" }, 0, $"Change {i}")));
        Assert.Single(kept, k => k);
        var now = await _gear.Load();
        Assert.Equal(($"{Array.IndexOf(kept, true)} {{nn}}", 1, $"Change {Array.IndexOf(kept, true)}"), (now.Gear.Value!.Pattern, now.Revision, now.LastChange));
        Assert.False(await _gear.Save(Gear.None, 2, "Too far"));
        Assert.False(await _gear.Undo(0));
        Assert.Equal(now.Gear.Value.Pattern, (await _gear.Load()).Gear.Value!.Pattern);
    }

    [Fact]
    public async Task Changes_are_taken_back_one_by_one_as_far_as_they_are_remembered()
    {
        var gear = Gear.None.Add(SiskinMono.Chart).Value!;
        for (var i = 0; i < GearStore.MostUndo + 3; i++)
        {
            Assert.True(await _gear.Save(gear with { Pattern = $"{i} {{nn}}" }, i, $"Change {i}"));
        }

        var revision = GearStore.MostUndo + 3;
        for (var i = 0; i < GearStore.MostUndo; i++)
        {
            Assert.Equal($"Change {GearStore.MostUndo + 2 - i}", (await _gear.Load()).LastChange);
            Assert.True(await _gear.Undo(revision++));
        }

        // What lies further back is forgotten.
        var oldest = await _gear.Load();
        Assert.Equal(("2 {nn}", null, revision), (oldest.Gear.Value!.Pattern, oldest.LastChange, oldest.Revision));
        Assert.Equal(["Siskin Mono"], oldest.Gear.Value.Kept.Units.Select(u => u.Name));
        Assert.False(await _gear.Undo(revision));

        // On it goes from there.
        Assert.True(await _gear.Save(gear with { Pattern = "{nn}" }, revision, "Anew"));
        Assert.Equal("Anew", (await _gear.Load()).LastChange);
        Assert.True(await _gear.Undo(revision + 1));
        Assert.Equal("2 {nn}", (await _gear.Load()).Gear.Value!.Pattern);
    }
}
