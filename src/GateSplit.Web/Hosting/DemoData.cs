using GateSplit.Core.Demo;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Core.Views;
using GateSplit.Data;
using GateSplit.Jobs;

namespace GateSplit.Web.Hosting;

/// <summary>The sessions that ship: loaded once into a database that has none, and then brought to where they ship, step by step.</summary>
/// <param name="services">The program's services.</param>
public sealed class DemoData(IServiceProvider services)
{
    private static readonly TimeSpan Glance = TimeSpan.FromMilliseconds(300);
    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(1);
    private readonly ServeOptions _options = services.GetRequiredService<ServeOptions>();
    private readonly DemoStore _demos = services.GetRequiredService<DemoStore>();
    private readonly SessionStore _sessions = services.GetRequiredService<SessionStore>();
    private readonly TakeStore _takes = services.GetRequiredService<TakeStore>();
    private readonly JobQueue _queue = services.GetRequiredService<JobQueue>();
    private readonly JobStore _jobs = services.GetRequiredService<JobStore>();
    private readonly ILogger<DemoData> _log = services.GetRequiredService<ILogger<DemoData>>();

    /// <summary>Loads them, if they never were and the options ask for them.</summary>
    public async Task Load()
    {
        if (_options.Demo && !await _demos.AreLoaded())
        {
            await _demos.InTurn(LoadMissing, CancellationToken.None);
        }
    }

    /// <summary>
    /// Does the steps that are still to be done, and goes on where an earlier server ended. What somebody changes meanwhile stays, and ends
    /// the steps of that session.
    /// </summary>
    public async Task Play(CancellationToken cancel)
    {
        if (!_options.Demo)
        {
            return;
        }

        try
        {
            while (!await PlayedAll(cancel))
            {
                await Task.Delay(Pause, cancel);
            }
        }
        catch (OperationCanceledException) when (cancel.IsCancellationRequested)
        {
            // The sessions are there; what is still to be done is done after the next start.
        }
        catch (Exception e)
        {
            // Nobody waits for them: what ends them has to be told here.
            _log.LogError(e, "The steps of the sessions that ship could not be done; what is still to be done is done after the next start");
        }
    }

    /// <summary>False if the database was away meanwhile: what was done is known, and the rest can be done when it is back.</summary>
    private async Task<bool> PlayedAll(CancellationToken cancel)
    {
        try
        {
            await _demos.InTurn(() => PlayAll(cancel), cancel);
            return true;
        }
        catch (Exception e) when (Resilient.IsOutage(e))
        {
            _log.LogWarning("The steps of the sessions that ship wait for the database: {Message}", e.Message);
            return false;
        }
    }

    /// <summary>All of them, but those that a server loaded that ended meanwhile.</summary>
    private async Task LoadMissing()
    {
        var there = (await _demos.All()).Select(p => p.Name).ToHashSet();
        foreach (var session in DemoSessions.All.Where(s => !there.Contains(s.Name)))
        {
            await _demos.Add(session.Name, MidiWriter.Write(session.Song), session.Split);
        }

        await _demos.MarkLoaded();
    }

    private async Task PlayAll(CancellationToken cancel)
    {
        var sessions = _options.QuickDemo ? DemoSessions.All[..1] : DemoSessions.All;
        foreach (var progress in await _demos.All())
        {
            if (sessions.FirstOrDefault(s => s.Name == progress.Name) is { } session)
            {
                await Play(session, progress, cancel);
            }
        }
    }

    private async Task Play(DemoSession session, DemoProgress progress, CancellationToken cancel)
    {
        var id = progress.SessionId;
        await Rest(id, cancel);
        while (progress.StepsDone < session.Steps.Length && await _sessions.Load(id) is { } state && state.Revision == progress.Revision)
        {
            switch (session.Steps[progress.StepsDone])
            {
                case DemoEdit { Edit: var edit }:
                    if (await _demos.Save(progress, edit.Apply(state.Split).Value!, edit.Name(state.Split)) is not { } edited)
                    {
                        return;
                    }

                    progress = edited;
                    continue;
                case DemoPrint:
                    await Print(id, state, TakesAfter(session, progress.StepsDone));
                    break;
                case DemoBringIn elsewhere when (await _takes.Of(id)).Count < TakesAfter(session, progress.StepsDone):
                    await _queue.BringIn(id, Recorded(id, state.Revision, session, state.Split, elsewhere, cancel));
                    break;
            }

            await Rest(id, cancel);
            progress = progress with { StepsDone = progress.StepsDone + 1 };
            await _demos.Save(progress);
        }
    }

    /// <summary>Prints all passes, or those that an earlier server did not end.</summary>
    private async Task Print(long id, SessionState state, int takes)
    {
        var request = new PrintRequest(state.Revision, []);
        if ((await _jobs.Current(id)).Where(j => j.State == JobState.Interrupted).ToList() is { Count: > 0 } interrupted)
        {
            await _queue.Print(id, request, [.. interrupted.Select(j => j.Pass)], interrupted[0].PrintId);
        }
        else if ((await _takes.Of(id)).Count < takes)
        {
            await _queue.Print(id, request, [.. Enumerable.Range(1, state.Split.Passes)]);
        }
    }

    /// <summary>How many takes a session has when a step is done: each but an edit makes one.</summary>
    private static int TakesAfter(DemoSession session, int step) => session.Steps.Take(step + 1).Count(s => s is not DemoEdit);

    /// <summary>Waits until a session has no job any more.</summary>
    private async Task Rest(long id, CancellationToken cancel)
    {
        while ((await _jobs.Current(id)).Any(j => j.IsActive))
        {
            await Task.Delay(Glance, cancel);
        }
    }

    /// <summary>Recordings as somebody else would have made them: the same sources, lagging.</summary>
    private BringInRequest Recorded(long sessionId, int revision, DemoSession session, Split split, DemoBringIn elsewhere, CancellationToken cancel)
    {
        var folder = BroughtFolder.Make(services.GetRequiredService<IAudioStore>(), sessionId);
        var late = split with { Units = [.. split.Units.Select(u => u with { Simulated = u.Simulated with { LatencyMs = elsewhere.LateMs } })] };
        var song = Song.Of(session.Song);
        var view = SplitView.Of(late, song);
        new StandInRecorder(view, song) { Only = elsewhere.TrackIds.ToHashSet() }
            .Print(t => folder.Incoming(elsewhere.TrackIds.IndexOf(t.Id)), DateTime.Now, cancel: cancel);
        folder.TakeIn([.. elsewhere.TrackIds.Select(t => $"{split.Track(t)!.Name}.wav")]);
        return new BringInRequest(folder.Name, BringInPlan.Of(split, folder.Files())) { Revision = revision };
    }
}
