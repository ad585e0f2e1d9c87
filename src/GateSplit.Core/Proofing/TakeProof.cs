using System.Collections.Immutable;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>What a take really holds: all its files judged together.</summary>
/// <param name="Rate">The sample rate at which files are compared with each other.</param>
/// <param name="FromNotes">How the take lies to the notes; null where there are none, or none fit.</param>
/// <param name="FromReference">How it lies to the reference: frames by which it is later at its start, and how much that grows with each frame; null where there is none, or nothing in common.</param>
/// <param name="HasReference">True if there was a reference.</param>
/// <param name="Null">What is left of the reference when the tracks are taken away; null where there is none.</param>
/// <param name="Parts">The parts it was compared with.</param>
/// <param name="NeverAlone">Files whose element is never heard alone: where else it is cannot be told.</param>
/// <param name="Tracks">The files, in their order.</param>
public sealed record TakeProof(
    SampleRate Rate,
    TakeTime? FromNotes,
    (double Start, double Slope)? FromReference,
    bool HasReference,
    NullTest? Null,
    ImmutableArray<Part> Parts,
    ImmutableArray<int> NeverAlone,
    ImmutableArray<TrackProof> Tracks)
{
    /// <summary>By how much it is late along its time: against the reference, or else against the notes.</summary>
    public ImmutableArray<OffsetAt> Offsets { get; init; } = [];

    /// <summary>By how much the take is late, in seconds: against the reference, or else against the notes; null where neither tells.</summary>
    public double? OffsetSeconds => FromReference is var (start, _) ? start / Rate.Hz : FromNotes?.Offset;

    /// <summary>True where that is told by notes alone, and not to the millisecond.</summary>
    public bool IsAbout => FromReference is null && FromNotes is { About: true };

    /// <summary>By how many millionths it runs slow; null where nothing tells.</summary>
    public double? DriftPpm => (FromReference?.Slope ?? FromNotes?.Drift) * 1e6;

    /// <summary>How many notes at the start of a file are missing that it could hold: 0 where it comes in when it should.</summary>
    /// <param name="file">The file, by its place.</param>
    public int MissingAtStart(int file) => Tracks[file] is { Identity.Part: { } part } track && FromNotes is { } time
        ? track.SoftAtStart ?? track.MissingAtStart(Parts[part].Notes.Count(n => time.Of(n) < 0))
        : 0;

    /// <summary>Judges the files of a take, which begin together.</summary>
    /// <param name="files">The files.</param>
    /// <param name="parts">What they ought to hold.</param>
    /// <param name="reference">A recording of all of them together, such as the main mix; may be null.</param>
    /// <param name="progress">Told the share done, 0 to 1; may be null.</param>
    /// <param name="cancel">Stops it.</param>
    public static TakeProof Of(IReadOnlyList<ProofFile> files, IReadOnlyList<Part> parts, WaveReader? reference, IProgress<double>? progress = null, CancellationToken cancel = default) =>
        new TakeJudge(files, parts, reference, progress, cancel).Judge();
}
