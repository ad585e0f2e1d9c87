using System.Text.Json;
using GateSplit.Core.Notes;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Handoff;

/// <summary>An exported session: name, split and song in one JSON file, without audio.</summary>
/// <param name="Format">Always <see cref="FormatName"/>.</param>
/// <param name="Version">Of the format.</param>
/// <param name="Name">The session's name.</param>
/// <param name="Song">Its MIDI file, base 64 in JSON.</param>
/// <param name="Split">Its split.</param>
public sealed record SessionFile(string Format, int Version, string Name, byte[] Song, Split Split)
{
    /// <summary>The name in the field "format".</summary>
    public const string FormatName = "gate-split-session";

    /// <summary>The version written here, and the newest that is read.</summary>
    public const int CurrentVersion = 1;

    /// <summary>Makes one.</summary>
    public static SessionFile Of(string name, byte[] song, Split split) => new(FormatName, CurrentVersion, name, song, split);

    /// <summary>Writes it.</summary>
    public byte[] ToJson() => JsonSerializer.SerializeToUtf8Bytes(this, SplitJson.Options);

    /// <summary>Reads it, and the song in it.</summary>
    /// <returns>The session with its song, or a sentence.</returns>
    public static Result<Opened> Read(ReadOnlySpan<byte> json)
    {
        SessionFile? file;
        try
        {
            file = JsonSerializer.Deserialize<SessionFile>(json, SplitJson.Options);
        }
        catch (JsonException e)
        {
            return new Refusal($"This is not an exported session: line {e.LineNumber + 1} cannot be read.");
        }

        if (file is not { Format: FormatName })
        {
            return new Refusal("This is not an exported session.");
        }

        if (file.Version > CurrentVersion)
        {
            return new Refusal($"This session was exported by a newer version (format {file.Version}); {CurrentVersion} is the newest that is read here.");
        }

        var trouble = SplitRules.Trouble(file.Split);
        if (trouble is not null)
        {
            return new Refusal(trouble);
        }

        var midi = MidiReader.Read(file.Song);
        return midi.Ok ? new Opened(file, Notes.Song.Of(midi.Value)) : new Refusal(midi.Trouble);
    }

    /// <summary>A session that was read.</summary>
    /// <param name="File">As it stands.</param>
    /// <param name="Song">Its music.</param>
    public sealed record Opened(SessionFile File, Song Song);
}
