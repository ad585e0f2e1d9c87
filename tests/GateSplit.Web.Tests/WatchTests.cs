using System.Collections.Concurrent;
using GateSplit.Tests.Shared;
using GateSplit.Web.Sessions;

namespace GateSplit.Web.Tests;

/// <summary>However many follow a session, it is looked at once.</summary>
public sealed class WatchTests
{
    private const int Followers = 60;

    [Fact]
    public async Task Sixty_followers_make_one_watcher_and_the_last_to_leave_ends_it()
    {
        var (looks, atOnce, most) = (0, 0, 0);
        var watch = new Watch<string>(
            async id =>
            {
                most = Math.Max(most, Interlocked.Increment(ref atOnce));
                Interlocked.Increment(ref looks);
                await Task.Yield();
                Interlocked.Decrement(ref atOnce);
                return $"session {id}";
            },
            TimeSpan.FromMilliseconds(40));
        using var over = new CancellationTokenSource();
        var seen = new int[Followers];
        var follow = Enumerable.Range(0, Followers).Select(i => Task.Run(async () =>
        {
            await foreach (var (what, away) in watch.Follow(7, over.Token))
            {
                Assert.Equal(("session 7", false), (what, away));
                seen[i]++;
            }
        })).ToArray();
        await Waiting.Until(() => Task.FromResult(seen.All(s => s >= 3)), "all have seen it three times");
        Assert.Equal((1, 1), (watch.Sessions, most));
        Assert.True(looks < Followers * 3 / 2, $"{looks} looks for {seen.Sum()} that were seen");
        await over.CancelAsync();
        await Task.WhenAll(follow);
        Assert.Equal(0, watch.Sessions);
        var rest = looks;
        await Waiting.Until(() => Task.FromResult(atOnce == 0), "nobody looks any more");
        Assert.InRange(looks, rest, rest + 1);
    }

    [Fact]
    public async Task A_database_that_is_away_is_told_and_another_fault_ends_it()
    {
        // Each look says the same until it was seen: who comes late to one sees the next.
        var told = new ConcurrentQueue<(string? What, bool Away)>();
        var watch = new Watch<string>(
            _ => told.IsEmpty ? throw new Npgsql.NpgsqlException("away", new System.Net.Sockets.SocketException())
                : told.All(t => t.Away) ? Task.FromResult("there")
                : throw new InvalidOperationException("a fault"),
            TimeSpan.FromMilliseconds(20));
        await Assert.ThrowsAsync<InvalidOperationException>(async () =>
        {
            await foreach (var look in watch.Follow(1, TestContext.Current.CancellationToken))
            {
                told.Enqueue(look);
            }
        });
        Assert.Equal([(null, true), ("there", false)], told.Distinct());
        Assert.Equal(0, watch.Sessions);
    }
}
