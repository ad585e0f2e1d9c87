using System.Collections.Immutable;

namespace GateSplit.Core.Proofing;

/// <summary>What a track ought to hold: an element with its notes.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Notes">When it is played, in seconds from the start of the song, in order.</param>
/// <param name="Held">True of sounds that rise slowly and are held; false of what is struck.</param>
public sealed record Part(string Name, ImmutableArray<double> Notes, bool Held)
{
    /// <summary>How much earlier or later than its note a sound of it may begin, in seconds.</summary>
    public (double Early, double Late) Tolerance => Held ? (0.010, 0.050) : (0.010, 0.010);

    /// <summary>MIDI channels and keys of its notes; empty where they are not known.</summary>
    public ImmutableHashSet<(int Channel, int Key)> Keys { get; init; } = [];

    /// <summary>For each note which of its sounds begins there: a number for all that the same keys sound; empty where that is not known.</summary>
    public ImmutableArray<int> Sounds { get; init; } = [];

    /// <summary>What it holds and for how long, in the order of the starts; empty where that is not known.</summary>
    public ImmutableArray<Tone> Tones { get; init; } = [];

    /// <summary>What it sounds like, as a roll call has heard it; empty where that is not known.</summary>
    public ImmutableArray<double> Signature { get; init; } = [];

    /// <summary>True if both sound by the same notes, as the microphones of one drum do, or a room that hears it.</summary>
    public bool Shares(Part other) => Keys.Overlaps(other.Keys);

    /// <summary>True if both sound by the same notes and by no others, so that notes cannot tell which of them a file holds.</summary>
    public bool IsAsPlayed(Part other) => Keys.Count > 0 && Keys.SetEquals(other.Keys);

    /// <summary>True if no other sounds by its notes: where several do, which of them was heard is for ears.</summary>
    /// <param name="parts">All parts, with this one.</param>
    public bool IsAlone(IEnumerable<Part> parts) => !parts.Any(p => !ReferenceEquals(p, this) && p.Shares(this));

    /// <summary>True if it is all of another and more: a room, overheads, a mix.</summary>
    public bool Contains(Part other) => Keys.IsProperSupersetOf(other.Keys) && other.Keys.Count > 0;

    /// <summary>True of what hears several elements, and so stands away from them.</summary>
    /// <param name="parts">All parts, with this one.</param>
    public bool IsFromAfar(IEnumerable<Part> parts) => parts.Any(Contains);
}
