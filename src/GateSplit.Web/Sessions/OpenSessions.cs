using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Notes;
using GateSplit.Core.Splits;
using GateSplit.Data;
using Microsoft.Extensions.Caching.Memory;

namespace GateSplit.Web.Sessions;

/// <summary>
/// Sessions ready to be looked at. A revision never changes, so what was computed from it is kept for the next look:
/// only a new edit is read and checked again.
/// </summary>
public sealed class OpenSessions(SessionStore sessions) : IDisposable
{
    /// <summary>A session counts as so many events, and as those of its song: a few huge songs take the room of many.</summary>
    private const int SessionSize = 1000;

    private const int MostSize = 4_000_000;
    private static readonly TimeSpan Idle = TimeSpan.FromMinutes(20);
    private readonly MemoryCache _kept = new(new MemoryCacheOptions { SizeLimit = MostSize });
    private readonly MemoryCache _songs = new(new MemoryCacheOptions { SizeLimit = MostSize });

    /// <summary>A session as it is now, with its findings; null if there is none.</summary>
    public async Task<SessionNow?> Find(long id)
    {
        if (await sessions.Head(id) is not { } head)
        {
            return null;
        }

        if (_kept.TryGetValue(id, out var kept) && kept is SessionNow known && known.Session.State.Revision == head.Revision)
        {
            return known with { Session = known.Session with { State = known.Session.State with { Name = head.Name, Undo = head.Undo, Redo = head.Redo } } };
        }

        if (await sessions.Load(id) is not { } state)
        {
            return null;
        }

        var song = _songs.GetOrCreate(state.SongId, entry =>
        {
            var read = OpenSession.ReadSong(state);
            (entry.Size, entry.SlidingExpiration) = (SizeOf(read), Idle);
            return read;
        })!;
        var now = Look(OpenSession.Of(state, song));
        Keep(now);
        return now;
    }

    /// <summary>Keeps an edit of a session as it was looked at, and what was found in it for the next look.</summary>
    /// <param name="session">The session before the edit.</param>
    /// <param name="split">The split after it.</param>
    /// <param name="edit">What was done.</param>
    /// <param name="song">The song that takes the place of the one there is; null to keep that.</param>
    /// <returns>False if the session has moved on meanwhile or is gone, and nothing was kept.</returns>
    public async Task<bool> Save(OpenSession session, Split split, string edit, MidiFile? song = null)
    {
        var midi = song is null ? null : MidiWriter.Write(song);
        var now = Look(midi is null ? session.With(split) : session.With(split, midi, Song.Of(song!)));
        var (id, before) = (session.State.Id, session.State.Revision);
        if (await sessions.Save(id, before, split, edit, SplitSummary.Of(now.Session, now.Findings), midi) is not { } revision)
        {
            return false;
        }

        // Which song it is now, the database knows: it is read again at the next look.
        if (midi is not null)
        {
            _kept.Remove(id);
            return true;
        }

        Keep(now with { Session = now.Session with { State = now.Session.State with { Revision = revision } } });
        return true;
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        _kept.Dispose();
        _songs.Dispose();
    }

    private static SessionNow Look(OpenSession session) => new(session, AllChecks.Look(session.Lines));

    /// <summary>One a session: what it was before the last edit is hardly looked at again.</summary>
    private void Keep(SessionNow now) => _kept.Set(
        now.Session.State.Id, now, new MemoryCacheEntryOptions { Size = SizeOf(now.Session.Song), SlidingExpiration = Idle });

    private static long SizeOf(Song song) => SessionSize + song.File.Tracks.Sum(t => (long)t.Length);
}
