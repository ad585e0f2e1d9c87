using System.Text.Encodings.Web;
using System.Text.Json;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Handoff;

/// <summary>manifest.json: what the handoff holds, for a program to check.</summary>
/// <param name="Session">The session's name.</param>
/// <param name="Take">The take's number.</param>
/// <param name="Made">When the handoff was made, ISO 8601.</param>
/// <param name="TempoQuartersPerMinute">At the start.</param>
/// <param name="Metre">At the start, "6/8".</param>
/// <param name="Mends">What was mended, in words and in order.</param>
/// <param name="Files">The audio files.</param>
/// <param name="Others">The other files with their SHA-256.</param>
public sealed record Manifest(
    string Session,
    int Take,
    string Made,
    double TempoQuartersPerMinute,
    string Metre,
    IReadOnlyList<string> Mends,
    IReadOnlyList<HandoffTrack> Files,
    IReadOnlyDictionary<string, string> Others)
{
    private static readonly JsonSerializerOptions Pretty = new(SplitJson.Options)
    {
        WriteIndented = true,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <summary>Writes it.</summary>
    public string ToJson() => JsonSerializer.Serialize(this, Pretty);
}
