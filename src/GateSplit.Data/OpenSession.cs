using GateSplit.Core.Notes;
using GateSplit.Core.Splits;
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
    public static OpenSession Of(SessionState state) => Of(state, ReadSong(state));

    /// <summary>Opens a session's state, its song read already.</summary>
    public static OpenSession Of(SessionState state, Song song) => Of(state, SplitView.Of(state.Split, song));

    /// <summary>Reads the song of a session.</summary>
    /// <exception cref="UnreadableException">The song kept in the database is no MIDI file.</exception>
    public static Song ReadSong(SessionState state)
    {
        var midi = MidiReader.Read(state.Song);
        if (!midi.Ok)
        {
            throw new UnreadableException($"The song of {state.Name} cannot be read (session {state.Id}). {midi.Trouble}");
        }

        return Song.Of(midi.Value);
    }

    /// <summary>Another song, with a split that it plays.</summary>
    public OpenSession With(Split split, byte[] midi, Song song) => Of(State with { Split = split, Song = midi }, song);

    /// <summary>The same song with another split.</summary>
    public OpenSession With(Split split) => Of(State with { Split = split }, SplitView.Of(split, Song));

    private static OpenSession Of(SessionState state, SplitView lines) => new(state, lines.Song!, lines);
}
