namespace GateSplit.Core.Splits;

/// <summary>Lets a source hear the notes of a channel of the song as if they were on another channel and other keys, or not at all.</summary>
/// <param name="From">The MIDI channel of the song, 1 to 16.</param>
/// <param name="To">The MIDI channel on which the source hears them, 1 to 16; <see cref="Nowhere"/> for none.</param>
/// <param name="KeyShift">By how many keys they are moved up.</param>
public sealed record NoteRoute(int From, int To, int KeyShift = 0)
{
    /// <summary>The last MIDI channel.</summary>
    public const int LastChannel = 16;

    /// <summary>Stands for a channel that no source listens to.</summary>
    public const int Nowhere = 0;

    /// <summary>The last key.</summary>
    public const int LastKey = 127;

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(string place) => Core.Misfits.Unless(
        From is >= 1 and <= LastChannel && To is >= Nowhere and <= LastChannel && KeyShift is >= -LastKey and <= LastKey,
        place,
        $"MIDI channels go from 1 to {LastChannel}, and notes are moved by at most {LastKey} keys.");
}
