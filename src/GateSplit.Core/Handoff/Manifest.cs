using System.Collections.Immutable;
using System.Text.Encodings.Web;
using System.Text.Json;
using GateSplit.Core.Charts;
using GateSplit.Core.Drawing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Handoff;

/// <summary>manifest.json: what the handoff holds, for a program to check.</summary>
/// <param name="Session">The session's name.</param>
/// <param name="Made">When the handoff was made, ISO 8601.</param>
/// <param name="TempoQuartersPerMinute">At the start.</param>
/// <param name="Metre">At the start, "6/8".</param>
/// <param name="Takes">The takes it is of.</param>
/// <param name="Mends">What was mended, in words and in order.</param>
/// <param name="Files">The audio files.</param>
/// <param name="Others">The other files with their SHA-256.</param>
public sealed record Manifest(
    string Session,
    string Made,
    double TempoQuartersPerMinute,
    string Metre,
    ImmutableArray<Manifest.Take> Takes,
    ImmutableArray<string> Mends,
    ImmutableArray<Manifest.Track> Files,
    IReadOnlyDictionary<string, string> Others)
{
    private static readonly JsonSerializerOptions Pretty = new(SplitJson.Options)
    {
        WriteIndented = true,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <summary>Writes it.</summary>
    public string ToJson() => JsonSerializer.Serialize(this, Pretty);

    /// <summary>A take.</summary>
    /// <param name="Number">Counted from 1 within the session.</param>
    /// <param name="Recorded">When, in words.</param>
    /// <param name="Note">A remark.</param>
    public sealed record Take(int Number, string Recorded, string Note);

    /// <summary>An audio file.</summary>
    /// <param name="Number">Its place among those of its kind.</param>
    /// <param name="Kind">What it is.</param>
    /// <param name="File">Where it lies.</param>
    /// <param name="Name">What it holds, by its name.</param>
    /// <param name="Take">The take, or the takes, it is of.</param>
    /// <param name="Elements">The elements in it.</param>
    /// <param name="Source">Where it came from.</param>
    /// <param name="Pass">The pass it was recorded in; null for a sum.</param>
    /// <param name="Groups">The groups its track is in.</param>
    /// <param name="Level">The fader of its track with those of its groups; null where it is already in the file.</param>
    /// <param name="Pan">-1 left to 1 right; null where it is already in the file.</param>
    /// <param name="Family">What it is to the ear; null if mixed.</param>
    /// <param name="Colour">That of the family, "#0B63A5".</param>
    /// <param name="Format">The shape of its samples.</param>
    /// <param name="Frames">Its length.</param>
    /// <param name="TimeReference">Its first frame, counted from bar 1.</param>
    /// <param name="Levels">How loud it is.</param>
    /// <param name="Mended">True if anything in it was mended.</param>
    /// <param name="Verdict">What proof says of it.</param>
    /// <param name="Remark">A remark of its take.</param>
    /// <param name="Bytes">Its length.</param>
    /// <param name="Sha256">Of the whole file, in hexadecimal.</param>
    public sealed record Track(
        int Number,
        HandoffKind Kind,
        string File,
        string Name,
        string Take,
        string Elements,
        string Source,
        int? Pass,
        string Groups,
        Decibels? Level,
        Pan? Pan,
        Family? Family,
        string Colour,
        AudioFormat Format,
        Frames Frames,
        Frames TimeReference,
        HandoffLevels? Levels,
        bool Mended,
        string Verdict,
        string Remark,
        Bytes Bytes,
        string Sha256)
    {
        /// <summary>That of a file that was made.</summary>
        public static Track Of(HandoffWritten made)
        {
            var file = made.File;
            return new(
                file.Number,
                file.Kind,
                file.Path,
                file.Track,
                file.Take,
                file.Elements,
                file.Source,
                file.Pass,
                file.Groups,
                file.Level,
                file.Pan,
                file.Family,
                FamilyColours.Of(file.Family),
                file.Format,
                file.Frames,
                file.Recipe.Start,
                file.Levels,
                file.Mended,
                file.Verdict,
                file.Remark,
                made.Bytes,
                made.Sha256);
        }
    }
}
