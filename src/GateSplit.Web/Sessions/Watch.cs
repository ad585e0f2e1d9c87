using System.Runtime.CompilerServices;
using GateSplit.Jobs;

namespace GateSplit.Web.Sessions;

/// <summary>
/// Looks at something that belongs to a session again and again while anybody follows it: once for all who follow the same session.
/// </summary>
/// <typeparam name="T">What is looked at.</typeparam>
/// <param name="look">Looks at it.</param>
/// <param name="pause">From one look to the next.</param>
public sealed class Watch<T>(Func<long, Task<T>> look, TimeSpan pause)
{
    private readonly Dictionary<long, Looker> _lookers = [];

    /// <summary>How many sessions are looked at just now.</summary>
    public int Sessions
    {
        get
        {
            lock (_lookers)
            {
                return _lookers.Count;
            }
        }
    }

    /// <summary>Follows a session, beginning with a look at it as it is now.</summary>
    /// <param name="sessionId">The session.</param>
    /// <param name="cancel">Ends it.</param>
    /// <returns>Each look; with Away where the database did not answer.</returns>
    public async IAsyncEnumerable<(T? Seen, bool Away)> Follow(long sessionId, [EnumeratorCancellation] CancellationToken cancel)
    {
        var looker = Join(sessionId);
        try
        {
            while (!cancel.IsCancellationRequested)
            {
                var next = looker.Next;
                if (await Task.WhenAny(next, Task.Delay(Timeout.Infinite, cancel)) != next)
                {
                    yield break;
                }

                yield return await next;
            }
        }
        finally
        {
            Leave(sessionId, looker);
        }
    }

    private Looker Join(long sessionId)
    {
        lock (_lookers)
        {
            if (_lookers.TryGetValue(sessionId, out var looker))
            {
                looker.Followers++;
                return looker;
            }

            _lookers[sessionId] = looker = new Looker { Followers = 1 };
            _ = Task.Run(() => LookOn(sessionId, looker));
            return looker;
        }
    }

    private void Leave(long sessionId, Looker looker)
    {
        lock (_lookers)
        {
            if (--looker.Followers == 0 && _lookers.GetValueOrDefault(sessionId) == looker)
            {
                _lookers.Remove(sessionId);
            }
        }
    }

    private async Task LookOn(long sessionId, Looker looker)
    {
        while (Volatile.Read(ref looker.Followers) > 0)
        {
            try
            {
                looker.Tell((await look(sessionId), false));
            }
            catch (Exception e) when (Resilient.IsOutage(e))
            {
                looker.Tell((default, true));
            }
            catch (Exception e)
            {
                // Whoever comes next begins anew.
                lock (_lookers)
                {
                    _lookers.Remove(sessionId);
                }

                looker.Fail(e);
                return;
            }

            await Task.Delay(pause);
        }
    }

    private sealed class Looker
    {
        public int Followers;
        private TaskCompletionSource<(T? Seen, bool Away)> _next = new(TaskCreationOptions.RunContinuationsAsynchronously);

        public Task<(T? Seen, bool Away)> Next => Volatile.Read(ref _next).Task;

        public void Tell((T? Seen, bool Away) seen) =>
            Interlocked.Exchange(ref _next, new TaskCompletionSource<(T? Seen, bool Away)>(TaskCreationOptions.RunContinuationsAsynchronously)).SetResult(seen);

        public void Fail(Exception e) => _next.TrySetException(e);
    }
}
