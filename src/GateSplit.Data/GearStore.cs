using Dapper;
using GateSplit.Core;
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

    /// <summary>The gear, and its revision: 0 if nothing was ever kept.</summary>
    /// <returns>The gear, or why it cannot be read.</returns>
    public async Task<(Result<Gear> Gear, int Revision)> Load()
    {
        await using var connection = await database.OpenConnectionAsync();
        var row = await connection.QuerySingleOrDefaultAsync<(int Revision, int Format, string Document)?>("select revision, format, document::text from gear");
        return row is { } kept ? (Gear.Read(kept.Document, kept.Format), kept.Revision) : (Gear.None, 0);
    }

    /// <summary>Keeps it, if it is still as it was.</summary>
    /// <param name="gear">The gear.</param>
    /// <param name="expected">The revision it was made from.</param>
    /// <returns>False if it was changed meanwhile, and nothing was kept.</returns>
    public async Task<bool> Save(Gear gear, int expected)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteAsync(
            """
            insert into gear (revision, format, document) select 1, @format, @document::jsonb where @expected = 0
            on conflict do nothing
            """,
            new { expected, format = SplitVersions.Current, document = gear.ToJson() }) > 0
            || await connection.ExecuteAsync(
                "update gear set revision = revision + 1, format = @format, document = @document::jsonb where revision = @expected",
                new { expected, format = SplitVersions.Current, document = gear.ToJson() }) > 0;
    }
}
