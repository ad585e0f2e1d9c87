using GateSplit.Core.Notes;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Templates;

/// <summary>A split that is kept to be used again, whole or in part: never audio, never takes.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Kind">What of a session it keeps.</param>
/// <param name="Notes">A MIDI file: the song's, or an empty clip with its tempo and metre.</param>
/// <param name="Split">What is kept.</param>
public sealed record Template(string Name, TemplateKind Kind, byte[] Notes, Split Split)
{
    /// <summary>The most letters of its name.</summary>
    public const int LongestName = 80;

    /// <summary>What it keeps, in words: "a whole session", "Mudlark Nine with its 9 tracks", "the outputs of Mudlark Nine".</summary>
    public string Gist => Kind switch
    {
        TemplateKind.Source => $"{Split.Units[0].Name} with its {Words.Count(Split.Tracks.Length, "track")}",
        TemplateKind.Outputs => $"the outputs of {Split.Units[0].Name}",
        _ => $"a whole session: {Words.List([.. Split.Units.Select(u => u.Name)])}, {Words.Count(Split.Tracks.Length, "track")}",
    };

    /// <summary>True if it has notes to play, and not only a clip of their length.</summary>
    public bool HasNotes => MidiReader.Read(Notes) is { Ok: true } midi && !Song.Of(midi.Value).Notes.IsEmpty;
}
