using System.Collections.Immutable;
using GateSplit.Core.Proofing;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Data;
using GateSplit.Jobs;
using GateSplit.Web.Forms;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;

namespace GateSplit.Web.Pages.Session;

/// <summary>What a take really holds, and its mends.</summary>
public sealed class ProofModel(OpenSessions open, SessionStore sessions, TakeStore takes, JobStore jobs, IAudioStore store, ProofStore proofs, JobQueue queue, Overviews overviews, Waveforms waveforms)
    : SessionPage(open, sessions, takes, jobs, store)
{
    /// <summary>The take that is shown; the newest where none is named.</summary>
    [BindProperty(SupportsGet = true, Name = "take")]
    public int? Number { get; set; }

    /// <summary>All takes, the newest first.</summary>
    public IReadOnlyList<Take> AllTakes { get; private set; } = [];

    /// <summary>The take that is shown; null if there is none.</summary>
    public Take? Take { get; private set; }

    /// <summary>Its proof; null if it was not looked at yet.</summary>
    public KeptProof? Kept { get; private set; }

    /// <summary>Its mends.</summary>
    public MendList Mends { get; private set; } = new([], [], MendList.None);

    /// <summary>What of it is meant so, with the reasons.</summary>
    public IReadOnlyDictionary<string, string> Accepted { get; private set; } = ImmutableDictionary<string, string>.Empty;

    /// <summary>The job that proves it, or the last one that did; null if there was none.</summary>
    public Job? Job { get; private set; }

    /// <summary>What the proof finds.</summary>
    public IReadOnlyList<ProofFinding> Findings { get; private set; } = [];

    /// <summary>The take in the player, as its mends make it; null where its mends cannot be made.</summary>
    public TakeView? Player { get; private set; }

    /// <summary>The tracks of the files that were proved, in their order.</summary>
    public ImmutableArray<TrackId> TrackIds { get; private set; } = [];

    /// <summary>The mends that are sure.</summary>
    public ImmutableArray<Mend> Sure { get; private set; } = [];

    /// <summary>What was said before the mend on trial, where what is said now is said with it; null otherwise.</summary>
    public TakeProof? Untried => Mends.Trial > 0 && IsCurrent ? Kept!.Untried : null;

    /// <summary>True if the proof is of the take as its mends make it now.</summary>
    public bool IsCurrent => Kept is { } kept && kept.Mends == Mends.Json;

    /// <summary>The findings of one file, or of the take where none is named.</summary>
    public IEnumerable<ProofFinding> Of(int? file) => Findings.Where(f => f.File == file && f.Fault != ProofFault.Bleed);

    /// <summary>What mends a finding; null for nothing.</summary>
    public MendOffer? Offer(ProofFinding finding) => MendOffers.Of(Kept!.Proof, finding, TrackIds);

    /// <summary>The track that is printed again for a finding that no mend puts right; null where that would not help, or nothing prints it.</summary>
    public TrackId? PrintsAgain(ProofFinding finding) =>
        finding is { ToMend: true, File: { } file } && finding.Fault is ProofFault.Silent or ProofFault.Clips or ProofFault.Dropouts or ProofFault.Clicks or ProofFault.CutOff or ProofFault.EntersLate or ProofFault.Unknown
        && Take!.Kind == TakeKind.Print && Session.State.Split.Track(TrackIds[file]) is { Armed: true } ? TrackIds[file] : null;

    /// <summary>The mends in words, each as it is done.</summary>
    public IEnumerable<string> MendNames() => TakeMends.Names(Take!, Mends);

    /// <summary>What a mend is called now.</summary>
    public string NameOf(Mend mend) => mend.Name(TakeMends.Of(Take!).With(Mends.Mends).Value ?? TakeMends.Of(Take!));

    /// <summary>Shows the page.</summary>
    public async Task<IActionResult> OnGet() => await Show() ? Page() : NotFound();

    /// <summary>How far the proof is, for a page that waits for it.</summary>
    public async Task<IActionResult> OnGetProgress()
    {
        if (!await Show())
        {
            return NotFound();
        }

        if (Job is not { IsActive: true })
        {
            Response.Headers["HX-Refresh"] = "true";
        }

        return Partial("_ProofProgress", this);
    }

    /// <summary>Lays two tracks over each other.</summary>
    public async Task<IActionResult> OnGetTwoTracks(string one, string other)
    {
        if (!await Show() || Kept is not { } kept || Lines is not { } lines)
        {
            return NotFound();
        }

        TwoTracks.Track? Of(string id)
        {
            if (kept.Proof.Tracks.FirstOrDefault(t => t.Id == id) is not { } track || lines.FirstOrDefault(l => l.Track.TrackId.Value == id) is not { } line || Store.Find(line.Printed.Hash) is not { } path || WaveReader.Open(path).Value is not { } file)
            {
                return null;
            }

            using (file)
            {
                return new(track.File, AverageSpectrum.Of(new MonoReader(line.IsAsPrinted ? file : new MendedRecording(file, line.Plan)), HttpContext.RequestAborted), track.Scan.Levels.History);
            }
        }

        return Of(one) is { } first && Of(other) is { } second ? Partial("_TwoTracks", new TwoTracks(first, second)) : NotFound();
    }

    /// <summary>Looks at the take again.</summary>
    public Task<IActionResult> OnPostProve() => Act(async take =>
    {
        await queue.Prove(Id, take.Id);
        return null;
    });

    /// <summary>Puts on trial what a finding asks for.</summary>
    public Task<IActionResult> OnPostMend(string seen, string finding) => Act(take =>
        Findings.FirstOrDefault(f => f.Key == finding) is { } found && Offer(found) is { } offer
            ? Try(take, seen, offer.Mend)
            : Task.FromResult<string?>("This finding is gone already."));

    /// <summary>Does everything that is sure.</summary>
    public Task<IActionResult> OnPostMendSure(string seen) => Act(take => Sure.IsEmpty
        ? Task.FromResult<string?>("Nothing is sure enough to be mended without listening.")
        : Add(take, seen, Sure, [], 0));

    /// <summary>Puts on trial what somebody asks for by hand.</summary>
    public Task<IActionResult> OnPostByHand(string seen) => Act(take =>
    {
        var mend = new MendForms(new FormFields(Request.Form, Session.State.Split, null), take, Session, IsCurrent ? Kept!.Proof : null).Read();
        return mend.Ok ? Try(take, seen, mend.Value) : Task.FromResult<string?>(mend.Trouble);
    });

    /// <summary>Takes the last mend back.</summary>
    public Task<IActionResult> OnPostUndo(string seen) => Act(take => Mends is { Trial: 0, Mends.Count: > 0 }
        ? Set(take, seen, [.. Mends.Mends.SkipLast(1)], [Mends.Mends[^1], .. Mends.Undone])
        : Task.FromResult<string?>(Mends.Trial > 0 ? OnTrial : "There is no mend to take back."));

    /// <summary>Makes it again.</summary>
    public Task<IActionResult> OnPostRedo(string seen) => Act(take => Mends is { Trial: 0, Undone.Count: > 0 }
        ? Set(take, seen, [.. Mends.Mends, Mends.Undone[0]], [.. Mends.Undone.Skip(1)])
        : Task.FromResult<string?>(Mends.Trial > 0 ? OnTrial : "Nothing was taken back."));

    /// <summary>Keeps what is on trial.</summary>
    public Task<IActionResult> OnPostKeep(string seen) => Act(async take =>
        Mends.Trial == 0 ? NoTrial : await proofs.Set(take.Id, seen, Mends.Mends, []) ? null : Changed);

    /// <summary>Takes back what is on trial. What was said of the take before holds again.</summary>
    public Task<IActionResult> OnPostTakeBack(string seen) => Act(async take =>
    {
        if (Mends.Trial == 0)
        {
            return NoTrial;
        }

        var settled = Mends.Settled;
        if (!await proofs.Set(take.Id, seen, settled.Mends, settled.Undone))
        {
            return Changed;
        }

        if (Kept?.Untried is { } untried && Job is not { IsActive: true })
        {
            await proofs.Keep(take.Id, untried, settled.Json);
        }
        else
        {
            await queue.Prove(Id, take.Id);
        }

        return null;
    });

    /// <summary>Says that a finding is meant so, or no longer.</summary>
    public Task<IActionResult> OnPostMeant(string finding, string? reason, bool back) => Act(async take =>
    {
        await proofs.Accept(take.Id, finding, back ? null : (reason ?? "").Trim() is { Length: > 0 } why ? why[..Math.Min(why.Length, 200)] : "meant so");
        return null;
    });

    private const string OnTrial = "A mend is on trial. Keep it or take it back first.";
    private const string NoTrial = "Nothing is on trial any more.";
    private const string Changed = "The mends of this take were changed in another window meanwhile, so nothing was done. What you see now is how they are.";

    private Task<string?> Try(Take take, string seen, Mend mend) => Add(take, seen, [mend], Mends.Undone, 1);

    private Task<string?> Add(Take take, string seen, IReadOnlyList<Mend> mends, IReadOnlyList<Mend> undone, int trial) =>
        Mends.Trial > 0 ? Task.FromResult<string?>(OnTrial)
        : TakeMends.Of(take).With([.. Mends.Mends, .. mends]) is { Ok: false } refused ? Task.FromResult<string?>(refused.Trouble)
        : Set(take, seen, [.. Mends.Mends, .. mends], undone, trial);

    /// <summary>Sets the mends, and proves the take with them.</summary>
    private async Task<string?> Set(Take take, string seen, IReadOnlyList<Mend> mends, IReadOnlyList<Mend> undone, int trial = 0)
    {
        if (!await proofs.Set(take.Id, seen, mends, undone, trial))
        {
            return Changed;
        }

        await queue.Prove(Id, take.Id);
        return null;
    }

    private async Task<IActionResult> Act(Func<Take, Task<string?>> act)
    {
        if (!await Show() || Take is not { } take)
        {
            return NotFound();
        }

        var address = $"/sessions/{Id}/proof?take={take.Number}";
        return await act(take) is { } trouble ? RedirectTelling(address, trouble) : Redirect(address);
    }

    private IReadOnlyList<MendedLine>? Lines { get; set; }

    private async Task<bool> Show()
    {
        if (!await Load("proof"))
        {
            return false;
        }

        AllTakes = await Takes.Of(Id);
        Take = AllTakes.FirstOrDefault(t => t.Number == Number) ?? (Number is null ? AllTakes.FirstOrDefault() : null);
        if (Take is { } take)
        {
            // The job first: one that ends meanwhile has kept its proof by then.
            Job = await JobStore.ProofOf(Id, take.Id);
            Kept = await proofs.Find(take.Id);
            Mends = await proofs.Mends(take.Id);
            Accepted = await proofs.Accepted(take.Id);
            if (Kept is { } kept)
            {
                Findings = [.. ProofFindings.Of(kept.Proof)];
                TrackIds = [.. kept.Proof.Tracks.Select(t => new TrackId(t.Id!))];
                Sure = IsCurrent ? MendOffers.AllSure(kept.Proof, TrackIds) : [];
            }

            var tracks = new List<TakeTrack>();
            foreach (var track in take.Tracks)
            {
                tracks.Add(await overviews.Restored(track, HttpContext.RequestAborted));
            }

            Lines = TakeMends.Lines(take with { Tracks = tracks }, Mends).Value;
            var untried = Mends.Trial > 0 && TakeMends.Lines(take with { Tracks = tracks }, Mends.Settled).Value is { } before ? (before, MendedTracks.Name(Mends.Settled)) : ((IReadOnlyList<MendedLine>, string)?)null;
            Player = Lines is null ? null : TakeView.Of(take, Lines, new Dictionary<long, string> { [take.Id] = MendedTracks.Name(Mends) }, Session, Store, waveforms, Marks, untried);
        }

        return true;
    }

    /// <summary>What the proof has to say of places in a track; nothing where it is of other mends.</summary>
    private IEnumerable<TakeMark> Marks(TakeTrack track)
    {
        if (!IsCurrent || Kept!.Proof.Tracks.FirstOrDefault(t => t.Id == track.TrackId.Value)?.Scan is not { } scan)
        {
            return [];
        }

        return
        [
            .. scan.DropoutPlaces.Select(d => new TakeMark(d.Start, "damage", $"a dropout of {Core.Words.Count(d.Length.Count, "sample")}")),
            .. scan.ClickPlaces.Select(c => new TakeMark(c.At, "damage", "a click")),
            .. scan.EndsInSound is null ? [] : new[] { new TakeMark(scan.Levels.Frames, "damage", "breaks off") },
        ];
    }
}
