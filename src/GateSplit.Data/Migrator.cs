using DbUp;
using DbUp.Engine.Output;
using Npgsql;

namespace GateSplit.Data;

/// <summary>Brings a database to the newest shape, script by numbered script.</summary>
public static class Migrator
{
    /// <summary>Runs the scripts that have not run yet, each in a transaction; the database is made if it is missing.</summary>
    /// <param name="connectionString">Of the database.</param>
    /// <exception cref="InvalidOperationException">A script failed; the database is as it was before that script.</exception>
    public static void Run(string connectionString)
    {
        EnsureDatabase.For.PostgresqlDatabase(connectionString, new NoOpUpgradeLog());
        var result = DeployChanges.To
            .PostgresqlDatabase(connectionString)
            .WithScriptsEmbeddedInAssembly(typeof(Migrator).Assembly, name => name.EndsWith(".sql", StringComparison.Ordinal))
            .WithTransactionPerScript()
            .LogTo(new NoOpUpgradeLog())
            .Build()
            .PerformUpgrade();
        if (!result.Successful)
        {
            throw new InvalidOperationException($"The database could not be brought up to date: {result.Error.Message}", result.Error);
        }

        NpgsqlConnection.ClearAllPools();
    }
}
