using System.Globalization;
using GateSplit.Core.Quantities;
using GateSplit.Core.Views;

namespace GateSplit.Core.Proofing;

/// <summary>What a proof finds wrong, the cause before what follows from it.</summary>
public static class ProofFindings
{
    /// <summary>From here on, a file is late against its take, in seconds.</summary>
    internal const double Late = 0.001;

    /// <summary>As <see cref="Late"/>, for what is only known from notes: sounds rise faster or more slowly.</summary>
    private const double LateByNotes = 0.0015;

    /// <summary>As <see cref="Late"/>, for what is only known from the notes of a held sound.</summary>
    private const double LateOfHeld = 0.02;

    private const double LateFromAfar = 0.05; // s: 17 m
    private const double TakeLate = 0.001; // s
    private const double Drifts = 2; // ppm against a reference
    private const double DriftsFromNotes = 10; // ppm
    private const double AtTheStart = 0.03; // s
    private const double LeastDc = 0.003; // of full scale: -50 dBFS
    private static readonly Decibels MuchBleed = new(-20);
    private static readonly Decibels AddsUp = new(-60);

    /// <summary>Looks at everything.</summary>
    public static IEnumerable<ProofFinding> Of(TakeProof proof) => [.. OfTake(proof), .. Enumerable.Range(0, proof.Tracks.Length).SelectMany(i => OfTrack(proof, i))];

    private static IEnumerable<ProofFinding> OfTake(TakeProof proof)
    {
        if (proof.OffsetSeconds is { } offset && Math.Abs(offset) >= (proof.IsAbout ? LateOfHeld : TakeLate))
        {
            yield return new(ProofFault.TakeOff, Severity.Warning, null, $"The take is {(proof.IsAbout ? "about " : "")}{Milliseconds(offset)} against {(proof.FromReference is null ? "its notes" : "the reference")}.");
        }

        if (proof.DriftPpm is { } drift && Math.Abs(drift) >= LeastDrift(proof))
        {
            yield return new(ProofFault.Drift, Severity.Warning, null, $"It runs {Math.Abs(drift).ToString("0.0", CultureInfo.InvariantCulture)} ppm {(drift > 0 ? "slow" : "fast")}.");
        }

        if (Apart(proof) is { } apart)
        {
            yield return apart;
        }

        if (proof.HasReference && proof.FromReference is null)
        {
            yield return new(ProofFault.NotTheMix, Severity.Warning, null, "The reference and the tracks have nothing in common.");
        }
        else if (proof.Null is { } left && left.Fitted > AddsUp)
        {
            yield return new(ProofFault.NotTheMix, Severity.Note, null, $"The tracks do not add up to the mix: {left.Fitted} of it is left, whatever their gains.");
        }

        if (proof.Tracks.Select(t => t.Recorded).Distinct().ToList() is { Count: > 1 } lengths)
        {
            yield return new(ProofFault.Uneven, Severity.Warning, null, $"The files have {Words.Count(lengths.Count, "length")}: some end before others.");
        }
    }

    /// <summary>What is struck lies apart, and nothing tells where the take lies; null where that is not so.</summary>
    private static ProofFinding? Apart(TakeProof proof)
    {
        List<(string Name, double Offset)> struck =
        [
            .. from t in proof.Tracks
               where t is { OffsetSeconds: null, Double: null } && t.Identity.Part is { } part && !proof.Parts[part].Held && !proof.Parts[part].IsFromAfar(proof.Parts)
               where t.Identity.Offset is not null
               select (t.File, t.Identity.Offset!.Value),
        ];
        if (struck.Count < 2 || struck.Max(s => s.Offset) - struck.Min(s => s.Offset) is not (>= LateByNotes and var apart))
        {
            return null;
        }

        var middle = struck.Min(s => s.Offset) + (apart / 2);
        var (late, early) = (struck.FindAll(s => s.Offset > middle), struck.FindAll(s => s.Offset <= middle));
        string Names(IEnumerable<(string Name, double Offset)> of) => Words.List([.. of.Select(s => s.Name)], most: 3);
        return new(ProofFault.Apart, Severity.Warning, null, string.Create(CultureInfo.InvariantCulture, $"{Names(late)} {(late.Count == 1 ? "comes" : "come")} {(struck.Count == 2 ? "" : "up to ")}{apart * 1000:0.0} ms later than {Names(early)}: which of them are out of time cannot be told."));
    }

    /// <summary>From here on, a drift is one: more than its measure can be wrong by.</summary>
    private static double LeastDrift(TakeProof proof)
    {
        const double Surely = 5;
        return proof.FromReference is null ? Math.Max(DriftsFromNotes, Surely * 1e6 * proof.FromNotes!.Spread) : Drifts;
    }

    private static IEnumerable<ProofFinding> OfTrack(TakeProof proof, int file)
    {
        var track = proof.Tracks[file];
        ProofFinding Say(ProofFault fault, Severity severity, string sentence) => new(fault, severity, file, sentence);
        if (track.Scan.IsSilent)
        {
            yield return Say(ProofFault.Silent, Severity.Warning, track.Named is { } part && proof.Parts[part].Notes.Length is > 0 and var notes
                ? $"Nothing is in it, though {Words.Count(notes, "note")} {(notes == 1 ? "is" : "are")} played."
                : "Nothing is in it.");
            yield break;
        }

        if (track.Double is { } twin)
        {
            yield return Say(ProofFault.Double, Severity.Warning, Twice(proof, twin));
        }
        else if (track.Named is { } named && proof.Parts[named].Notes.Length > 0 && track.Identity.Part != named)
        {
            yield return track.Identity.Part is { } other
                ? Say(ProofFault.OtherElement, Severity.Warning, $"Its name says {proof.Parts[named].Name}, but it plays the notes of {proof.Parts[other].Name}.")
                : Say(ProofFault.Unknown, Severity.Warning, $"Neither {proof.Parts[named].Name} nor any other of the elements can be made out in it.");
        }

        else if (track.Named is { } meant && track.Identity.Part is { } sounding && sounding != meant)
        {
            yield return Say(ProofFault.OtherElement, Severity.Warning, $"Its name says {proof.Parts[meant].Name}, but it sounds as {proof.Parts[sounding].Name} did in the roll call.");
        }

        foreach (var finding in OfTime(proof, file, Say).Concat(OfSides(proof, track, Say)).Concat(OfDamage(proof, track, Say)))
        {
            yield return finding;
        }

        foreach (var bleed in track.Bleed)
        {
            yield return Say(ProofFault.Bleed, bleed.Level >= MuchBleed ? Severity.Warning : Severity.Note, $"{proof.Tracks[bleed.From].File} bleeds in at {(bleed.About ? "about " : "")}{bleed.Level}.");
        }

        if (track.Remark is { } remark)
        {
            yield return Say(ProofFault.Uneven, Severity.Warning, remark);
        }
    }

    private static string Twice(TakeProof proof, DoubleOf twin)
    {
        var name = proof.Tracks[twin.File].File;
        var opposed = twin.Polarity < 0 ? ", upside down" : "";
        return twin.FirstNotch(proof.Rate) is { } notch
            ? string.Create(CultureInfo.InvariantCulture, $"It holds what {name} holds, {Math.Abs(twin.LagFrames):0.0} samples {(twin.LagFrames > 0 ? "later" : "earlier")}{opposed}: together they cancel at {notch:0} Hz.")
            : $"It holds what {name} holds{opposed}.";
    }

    private static IEnumerable<ProofFinding> OfTime(TakeProof proof, int file, Func<ProofFault, Severity, string, ProofFinding> say)
    {
        var track = proof.Tracks[file];
        var held = track.ByNotes && track.Identity.Part is { } part && proof.Parts[part].Held;
        var afar = track.Identity.Part is { } own && !proof.Parts[own].IsAlone(proof.Parts);
        if (track.OffsetSeconds is { } offset && Math.Abs(offset) >= (held ? LateOfHeld : track.ByNotes ? LateByNotes : Late))
        {
            // A microphone beside others stands farther away than the nearest of them.
            yield return say(ProofFault.TrackOff, afar && offset > 0 && offset < LateFromAfar ? Severity.Note : Severity.Warning, $"{Capital(Milliseconds(offset))} against its take.");
        }

        if (proof.MissingAtStart(file) is > 0 and var missing)
        {
            yield return say(ProofFault.EntersLate, Severity.Warning, $"Its first {Words.Count(missing, "note")} are missing: it comes in at {Words.Clock(proof.Parts[track.Identity.Part!.Value].Notes.Where(n => proof.FromNotes!.Of(n) >= 0).ElementAt(missing))} of the song.");
        }
    }

    private static IEnumerable<ProofFinding> OfSides(TakeProof proof, TrackProof track, Func<ProofFault, Severity, string, ProofFinding> say)
    {
        if (track.Polarity < 0)
        {
            yield return track.PolarityAgainst is { } partner
                ? say(ProofFault.UpsideDown, Severity.Note, $"It is upside down against {proof.Tracks[partner].File}, as a microphone beneath a drum is.")
                : say(ProofFault.UpsideDown, Severity.Warning, "It is upside down.");
        }

        var (fault, sentence) = track.Scan.Pair switch
        {
            PairState.OneChannel => (ProofFault.OneChannel, "Both sides hold the same: it is one channel."),
            PairState.UpsideDown => (ProofFault.SidesOpposed, "One side is the other upside down: in mono nothing is left."),
            PairState.LeftMissing => (ProofFault.SideMissing, "Its left side is silent."),
            PairState.RightMissing => (ProofFault.SideMissing, "Its right side is silent."),
            _ => (default, ""),
        };
        if (sentence.Length > 0)
        {
            yield return say(fault, fault == ProofFault.OneChannel ? Severity.Note : Severity.Warning, sentence);
        }
    }

    private static IEnumerable<ProofFinding> OfDamage(TakeProof proof, TrackProof track, Func<ProofFault, Severity, string, ProofFinding> say)
    {
        var scan = track.Scan;
        string At(Frames frames) => Words.ClockToMillisecond(frames.Seconds(scan.Levels.Format.SampleRate));
        if (scan.Levels.Channels.Sum(c => c.ClippedRuns) is > 0 and var clips)
        {
            var first = scan.Levels.Channels.SelectMany(c => c.Runs).MinBy(r => r.StartFrame);
            yield return say(ProofFault.Clips, Severity.Warning, $"It clips {Words.Count(clips, "time")}, first at {At(first.StartFrame)}.");
        }

        if (scan.Dropouts > 0)
        {
            yield return say(ProofFault.Dropouts, Severity.Warning, $"{Words.Count(scan.Dropouts, "dropout")}, the first at {At(scan.DropoutPlaces[0].Start)}.");
        }

        if (scan.Clicks > 0)
        {
            yield return say(ProofFault.Clicks, Severity.Warning, $"{Words.Count(scan.Clicks, "click")}, the first at {At(scan.ClickPlaces[0].At)}.");
        }

        if (scan.EndsInSound is { } end)
        {
            yield return say(ProofFault.CutOff, Severity.Warning, $"It breaks off while it still sounds, at {Dbfs(end)}.");
        }

        if (scan.BeginsInSound is { } begin && !(proof.FromNotes is { } time && proof.Parts.Any(p => p.Notes.Any(n => Math.Abs(time.Of(n)) < AtTheStart))))
        {
            yield return say(ProofFault.BeginsInside, Severity.Note, $"Where it begins, something already sounds, at {Dbfs(begin)}.");
        }

        if (scan.Levels.Channels.Max(c => Math.Abs(c.DcOffset)) is > LeastDc and var dc)
        {
            yield return say(ProofFault.Dc, Severity.Note, $"It stands {Dbfs(Decibels.FromRatio(dc))} beside zero (DC).");
        }

        foreach (var remark in scan.Levels.Remarks)
        {
            yield return say(ProofFault.Uneven, Severity.Warning, remark);
        }
    }

    internal static string Milliseconds(double seconds)
    {
        var rounded = Math.Round(seconds * 1000, 1);
        return string.Create(CultureInfo.InvariantCulture, $"{Math.Abs(rounded):0.0} ms {(rounded < 0 ? "early" : "late")}");
    }

    private static string Dbfs(Decibels level) => level.ToString().Replace("dB", "dBFS", StringComparison.Ordinal);

    private static string Capital(string text) => char.ToUpperInvariant(text[0]) + text[1..];
}
