using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Data;
using Microsoft.Extensions.Caching.Memory;

namespace GateSplit.Web.Sessions;

/// <summary>
/// Sessions ready to be looked at. A revision never changes, so what was computed from it is kept for the next look:
/// only a new edit is read and checked again.
/// </summary>
public sealed class OpenSessions(SessionStore sessions) : IDisposable
{
    private const int MostKept = 32;
    private static readonly TimeSpan Idle = TimeSpan.FromMinutes(20);
    private readonly MemoryCache _kept = new(new MemoryCacheOptions { SizeLimit = MostKept });

    /// <summary>A session as it is now, with its findings; null if there is none.</summary>
    public async Task<(OpenSession Session, IReadOnlyList<Finding> Findings)?> Find(long id)
    {
        if (await sessions.Head(id) is not { } head)
        {
            return null;
        }

        if (_kept.TryGetValue((id, head.Revision), out var kept) && kept is (OpenSession open, IReadOnlyList<Finding> known))
        {
            return (open with { State = open.State with { Name = head.Name, Undo = head.Undo, Redo = head.Redo } }, known);
        }

        if (await sessions.Load(id) is not { } state)
        {
            return null;
        }

        var opened = OpenSession.Of(state);
        IReadOnlyList<Finding> findings = AllChecks.Look(opened.Lines);
        _kept.Set((id, state.Revision), (opened, findings), new MemoryCacheEntryOptions { Size = 1, SlidingExpiration = Idle });
        return (opened, findings);
    }

    /// <inheritdoc/>
    public void Dispose() => _kept.Dispose();
}
