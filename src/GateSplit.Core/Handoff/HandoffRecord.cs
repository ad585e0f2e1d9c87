using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Handoff;

/// <summary>A handoff that was made: what was sent, and how each of its bytes is made again as long as its stored files are there.</summary>
/// <param name="Session">The session's name then.</param>
/// <param name="Made">When, in local time.</param>
/// <param name="Wish">What was wanted.</param>
/// <param name="Files">The audio, with lengths and hashes.</param>
/// <param name="Papers">Everything else, whole.</param>
public sealed record HandoffRecord(string Session, DateTime Made, HandoffWish Wish, ImmutableArray<HandoffWritten> Files, ImmutableArray<HandoffPaper> Papers)
{
    /// <summary>All files of the handoff with their lengths, in the order in which they leave.</summary>
    [JsonIgnore]
    public IEnumerable<(string Path, long Bytes)> Lengths => Files.Select(f => (f.File.Path, f.Bytes.Count)).Concat(Papers.Select(p => (p.Path, (long)p.Body.Length)));

    /// <summary>The stored files that it is made from, each with the track of the file that needs it.</summary>
    [JsonIgnore]
    public IEnumerable<(string Hash, string Track)> Audio => Files.SelectMany(f => f.File.Recipe.Parts.Select(p => (p.Audio, f.File.Track)));

    /// <summary>Writes it all.</summary>
    /// <param name="maker">Makes the audio.</param>
    /// <param name="target">Where it goes.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="IOException">There is no room, nobody listens any more, or a file came out other than it did.</exception>
    public async Task WriteTo(HandoffMaker maker, IHandoffTarget target, CancellationToken cancel)
    {
        var first = new Queue<HandoffWritten>(Files);
        await foreach (var again in maker.WriteInOrder([.. Files.Select(f => f.File)], target, cancel))
        {
            if (again.Sha256 != first.Dequeue().Sha256)
            {
                throw new IOException($"{again.File.Path} came out other than when it was made first.");
            }
        }

        foreach (var paper in Papers)
        {
            await target.Write(paper.Path, to => to.WriteAsync(paper.Body, cancel).AsTask(), cancel);
        }
    }

    /// <summary>Writes it down.</summary>
    public string ToJson() => JsonSerializer.Serialize(this, SplitJson.Options);

    /// <summary>Reads what was written down.</summary>
    /// <returns>Null where it is of another shape.</returns>
    public static HandoffRecord? Read(string json)
    {
        try
        {
            return JsonSerializer.Deserialize<HandoffRecord>(json, SplitJson.Options);
        }
        catch (JsonException)
        {
            return null;
        }
    }
}
