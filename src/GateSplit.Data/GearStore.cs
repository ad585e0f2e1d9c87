using Dapper;
using GateSplit.Core.Splits;
using GateSplit.Core.Templates;
using Npgsql;

namespace GateSplit.Data;

/// <summary>What the person at this program owns.</summary>
/// <param name="database">The database.</param>
public sealed class GearStore(NpgsqlDataSource database)
{
    /// <summary>What is said of a change of what is no longer as the page showed it.</summary>
    public const string Moved = "Your gear was changed in another window meanwhile, so nothing was done. What you see now is how it is.";

    /// <summary>The most changes that can be taken back, one after the other.</summary>
    public const int MostUndo = 50;

    /// <summary>The gear as it is kept.</summary>
    public async Task<KeptGear> Load()
    {
        await using var connection = await database.OpenConnectionAsync();
        var last = await connection.QuerySingleOrDefaultAsync<string?>("select change from gear_undo order by revision desc limit 1");
        return await connection.QuerySingleOrDefaultAsync<Row?>("select revision, format, document::text as document, pattern from gear") is { } kept
            ? new KeptGear(Gear.Read(kept.Document, kept.Format, kept.Pattern), kept.Revision, last)
            : new KeptGear(Gear.None, 0, last);
    }

    /// <summary>Keeps it, if it is still as it was.</summary>
    /// <param name="gear">The gear.</param>
    /// <param name="expected">The revision it was made from.</param>
    /// <param name="change">What was done to it.</param>
    /// <returns>False if it was changed meanwhile, and nothing was kept.</returns>
    public async Task<bool> Save(Gear gear, int expected, string change)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        await connection.ExecuteAsync(
            "insert into gear (revision, format, document, pattern) select 0, @format, @document::jsonb, @pattern where @expected = 0 on conflict do nothing",
            Row.Of(Gear.None, expected),
            transaction);
        if (await connection.ExecuteAsync(
            """
            insert into gear_undo (revision, format, document, pattern, change)
            select revision, format, document, pattern, @change from gear where revision = @expected for update
            """,
            new { expected, change },
            transaction) == 0)
        {
            return false;
        }

        await connection.ExecuteAsync(
            "update gear set revision = revision + 1, format = @format, document = @document::jsonb, pattern = @pattern", Row.Of(gear, expected), transaction);
        await connection.ExecuteAsync("delete from gear_undo where revision < (select revision from gear_undo order by revision desc offset @most limit 1)", new { most = MostUndo - 1 }, transaction);
        await transaction.CommitAsync();
        return true;
    }

    /// <summary>Takes the last change back, if the gear is still as it was.</summary>
    /// <param name="expected">The revision that was seen.</param>
    /// <returns>False if it was changed meanwhile, or nothing is left to take back.</returns>
    public async Task<bool> Undo(int expected)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var undone = await connection.ExecuteAsync(
            """
            update gear set revision = gear.revision + 1, format = u.format, document = u.document, pattern = u.pattern
            from (select * from gear_undo order by revision desc limit 1) u where gear.revision = @expected
            """,
            new { expected },
            transaction);
        if (undone > 0)
        {
            await connection.ExecuteAsync("delete from gear_undo where revision = (select max(revision) from gear_undo)", transaction: transaction);
        }

        await transaction.CommitAsync();
        return undone > 0;
    }

    private sealed record Row(int Revision, int Format, string Document, string Pattern)
    {
        public static object Of(Gear gear, int expected) => new { expected, format = SplitVersions.Current, document = gear.ToJson(), pattern = gear.Pattern };
    }
}
