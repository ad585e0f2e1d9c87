using Dapper;
using GateSplit.Core.Demo;
using GateSplit.Core.Notes;
using GateSplit.Core.Splits;
using GateSplit.Tests.Shared;
using Npgsql;

namespace GateSplit.Data.Tests;

/// <summary>Old edits are thinned by a rule that is told, and what somebody may still need stays.</summary>
public sealed class HistoryTests : IAsyncLifetime
{
    private readonly TestDatabase _database = new();
    private NpgsqlDataSource _source = null!;
    private SessionStore _sessions = null!;

    public ValueTask InitializeAsync()
    {
        Migrator.Run(_database.ConnectionString);
        _source = Database.Open(_database.ConnectionString);
        _sessions = new SessionStore(_source);
        return ValueTask.CompletedTask;
    }

    public async ValueTask DisposeAsync()
    {
        await _source.DisposeAsync();
        await _database.DisposeAsync();
    }

    [Fact]
    public void Up_to_the_limit_nothing_goes_and_from_there_on_every_tenth_stays()
    {
        static List<HistoryRule.Row> Line(int count) => [.. Enumerable.Range(1, count).Select(n => new HistoryRule.Row(n, n == 1 ? null : n - 1, 1, false))];
        Assert.Empty(HistoryRule.Thin(Line(HistoryRule.Whole), HistoryRule.Whole).Gone);

        // 500 whole, and before them 1, 11, 21 ... 91; 92 to 100 go, and 101 stands for them, too.
        var (gone, changed) = HistoryRule.Thin(Line(600), 600);
        Assert.Equal(Enumerable.Range(1, 100).Where(n => n % 10 != 1), gone);
        Assert.Equal((101, 91, 10), (changed[^1].Number, changed[^1].Parent, changed[^1].Steps));
        Assert.Equal((11, 1, 10), (changed[0].Number, changed[0].Parent, changed[0].Steps));

        // Thinned once more, nothing goes: what stays is of tens of numbers, not of tens of what is left.
        var rest = Line(600).Where(r => !gone.Contains(r.Number)).Select(r => changed.SingleOrDefault(c => c.Number == r.Number) ?? r).ToList();
        Assert.Empty(HistoryRule.Thin(rest, 600).Gone);

        // What is needed stays and shares the way; what was undone long ago goes, unless it has a name.
        var rows = Line(600);
        rows[44] = rows[44] with { IsNeeded = true };
        rows.Add(new HistoryRule.Row(50_000, 599, 1, false)); // made lately and undone
        rows[69] = rows[69] with { Parent = 60 }; // 61 to 69 were undone before 70 was made
        rows[64] = rows[64] with { IsNeeded = true };
        (gone, changed) = HistoryRule.Thin(rows, 600);
        Assert.DoesNotContain(45, gone);
        Assert.DoesNotContain(65, gone);
        Assert.DoesNotContain(50_000, gone);
        Assert.Contains(64, gone);
        Assert.Equal((41, 4), (changed.Single(c => c.Number == 45).Parent, changed.Single(c => c.Number == 45).Steps));
        Assert.NotEqual(64, changed.Single(c => c.Number == 65).Parent);
    }

    [Fact]
    public async Task Thinned_again_and_again_it_can_be_undone_to_the_first_edit_and_counts_them_all()
    {
        const int edits = 620;
        var lamp = LampLit.Session;
        var id = await _sessions.Create("Long", MidiWriter.Write(lamp.Song), lamp.Split);
        Split At(int number) => lamp.Split with { Pass = lamp.Split.Pass with { LengthBars = number } };
        for (var number = 2; number <= edits; number++)
        {
            Assert.Equal(number, await _sessions.Save(id, number - 1, At(number), $"Make it {number} bars"));
            if (number == 37)
            {
                Assert.True(await _sessions.NameRevision(id, 37, "As on the demo"));
            }

            if (number == 44)
            {
                await using var connection = await _source.OpenConnectionAsync(TestContext.Current.CancellationToken);
                await connection.ExecuteAsync("insert into takes (session_id, number, kind, revision) values (@id, 1, 'print', 44)", new { id });
            }
        }

        var history = await _sessions.History(id, 10_000);
        Assert.InRange(history.Count, HistoryRule.Whole, HistoryRule.Whole + 70);
        Assert.Equal("As on the demo", history.Single(r => r.Number == 37).Name);
        Assert.Contains(history, r => r.Number == 44);
        Assert.Contains(history, r => r.Number == 1);
        await using (var connection = await _source.OpenConnectionAsync(TestContext.Current.CancellationToken))
        {
            Assert.Equal(edits, await connection.ExecuteScalarAsync<long>("select sum(steps) from split_revisions where session_id = @id", new { id }));
        }

        // Each of them can still be gone back to, and is what it was; and all is done again.
        var head = (await _sessions.Head(id))!;
        Assert.Equal($"Make it {edits} bars", head.Undo);
        Assert.Contains(history, r => r.Edit.EndsWith("and 9 edits before it", StringComparison.Ordinal));
        Assert.True(await _sessions.GoBack(id, edits, 37));
        Assert.Equal(SplitJson.Write(At(37)), SplitJson.Write((await _sessions.Load(id))!.Split));
        var back = 37;
        while (await _sessions.Undo(id, back))
        {
            back = (await _sessions.Head(id))!.Revision;
        }

        Assert.Equal(1, back);
        while (await _sessions.Redo(id, back))
        {
            back = (await _sessions.Head(id))!.Revision;
        }

        Assert.Equal(edits, back);
        Assert.False(await _sessions.NameRevision(id, 2, "gone"));
    }

    [Fact]
    public async Task Going_back_is_done_whole_or_not_at_all()
    {
        var lamp = LampLit.Session;
        var id = await _sessions.Create("Back", MidiWriter.Write(lamp.Song), lamp.Split);
        for (var number = 2; number <= 40; number++)
        {
            Assert.NotNull(await _sessions.Save(id, number - 1, lamp.Split, $"edit {number}"));
        }

        // Twenty who go back at once to different places: one of them does, and from where it went all can be made again.
        var went = await Task.WhenAll(Enumerable.Range(1, 20).Select(i => Task.Run(() => _sessions.GoBack(id, 40, i))));
        Assert.Single(went, w => w);
        var at = (await _sessions.Head(id))!.Revision;
        while (await _sessions.Redo(id, at))
        {
            at = (await _sessions.Head(id))!.Revision;
        }

        Assert.Equal(40, at);
    }
}
