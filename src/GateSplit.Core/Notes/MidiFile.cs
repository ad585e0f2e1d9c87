using System.Collections.Immutable;

namespace GateSplit.Core.Notes;

/// <summary>A Standard MIDI File as it stands: its format, its time base, and the events of each track in order of time.</summary>
/// <param name="Format">0: one track; 1: tracks that play together.</param>
/// <param name="TimeBase">What a tick is.</param>
/// <param name="Tracks">The events, each track ended by its end-of-track event.</param>
public sealed record MidiFile(int Format, TimeBase TimeBase, ImmutableArray<ImmutableArray<MidiEvent>> Tracks)
{
    /// <summary>Meta type of a track's name.</summary>
    public const byte TrackName = 0x03;

    /// <summary>Meta type of the end of a track.</summary>
    public const byte EndOfTrack = 0x2F;

    /// <summary>Meta type of a tempo.</summary>
    public const byte SetTempo = 0x51;

    /// <summary>Meta type of a time signature.</summary>
    public const byte TimeSignature = 0x58;
}
