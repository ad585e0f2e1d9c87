using GateSplit.Core.Notes;
using GateSplit.Core.Signal;
using GateSplit.Core.Views;

namespace GateSplit.Data;

/// <summary>A session ready to be looked at: its state, its song, and the view the checks use.</summary>
/// <param name="State">As kept.</param>
/// <param name="Song">Its music.</param>
/// <param name="Lines">Its split with its signal.</param>
public sealed record OpenSession(SessionState State, Song Song, SplitView Lines)
{
    /// <summary>Opens a session's state.</summary>
    /// <exception cref="UnreadableException">The song kept in the database is no MIDI file.</exception>
    public static OpenSession Of(SessionState state)
    {
        var midi = MidiReader.Read(state.Song);
        if (!midi.Ok)
        {
            throw new UnreadableException($"The song of {state.Name} cannot be read (session {state.Id}). {midi.Trouble}");
        }

        var song = Song.Of(midi.Value);
        return new OpenSession(state, song, new SplitView(state.Split, Sounding.Elements(state.Split, song)));
    }
}
