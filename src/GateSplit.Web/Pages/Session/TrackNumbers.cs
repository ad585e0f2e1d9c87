using GateSplit.Core.Proofing;

namespace GateSplit.Web.Pages.Session;

/// <summary>The numbers of one track on the Proof page, as they are written there.</summary>
/// <param name="track">What the track holds.</param>
public sealed class TrackNumbers(TrackProof track)
{
    /// <summary>True peak, loudness, floor, lateness, certainty.</summary>
    public IReadOnlyList<string> All { get; } =
    [
        Ui.Level(track.Scan.Levels.TruePeaks.IsEmpty ? null : Ui.Finite(track.Scan.Levels.TruePeaks.Max())),
        track.Scan.Levels.Loudness.Integrated is { } loud ? Ui.Level(new(loud)) : "–",
        Ui.Level(track.Scan.Levels.Floors.Max() is { } floor ? Ui.Finite(floor) : null),
        track.OffsetSeconds is { } late ? $"{Math.Round(late * 1000, 1) + 0.0:0.0}".Replace('-', '−') : "–",
        track.Identity.Part is null ? "–" : $"{track.Identity.Certainty * 100:0}",
    ];
}
