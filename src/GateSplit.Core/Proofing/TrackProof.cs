using System.Collections.Immutable;

namespace GateSplit.Core.Proofing;

/// <summary>What one file of a take holds.</summary>
/// <param name="File">What it is called.</param>
/// <param name="Named">The part its name says; null where nothing is known.</param>
/// <param name="Scan">Levels and damage.</param>
/// <param name="Identity">The part it really holds.</param>
/// <param name="OffsetSeconds">By how much later it is than the take; null where it cannot be told.</param>
/// <param name="Polarity">-1 where it is upside down, null where it cannot be told.</param>
/// <param name="PolarityAgainst">The file it was compared with; null for the reference.</param>
/// <param name="Double">The file that holds the same; null for none.</param>
/// <param name="Bleed">What else is in it, the loudest first.</param>
/// <param name="Remark">Why some questions could not be asked of it; null if all could.</param>
public sealed record TrackProof(
    string File,
    int? Named,
    TrackScan Scan,
    Identity Identity,
    double? OffsetSeconds,
    int? Polarity,
    int? PolarityAgainst,
    DoubleOf? Double,
    ImmutableArray<Bleed> Bleed,
    string? Remark)
{
    /// <summary>The first note that is heard, where several before it are missing and nearly all behind it are there; 0 otherwise.</summary>
    public int MissingAtStart
    {
        get
        {
            const int Several = 2;
            const double NearlyAll = 0.8;
            return Identity.Part is not null && Identity.Heard is [>= Several and var first, ..] && Identity.Heard.Length >= NearlyAll * (Identity.Notes - first) ? first : 0;
        }
    }
}
