using System.Collections.Immutable;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Proofing;

/// <summary>Which mends the findings of a proof ask for.</summary>
public static class MendOffers
{
    private const double Sure = 0.6; // certainty of what a file holds
    private const double LeastSure = 0.3; // of it, where what is in it is no certain guide to what is heard of it in the mix
    private const int EnoughTracks = 2; // that are struck and say where the take lies
    private const int EnoughHits = 40; // of theirs
    private const double Together = 0.0003; // s: where so few lie so near where the take is said to lie, each may be late by itself
    private const double NotByFar = 0.05; // s
    private const double FarByNotes = 0.003; // s: notes alone do not tell a sound that rises slowly from one that is late by less

    /// <summary>The mend of one finding. Where notes and reference place a take a beat or a bar apart, somebody has to listen.</summary>
    /// <param name="proof">The proof it is of.</param>
    /// <param name="finding">The finding.</param>
    /// <param name="tracks">The tracks of the files, in their order.</param>
    /// <returns>Null where no mend helps, or that of another finding does it as well: a take that is late and drifts is put right at once.</returns>
    public static MendOffer? Of(TakeProof proof, ProofFinding finding, ImmutableArray<TrackId> tracks) => finding.File is { } file
        ? OfTrack(proof, finding.Fault, file, tracks)
        : (finding.Fault == ProofFault.TakeOff || (finding.Fault == ProofFault.Drift && !Is(proof, ProofFault.TakeOff))) && proof.OffsetSeconds is { } offset
            ? new(new MoveTake(offset, Drift(proof)), IsSurelyThere(proof, offset))
            : null;

    /// <summary>All mends that are sure, each once, in an order in which none disturbs another.</summary>
    public static ImmutableArray<Mend> AllSure(TakeProof proof, ImmutableArray<TrackId> tracks)
    {
        var offers = ProofFindings.Of(proof).Select(f => Of(proof, f, tracks)).OfType<MendOffer>().Where(o => o.Sure).Select(o => o.Mend).Distinct().ToList();

        // What is said of a file goes by its name, so names are exchanged last; and of each exchange there are two, one from each side.
        var exchanges = new List<ExchangeNames>();
        foreach (var exchange in offers.OfType<ExchangeNames>())
        {
            if (!exchanges.Exists(e => e.One == exchange.Other && e.Other == exchange.One))
            {
                exchanges.Add(exchange);
            }
        }

        return [.. offers.Where(o => o is not ExchangeNames).OrderBy(o => o is MoveTake ? 1 : 0), .. exchanges];
    }

    /// <summary>The drift that is undone with the offset: only one that is more than its measure can be wrong by.</summary>
    private static double Drift(TakeProof proof) => Is(proof, ProofFault.Drift) ? proof.DriftPpm!.Value : 0;

    private static bool Is(TakeProof proof, ProofFault fault) => ProofFindings.Of(proof).Any(f => f.Fault == fault);

    /// <summary>True where notes and reference place a take together, or one of them alone tells its place well.</summary>
    private static bool IsSurelyThere(TakeProof proof, double offset) => proof.FromReference is null
        ? IsKnown(proof) && Known(proof).Count(t => Math.Abs(t.Identity.Offset!.Value) <= Together) >= EnoughTracks
        : LieTogether(proof) && (!IsKnown(proof) || proof.FromNotes!.IsLike(offset, proof.FromReference.Value.Slope));

    /// <summary>True where most of what is heard in the reference, but from afar, lies where the take is said to lie.</summary>
    private static bool LieTogether(TakeProof proof)
    {
        var heard = proof.Tracks.Where(t => t is { ByNotes: false, OffsetSeconds: not null, Double: null } && !(t.Identity.Part is { } part && proof.Parts[part].IsFromAfar(proof.Parts))).ToList();
        return heard.Count(t => Math.Abs(t.OffsetSeconds!.Value) > Together) is var apart && (apart == 0 || 2 * apart < heard.Count);
    }

    private static bool IsKnown(TakeProof proof) => Known(proof) is { Count: >= EnoughTracks } known && known.Sum(t => t.Identity.Hits) >= EnoughHits;

    /// <summary>The tracks that are struck, and surely what they are said to be.</summary>
    private static List<TrackProof> Known(TakeProof proof) =>
        [.. proof.Tracks.Where(t => t.Identity is { Part: { } part, Certainty: > Sure, Offset: not null } && !proof.Parts[part].Held)];

    private static MendOffer? OfTrack(TakeProof proof, ProofFault fault, int file, ImmutableArray<TrackId> tracks)
    {
        var track = proof.Tracks[file];
        var id = tracks[file];
        return fault switch
        {
            ProofFault.TrackOff when track.OffsetSeconds is { } offset => new(new MoveTrack(id, offset), Math.Abs(offset) < NotByFar && IsKnownBy(track, offset) && IsItself(proof, file, tracks) && IsSurelyStruck(proof, track)),
            ProofFault.UpsideDown => new(new TurnPolarity(id), track.PolarityAgainst is null && (track.Identity.Part is not { } own || (track.Identity.Certainty >= LeastSure && proof.Parts[own].IsAlone(proof.Parts)))),
            ProofFault.SidesOpposed => new(new TurnPolarity(id, RightOnly: true), false),
            ProofFault.OneChannel => new(new MakeMono(id, MonoOf.Mean), false),
            ProofFault.SideMissing => new(new MakeMono(id, track.Scan.Pair == PairState.LeftMissing ? MonoOf.Right : MonoOf.Left), false),
            ProofFault.Dc => new(new RemoveDc(id, [.. track.Scan.Levels.Channels.Select(c => c.DcOffset)]), true),
            ProofFault.OtherElement when Holder(proof, track.Named!.Value) is { } holder && holder != file =>
                new(new ExchangeNames(id, tracks[holder]), proof.Tracks[holder].Identity.Certainty > Sure && proof.Tracks[holder].Named == track.Identity.Part && track.Identity.Certainty > Sure),
            _ => null,
        };
    }

    /// <summary>True of a file that holds what its name says, or will when names are exchanged that surely are: else it may be what bleeds into it that is late.</summary>
    private static bool IsItself(TakeProof proof, int file, ImmutableArray<TrackId> tracks) =>
        !ProofFindings.Of(proof).Any(f => f.Fault == ProofFault.OtherElement && f.File == file) || OfTrack(proof, ProofFault.OtherElement, file, tracks) is { Sure: true };

    /// <summary>True where its notes tell enough of when it sounds, and the reference, if there is one, tells the same.</summary>
    private static bool IsKnownBy(TrackProof track, double offset) => track.ByNotes ? Math.Abs(offset) >= FarByNotes : track.Identity.Offset is not { } byNotes || Math.Abs(offset - byNotes) < FarByNotes;

    /// <summary>True of a file that surely holds what is struck, and no other hears: where two files are told to hold it, it may be what bleeds into one of them.</summary>
    private static bool IsSurelyStruck(TakeProof proof, TrackProof track) =>
        track.Identity is { Certainty: > Sure, Part: { } part } && !proof.Parts[part].Held && proof.Parts[part].IsAlone(proof.Parts)
        && proof.Tracks.Count(t => t.Identity.Part == part && t.Double is null) <= 1;

    /// <summary>The file that holds a part; null for none.</summary>
    private static int? Holder(TakeProof proof, int part) =>
        Enumerable.Range(0, proof.Tracks.Length).Where(i => proof.Tracks[i].Identity.Part == part && proof.Tracks[i].Double is null).Select(i => (int?)i).FirstOrDefault();
}
