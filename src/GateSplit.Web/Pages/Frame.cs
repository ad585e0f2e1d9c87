using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;
using GateSplit.Data;

namespace GateSplit.Web.Pages;

/// <summary>What the frame around a session's pages shows: the route and the status line.</summary>
/// <param name="Session">The session.</param>
/// <param name="Findings">What the checks say.</param>
/// <param name="Takes">How many takes there are.</param>
/// <param name="Job">The newest job; null if there never was one.</param>
/// <param name="FreeBytes">Free on the disk of the audio store.</param>
/// <param name="Proof">What the proof of the newest take says.</param>
public sealed record Frame(OpenSession Session, IReadOnlyList<Finding> Findings, long Takes, Job? Job, Bytes FreeBytes, ProofState Proof)
{
    /// <summary>Length and size of a pass.</summary>
    public PassTimes Times { get; } = PassTimes.Of(Session.Lines, Session.Song);

    /// <summary>The elements whose lines can be checked.</summary>
    public IReadOnlyList<ElementRef> LinesToCheck { get; } =
        [.. Session.Lines.SoundingElements.Where(e => e.Chart.Kind != ElementKind.NoteOnly).Select(e => e.Ref)];

    /// <summary>Findings that should be mended.</summary>
    public int ToMend => Findings.Count(f => f.ToMend);

    /// <summary>What follows from a finding, and is mended with it.</summary>
    public IReadOnlyList<Finding> FollowingFrom(Finding cause) => [.. Findings.Where(f => f.Under == cause.Id)];

    /// <summary>A station's state in words.</summary>
    public string State(string station) => station switch
    {
        "sources" => Session.State.Split.Units.Count(u => u.NeedsRestart) is > 0 and var waiting
            ? $"{waiting} to restart"
            : Core.Words.Count(Session.State.Split.Units.Length, "source"),
        "recorder" => Core.Words.Count(Session.State.Split.Banks.Length, "row of inputs", "rows of inputs"),
        "split" => Session.State.Split.Tracks.IsEmpty ? "not begun" : ToMend > 0 ? $"{ToMend} to mend" : "ready",
        "line-check" => LinesToCheck.Count is 0 || LinesToCheck.Count(e => LineWay.IsTicked(Session.Lines.Signal, e)) is var ticked && ticked == 0
            ? "not begun"
            : ticked == LinesToCheck.Count ? "ready" : $"{ticked} of {LinesToCheck.Count} ticked",
        "print" => Job is { IsActive: true } ? "running" : Takes > 0 ? Core.Words.Count(Takes, "take") : "not begun",
        "proof" => (Takes, Proof) switch
        {
            (0, _) or (_, { Made: false, Running: false }) => "not begun",
            (_, { Running: true }) => "running",
            (_, { OnTrial: true }) => "on trial",
            (_, { ToMend: > 0 }) => $"{Proof.ToMend} to mend",
            _ => "ready",
        },
        _ => Takes > 0 ? "ready" : "not begun",
    };

    /// <summary>A station's mark: a letter-free sign that goes with its state.</summary>
    public string Mark(string station) => State(station) switch
    {
        "not begun" => "○",
        "running" => "▸",
        var state when state.EndsWith("restart", StringComparison.Ordinal) => "!",
        var state when state.EndsWith("mend", StringComparison.Ordinal) || state.EndsWith("trial", StringComparison.Ordinal) => "!",
        "ready" => "●",
        _ => "✓",
    };

    /// <summary>Gathers it.</summary>
    public static async Task<Frame> Of(OpenSession session, IReadOnlyList<Finding> findings, TakeStore takes, JobStore jobs, IAudioStore store, ProofStore proofs)
    {
        var count = await takes.Count(session.State.Id);
        var free = store.FreeBytes;
        var space = new DiskSpace(PassTimes.Of(session.Lines, session.Song).Bytes, free);
        return new Frame(session, space.NeededBytes > space.FreeBytes ? AllChecks.Look(session.Lines.With(space)) : findings, count, await jobs.Newest(session.State.Id), free, await proofs.StateOf(session.State.Id));
    }
}
