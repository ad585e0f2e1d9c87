using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Unicode;
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

    /// <summary>The most letters of a session's name.</summary>
    public const int LongestName = 120;

    /// <summary>Makes one.</summary>
    public static SessionFile Of(string name, byte[] song, Split split) => new(FormatName, SplitVersions.Current, name, song, split);

    /// <summary>Writes it.</summary>
    public byte[] ToJson() => JsonSerializer.SerializeToUtf8Bytes(this, SplitJson.Options);

    /// <summary>Reads it, of whatever version, and the song in it.</summary>
    /// <returns>The session with its song, or a sentence with the place that does not fit.</returns>
    public static Result<Opened> Read(ReadOnlySpan<byte> json)
    {
        if (!Utf8.IsValid(json))
        {
            return new Refusal("This is not an exported session: it holds bytes that are no text (UTF-8).");
        }

        try
        {
            return Read(JsonNode.Parse(json, documentOptions: SplitJson.Strict));
        }
        catch (Exception e) when (JsonTrouble.IsTrouble(e))
        {
            return new Refusal($"This is not an exported session. {JsonTrouble.Of(e)}");
        }
    }

    private static Result<Opened> Read(JsonNode? json)
    {
        if (json is not JsonObject file || file.Deserialize<Head>(SplitJson.Options) is not { Format: FormatName } head)
        {
            return new Refusal("This is not an exported session.");
        }

        if (head.Version is < 1 or > SplitVersions.Current)
        {
            return new Refusal($"This session has version {head.Version} of the format; {SplitVersions.Current} is the newest that is read here.");
        }

        if (!Names.Fit(head.Name, LongestName))
        {
            return new Refusal($"name: a session needs a name of 1 to {LongestName} characters.");
        }

        var split = SplitVersions.Read(file["split"], head.Version);
        if (!split.Ok)
        {
            return new Refusal(split.Trouble);
        }

        var midi = MidiReader.Read(head.Song ?? []);
        return midi.Ok ? new Opened(Of(head.Name!, head.Song!, split.Value), Notes.Song.Of(midi.Value).Read(split.Value.Pass.TempoToMicrosecond)) : new Refusal($"song: {midi.Trouble}");
    }

    private sealed record Head(string? Format = null, int Version = 0, string? Name = null, byte[]? Song = null);

    /// <summary>A session that was read.</summary>
    /// <param name="File">As it stands, in the present version.</param>
    /// <param name="Song">Its music.</param>
    public sealed record Opened(SessionFile File, Song Song);
}
