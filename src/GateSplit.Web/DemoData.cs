using GateSplit.Core.Demo;
using GateSplit.Core.Notes;
using GateSplit.Data;
using GateSplit.Jobs;
using Npgsql;

namespace GateSplit.Web;

/// <summary>The sessions that ship, loaded once into a database that has none.</summary>
public static class DemoData
{
    /// <summary>Loads them, and prints those that ship with a take.</summary>
    public static async Task LoadOnce(IServiceProvider services)
    {
        if (!services.GetRequiredService<ServeOptions>().Demo)
        {
            return;
        }

        var sessions = services.GetRequiredService<SessionStore>();
        if (!await MarkLoaded(services.GetRequiredService<NpgsqlDataSource>()))
        {
            return;
        }

        foreach (var demo in DemoSessions.All)
        {
            var id = await sessions.Create(demo.Name, MidiWriter.Write(demo.Song), demo.Split);
            if (demo.Printed)
            {
                await services.GetRequiredService<JobQueue>().Print(id, new PrintRequest(1, []), [.. Enumerable.Range(1, demo.Split.Passes)]);
            }
        }
    }

    /// <summary>Deleted demo sessions stay deleted: a mark, not an empty list, tells whether they were loaded.</summary>
    private static async Task<bool> MarkLoaded(NpgsqlDataSource database)
    {
        await using var command = database.CreateCommand(
            "insert into marks (name) values ('demo sessions loaded') on conflict do nothing");
        return await command.ExecuteNonQueryAsync() == 1;
    }
}
