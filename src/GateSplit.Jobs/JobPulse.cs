using GateSplit.Data;
using Microsoft.Extensions.Logging;

namespace GateSplit.Jobs;

/// <summary>
/// Tells the database a few times a second how far a job is, and hears from it whether to stop. A database that is away
/// for a while does not disturb the work.
/// </summary>
internal sealed class JobPulse : IProgress<double>, IAsyncDisposable
{
    private static readonly TimeSpan Interval = TimeSpan.FromMilliseconds(250);
    private readonly CancellationTokenSource _stop;
    private readonly CancellationTokenSource _gone;
    private readonly CancellationTokenSource _enough = new();
    private readonly CancellationTokenSource _end = new();
    private readonly Task _loop;
    private double _share;
    private string _levels = "";

    public JobPulse(long jobId, JobStore jobs, ILogger log, CancellationToken shutdown)
    {
        _gone = CancellationTokenSource.CreateLinkedTokenSource(shutdown);
        _stop = CancellationTokenSource.CreateLinkedTokenSource(_gone.Token, _enough.Token);
        _loop = Beat(jobId, jobs, log);
    }

    /// <summary>Set when a person wants the job to stop or the program ends.</summary>
    public CancellationToken Stop => _stop.Token;

    /// <summary>Set when a person wants the job to stop.</summary>
    public CancellationToken Enough => _enough.Token;

    /// <summary>Set when the program ends, or another worker has the job by now: nothing of it counts any more.</summary>
    public CancellationToken Gone => _gone.Token;

    /// <summary>True if another worker has taken the job over.</summary>
    public bool IsTakenOver { get; private set; }

    /// <summary>Tells the peaks of the tracks just now.</summary>
    public void ReportLevels(string levels) => Volatile.Write(ref _levels, levels);

    /// <inheritdoc/>
    /// <remarks>Threads that work side by side may report out of order; the share never falls.</remarks>
    public void Report(double value)
    {
        for (var before = Volatile.Read(ref _share); value > before;)
        {
            var seen = Interlocked.CompareExchange(ref _share, value, before);
            if (seen == before)
            {
                return;
            }

            before = seen;
        }
    }

    /// <inheritdoc/>
    public async ValueTask DisposeAsync()
    {
        await _end.CancelAsync();
        await _loop;
        _end.Dispose();
        _stop.Dispose();
        _gone.Dispose();
        _enough.Dispose();
    }

    private async Task Beat(long jobId, JobStore jobs, ILogger log)
    {
        while (!_end.IsCancellationRequested)
        {
            try
            {
                switch (await jobs.Beat(jobId, WorkerName.Own, Volatile.Read(ref _share), Volatile.Read(ref _levels)))
                {
                    case null:
                        IsTakenOver = true;
                        await _gone.CancelAsync();
                        break;
                    case false:
                        await _enough.CancelAsync();
                        break;
                }
            }
            catch (Exception e) when (Resilient.IsOutage(e))
            {
                log.LogWarning("Job {Job} goes on without the database: {Message}", jobId, e.Message);
            }

            await Task.Delay(Interval, _end.Token).ContinueWith(_ => { }, TaskScheduler.Default);
        }
    }
}
