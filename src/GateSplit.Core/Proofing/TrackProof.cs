using System.Collections.Immutable;
using GateSplit.Core.Quantities;

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
    /// <summary>As in <see cref="ProofFile.Id"/>.</summary>
    public string? Id { get; init; }

    /// <summary>How long it was recorded.</summary>
    public Frames Recorded { get; init; } = Scan.Levels.Frames;

    /// <summary>True if its offset is known from its notes alone, and not by the sound of a reference.</summary>
    public bool ByNotes { get; init; }

    /// <summary>What else may be in it, and up to which level that would be hidden by other sounds.</summary>
    public ImmutableArray<Bleed> Hidden { get; init; } = [];

    /// <summary>How many notes at its start are far softer than all behind them; null where levels do not tell that.</summary>
    public int? SoftAtStart { get; init; }

    /// <summary>How many notes are missing at the start, where nearly all before one are and nearly all behind it are there; 0 otherwise.</summary>
    /// <param name="before">How many notes lie before the file's own start, as where a take begins early.</param>
    public int MissingAtStart(int before)
    {
        const int Several = 2;
        const double Few = 0.25;
        const double Most = 0.8;
        var (best, missing) = (0, 0);
        for (var i = 0; i < Identity.Heard.Length; i++)
        {
            // Up to this one, so many are missing, and so many are there.
            var note = Identity.Heard[i];
            var gone = note - before - i;
            if (gone >= Several && Identity.Heard.Length - i > i && i <= Few * (note - before) && Identity.Heard.Length - i >= Most * (Identity.Notes - note) && gone - i > missing)
            {
                (best, missing) = (note - before, gone - i);
            }
        }

        return best;
    }
}
