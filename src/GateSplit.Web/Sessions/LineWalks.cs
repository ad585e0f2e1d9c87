using System.Collections.Concurrent;
using System.Collections.Immutable;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Data;
using Microsoft.Extensions.Caching.Memory;

namespace GateSplit.Web.Sessions;

/// <summary>Lines that were walked. A revision never changes, so neither does what a walk of it measures.</summary>
public sealed class LineWalks : IDisposable
{
    private const int MostKept = 16;
    private static readonly TimeSpan Idle = TimeSpan.FromMinutes(20);
    private readonly MemoryCache _kept = new(new MemoryCacheOptions { SizeLimit = MostKept });

    /// <summary>Walks an element, or tells what an earlier walk measured.</summary>
    /// <param name="session">The session.</param>
    /// <param name="element">The element.</param>
    /// <param name="mainMuted">True with the main mixes muted.</param>
    public ImmutableArray<WalkedLine> One(OpenSession session, ElementRef element, bool mainMuted) =>
        Of(session, mainMuted).GetOrAdd(element, e => [.. new LineWalk(session.Lines) { MainMuted = mainMuted }.One(e)]);

    /// <summary>The lines walked so far.</summary>
    public IReadOnlyDictionary<ElementRef, ImmutableArray<WalkedLine>> Known(OpenSession session, bool mainMuted) => Of(session, mainMuted);

    /// <inheritdoc/>
    public void Dispose() => _kept.Dispose();

    private ConcurrentDictionary<ElementRef, ImmutableArray<WalkedLine>> Of(OpenSession session, bool mainMuted) =>
        _kept.GetOrCreate((session.State.Id, session.State.Revision, mainMuted), entry =>
        {
            (entry.Size, entry.SlidingExpiration) = (1, Idle);
            return new ConcurrentDictionary<ElementRef, ImmutableArray<WalkedLine>>();
        })!;
}
