using GateSplit.Core;
using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;

namespace GateSplit.Web.Forms;

/// <summary>A song, a tempo or a metre as a form sends it.</summary>
public static class SentSong
{
    /// <summary>What is said of a tempo that makes no sense.</summary>
    public const string TempoNeeded = "The tempo is 10 to 400 quarters a minute.";

    /// <summary>What is said of a metre that makes no sense.</summary>
    public const string MetreNeeded = "The metre is 1 to 32 beats of a whole, half, quarter, eighth, sixteenth or thirty-second note, such as 3/4.";

    private const long MostBytes = 8_000_000;

    /// <summary>A song that takes the place of another.</summary>
    /// <param name="File">Its MIDI file.</param>
    /// <param name="Edit">What the edit is called.</param>
    public sealed record Replacement(MidiFile File, string Edit);

    /// <summary>Reads a MIDI file that was sent.</summary>
    public static async Task<Result<MidiFile>> Read(IFormFile sent)
    {
        if (sent.Length > MostBytes)
        {
            return new Refusal($"{sent.FileName} is larger than 8 MB, which is the most that is taken for a MIDI file.");
        }

        using var bytes = new MemoryStream();
        await sent.CopyToAsync(bytes);
        var read = MidiReader.Read(bytes.ToArray());
        return read.Ok ? read : new Refusal($"{sent.FileName}: {read.Trouble}");
    }

    /// <summary>A tempo in quarters a minute; null for one that makes no sense.</summary>
    public static double? Tempo(string text) => NumberText.Read(text) is >= 10 and <= 400 and var quarters ? quarters : null;

    /// <summary>A metre such as 6/8; null for one that makes no sense.</summary>
    public static Metre? Metre(string text) => text.Split('/') is [var beats, var unit]
        && int.TryParse(beats, out var upper) && upper is >= 1 and <= 32
        && int.TryParse(unit, out var lower) && lower is 1 or 2 or 4 or 8 or 16 or 32
            ? new Metre(upper, lower)
            : null;
}
