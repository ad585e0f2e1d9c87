namespace GateSplit.Jobs;

/// <summary>Wakes the worker of this process when something was put into the queue; those of other processes look by themselves.</summary>
public sealed class JobBell : IDisposable
{
    private readonly SemaphoreSlim _rung = new(0, 1);

    /// <summary>Something waits.</summary>
    public void Ring()
    {
        try
        {
            _rung.Release();
        }
        catch (SemaphoreFullException)
        {
            // It was rung already, and nobody has looked since.
        }
    }

    /// <summary>Waits until it rings, or for so long.</summary>
    public Task Wait(TimeSpan most, CancellationToken cancel) => _rung.WaitAsync(most, cancel);

    /// <inheritdoc/>
    public void Dispose() => _rung.Dispose();
}
