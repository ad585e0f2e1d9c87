using GateSplit.Core.Demo;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Data;
using GateSplit.Jobs;
using Npgsql;

namespace GateSplit.Web;

/// <summary>The sessions that ship, loaded once into a database that has none.</summary>
public static class DemoData
{
    private static readonly TimeSpan Glance = TimeSpan.FromMilliseconds(300);

    /// <summary>Loads them, if they never were.</summary>
    /// <returns>The sessions that were loaded, whose steps are still to be done.</returns>
    public static async Task<IReadOnlyList<(long Id, DemoSession Session)>> LoadOnce(IServiceProvider services)
    {
        var loaded = new List<(long, DemoSession)>();
        if (!services.GetRequiredService<ServeOptions>().Demo || !await MarkLoaded(services.GetRequiredService<NpgsqlDataSource>()))
        {
            return loaded;
        }

        var sessions = services.GetRequiredService<SessionStore>();
        foreach (var demo in DemoSessions.All)
        {
            loaded.Add((await sessions.Create(demo.Name, MidiWriter.Write(demo.Song), demo.Split), demo));
        }

        return services.GetRequiredService<ServeOptions>().QuickDemo ? loaded[..1] : loaded;
    }

    /// <summary>Does the steps of the sessions that were loaded, in the background; what somebody changes meanwhile stays, and ends the steps of that session.</summary>
    public static async Task Play(IServiceProvider services, IReadOnlyList<(long Id, DemoSession Session)> loaded, CancellationToken cancel)
    {
        foreach (var (id, session) in loaded)
        {
            try
            {
                await Play(services, id, session, cancel);
            }
            catch (Exception e) when (e is OperationCanceledException or IOException or Hangfire.BackgroundJobClientException || Resilient.IsOutage(e))
            {
                return; // the sessions are there, without what was still to be done
            }
        }
    }

    private static async Task Play(IServiceProvider services, long id, DemoSession session, CancellationToken cancel)
    {
        var sessions = services.GetRequiredService<SessionStore>();
        var queue = services.GetRequiredService<JobQueue>();
        var split = session.Split;
        var revision = 1;
        foreach (var step in session.Steps)
        {
            switch (step)
            {
                case DemoEdit { Edit: var edit }:
                    var after = edit.Apply(split).Value!;
                    if (!await sessions.Save(id, revision, after, edit.Name(split)))
                    {
                        return;
                    }

                    split = after;
                    revision = (await sessions.Head(id))!.Revision;
                    break;
                case DemoPrint:
                    await queue.Print(id, new PrintRequest(revision, []), [.. Enumerable.Range(1, split.Passes)]);
                    break;
                case DemoBringIn elsewhere:
                    await queue.BringIn(id, Recorded(services, session, split, elsewhere, cancel));
                    break;
            }

            while ((await services.GetRequiredService<JobStore>().Current(id)).Any(j => j.IsActive))
            {
                await Task.Delay(Glance, cancel);
            }
        }
    }

    /// <summary>Recordings as somebody else would have made them: the same sources, lagging.</summary>
    private static BringInRequest Recorded(IServiceProvider services, DemoSession session, Split split, DemoBringIn elsewhere, CancellationToken cancel)
    {
        var folder = BroughtFolder.Make(services.GetRequiredService<IAudioStore>());
        var late = split with { Units = [.. split.Units.Select(u => u with { Simulated = u.Simulated with { LatencyMs = elsewhere.LateMs } })] };
        var song = Song.Of(session.Song);
        var view = new Core.Checks.SplitView(late, Core.Signal.Sounding.Elements(late, song));
        new StandInRecorder(view, song) { Only = elsewhere.TrackIds.ToHashSet() }
            .Print(t => folder.Incoming(elsewhere.TrackIds.IndexOf(t.Id)), DateTime.Now, cancel: cancel);
        folder.TakeIn([.. elsewhere.TrackIds.Select(t => $"{split.Track(t)!.Name}.wav")]);
        return new BringInRequest(folder.Name, BringInPlan.Of(split, folder.Files()));
    }

    /// <summary>Deleted demo sessions stay deleted: a mark, not an empty list, tells whether they were loaded.</summary>
    private static async Task<bool> MarkLoaded(NpgsqlDataSource database)
    {
        await using var command = database.CreateCommand(
            "insert into marks (name) values ('demo sessions loaded') on conflict do nothing");
        return await command.ExecuteNonQueryAsync() == 1;
    }
}
