using GateSplit.Core.Views;

namespace GateSplit.Core.Proofing;

/// <summary>Proofs in words.</summary>
public static class ProofWords
{
    private const int MostBleeds = 2;

    /// <summary>The take in one line: what it is, and how much there is to mend.</summary>
    public static string Verdict(TakeProof proof)
    {
        if (proof.Tracks.IsEmpty)
        {
            return "There are no files to look at.";
        }

        var known = proof.Tracks.Where(t => t.Named is { } part && (proof.Parts[part].Notes.Length > 0 || t.Identity.Part is not null)).ToList();
        var unknown = proof.Tracks.Except(known).Select(t => t.File).ToList();
        var right = known.Count(t => t.Identity.Part == t.Named && t.Double is null);
        var wrong = ProofFindings.Of(proof).Count(f => f.Severity >= Severity.Warning);
        var held = known.Count == 0
            ? $"There are no notes to know the {Words.Count(proof.Tracks.Length, "file")} by"
            : right == known.Count && known.Count == proof.Tracks.Length
                ? known.Count == 1 ? "The file holds what its name says" : $"All {known.Count} files hold what their names say"
                : $"{right} of {Words.Count(proof.Tracks.Length, "file")} {(right == 1 ? "holds" : "hold")} what {(right == 1 ? "its name says" : "their names say")}{(unknown.Count == 0 ? "" : $", and nothing tells what {Words.List(unknown, most: 3)} should hold")}";
        var place = (proof.OffsetSeconds, proof.FromReference) switch
        {
            (null, _) => proof.HasReference ? "where the take lies cannot be told" : "there is nothing to tell where the take lies",
            ({ } offset, null) => $"{(proof.IsAbout ? "about " : "")}{ProofFindings.Milliseconds(offset)} against the notes",
            ({ } offset, _) => $"{ProofFindings.Milliseconds(offset)} against the reference",
        };
        return $"{held}; {place}; {(wrong == 0 ? "nothing to mend" : $"{wrong} to mend")}.";
    }

    /// <summary>One file in a sentence or a few: what it is, and what is wrong with it.</summary>
    /// <param name="proof">The proof.</param>
    /// <param name="file">The file, by its place.</param>
    public static string Sentence(TakeProof proof, int file)
    {
        var track = proof.Tracks[file];
        var findings = ProofFindings.Of(proof).Where(f => f.File == file).ToList();
        var bleeds = findings.Where(f => f.Fault == ProofFault.Bleed).Skip(MostBleeds).ToHashSet();
        return string.Join(' ', [.. Held(proof, track), .. findings.Where(f => !bleeds.Contains(f)).Select(f => f.Sentence)]);
    }

    /// <summary>What a file is, without what is wrong with it.</summary>
    /// <param name="proof">The proof.</param>
    /// <param name="file">The file, by its place.</param>
    public static string What(TakeProof proof, int file) => string.Join(' ', Held(proof, proof.Tracks[file]));

    private static IEnumerable<string> Held(TakeProof proof, TrackProof track)
    {
        if (track.Scan.IsSilent)
        {
            yield break;
        }

        if (track.Identity.Part is { } part)
        {
            // What swells has few beginnings: it is known by its pitches.
            var by = proof.Parts[part].Notes.IsEmpty ? ", by its sound in the roll call"
                : proof.Parts[part].Held && 2 * track.Identity.Hits < track.Identity.Notes ? ", by its pitches" : $": {track.Identity.Hits} of {Words.Count(track.Identity.Notes, "hit")}";
            yield return $"This is {proof.Parts[part].Name}{by}{(track.Identity.Certainty < 0.6 ? ", as far as can be told" : "")}.";
        }
        else if (track.Named is not { } named || proof.Parts[named].Notes.IsEmpty)
        {
            yield return "There are no notes to know it by.";
        }
    }
}
