using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Data;

namespace GateSplit.Web.Pages.Session;

/// <summary>One track of a take in the player: heard, seen, with its numbers.</summary>
/// <param name="Line">The track, as its mends make it.</param>
/// <param name="Mended">Where it is heard and seen as its mends make it; null if that is as it was printed.</param>
/// <param name="Before">Where it is heard and seen as it is without the mends on trial; null if that is as it was printed.</param>
/// <param name="Offset">Where the samples of the printed file begin.</param>
/// <param name="Shape">Its waveform as path data.</param>
/// <param name="Share">How much of the width of its take it fills.</param>
/// <param name="Marks">Places that something is said of.</param>
/// <param name="Pan">In the recorder's mix.</param>
/// <param name="Level">In the recorder's mix.</param>
public sealed record TakeRow(MendedLine Line, TakeRow.Source? Mended, TakeRow.Source? Before, Bytes Offset, string Shape, double Share, IReadOnlyList<TakeMark> Marks, Pan Pan, Decibels Level)
{
    /// <summary>Where the player reads.</summary>
    /// <param name="Url">The file.</param>
    /// <param name="Of">What its waveform is called.</param>
    /// <param name="Channels">Its channels.</param>
    /// <param name="Bytes">Bytes a sample.</param>
    /// <param name="Float">True for floats.</param>
    /// <param name="Frames">Its length.</param>
    /// <param name="Offset">Where its samples begin.</param>
    public sealed record Source(string Url, string Of, int Channels, int Bytes, bool Float, long Frames, long Offset);

    /// <summary>The printed track.</summary>
    public TakeTrack Track => Line.Track;

    /// <summary>What it is called here.</summary>
    public string Title { get; init; } = Line.Track.Name;

    /// <summary>A remark beneath.</summary>
    public string Sub { get; init; } = "";

    /// <summary>Where more of it is told.</summary>
    public (string Text, string Address)? More { get; init; }

    /// <summary>True if it is not heard at first.</summary>
    public bool Muted { get; init; }

    /// <summary>Its family; null if mixed or nothing.</summary>
    public Family? Family => Enum.TryParse<Family>(Track.Family, out var family) ? family : null;

    /// <summary>What its levels say of a file, in a word or two.</summary>
    public string Verdict => Track switch
    {
        { ClippedRuns: > 0 } => $"clips {Track.ClippedRuns}×",
        { IsClean: true } => "clean",
        { Silent: true } => "silent",
        _ => $"full scale {(Track.FullScale is { } count ? $"{count}×" : "")}",
    };

    /// <summary>A sample's place in a picture of this many columns of a take of this many frames.</summary>
    public static string At(Frames frame, Frames frames, int columns) => (columns * (double)frame.Count / Math.Max(1, frames.Count)).ToString("0.0");

    /// <summary>How the samples of a file are read.</summary>
    internal static Source Read(string url, string of, AudioFormat format, Frames frames, Bytes offset) =>
        new(url, of, format.Channels, format.BytesPerSample, format.IsFloat, frames.Count, offset.Count);
}
