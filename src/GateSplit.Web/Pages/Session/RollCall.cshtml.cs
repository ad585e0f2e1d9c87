using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Proofing;
using GateSplit.Data;
using GateSplit.Jobs;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;
using Call = GateSplit.Core.Proofing.RollCall;

namespace GateSplit.Web.Pages.Session;

/// <summary>The line check of real gear: every element called in turn, and what the recording of it says.</summary>
public sealed class RollCallModel(OpenSessions open, SessionStore sessions, TakeStore takes, JobStore jobs, IAudioStore store, RollCallStore calls, UploadRoom room, JobQueue queue)
    : EditPage(open, sessions, takes, jobs, store)
{
    /// <summary>The pass that is called, from 1.</summary>
    [BindProperty(SupportsGet = true, Name = "pass")]
    public int Pass { get; set; } = 1;

    /// <summary>The folder in which a recording waits to be read; null for none.</summary>
    [BindProperty(SupportsGet = true, Name = "from")]
    public string? From { get; set; }

    /// <summary>What waits to be read.</summary>
    public IReadOnlyList<BroughtFile> Files { get; private set; } = [];

    /// <summary>The roll call of the split as it is now.</summary>
    public Call Now { get; private set; } = null!;

    /// <summary>What the last one said; null if there was none of this pass.</summary>
    public KeptRollCall? Kept { get; private set; }

    /// <summary>True if the split does not call the same any more, or expects it elsewhere.</summary>
    public bool IsOutOfDate => Kept is { } kept && !ProofJson.Same(kept.Reading.Call, Now);

    /// <summary>The job that reads one, or the last one that did; null if there was none.</summary>
    public Job? Job { get; private set; }

    /// <summary>How much may be brought in.</summary>
    public UploadRoom Room => room;

    /// <summary>The turns that are not as planned and that no track listens to where they are heard.</summary>
    public IEnumerable<TurnHeard> Wrong => Kept!.Reading.Turns.Where(t => !t.AsPlanned && !IsUnasked(t) && !RollCallFindings.IsPutRight(Split, Kept.Reading, t));

    /// <summary>True of what is heard nowhere and should be nowhere.</summary>
    private static bool IsUnasked(TurnHeard heard) => heard.Arrivals.IsEmpty && !heard.Turn.Planned.Any(p => p.Direct);

    /// <summary>The roll call in one line: only what was heard is said to be well.</summary>
    public string Verdict()
    {
        var turns = Kept!.Reading.Turns;
        var nowhere = turns.Where(IsUnasked).Select(t => t.Turn.Name).ToList();
        var wrong = Wrong.Count();
        var rest = nowhere.Count == 0 ? "." : $"; nothing was heard, nor by the split should be, of {Core.Words.List(nowhere, most: 12)}.";
        return wrong > 0 ? $"{Core.Words.Count(wrong, "line")} of {turns.Length} {(wrong == 1 ? "is" : "are")} not as the split says:"
            : turns.Length == nowhere.Count ? "Nothing was heard, and by the split nothing should be: no input takes any of it."
            : turns.All(t => t.AsPlanned || IsUnasked(t)) ? $"{(nowhere.Count == 0 ? "All " : "")}{Core.Words.Count(turns.Length - nowhere.Count, "line")} {(turns.Length - nowhere.Count == 1 ? "arrives" : "arrive")} as planned{rest}"
            : $"What arrives elsewhere is listened to there by now; all else arrives as planned{rest}";
    }

    /// <summary>How far the reading is, for a page that waits for it.</summary>
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

        return Partial("_RollCallProgress", this);
    }

    /// <summary>The notes of the roll call.</summary>
    public async Task<IActionResult> OnGetMidi() => await Show() && !Now.Turns.IsEmpty
        ? File(MidiWriter.Write(Now.ToMidi($"Roll call of {Session.State.Name}")), "audio/midi", Core.FileName.Clean($"{Session.State.Name} roll call{(Split.Passes > 1 ? $" {Pass}" : "")}") + ".mid")
        : NotFound();

    /// <summary>Reads a recording, or plays the roll call on the simulated rig and reads that.</summary>
    public async Task<IActionResult> OnPostRead(bool byHand)
    {
        if (!await Show())
        {
            return NotFound();
        }

        if (From is not null && Files.Count == 0)
        {
            return RedirectTelling(Address(), "These files are not here any more. Bring them in once more.");
        }

        return await queue.ReadRollCall(Id, new RollCallRequest(Pass, byHand, From)) ? Redirect(Address()) : RedirectTelling(Address(), "A roll call of this session is being read already; this is it.");
    }

    /// <summary>Throws the files away that wait to be read.</summary>
    public IActionResult OnPostDiscard()
    {
        if (BroughtFolder.Find(Store, From, Id) is { } folder)
        {
            Store.Discard(folder.Name);
        }

        return Redirect(Address());
    }

    /// <summary>Lets the tracks of one element listen where it was heard.</summary>
    public async Task<IActionResult> OnPostFix(int revision, int turn) => await Show()
        ? await Change(revision, () => !IsOutOfDate && Kept?.Reading is { } reading && turn >= 0 && turn < reading.Turns.Length && RollCallFindings.Fix(Split, reading, reading.Turns[turn]) is { } edit ? edit : Gone)
        : NotFound();

    /// <summary>Lets all tracks listen where their elements were heard.</summary>
    public async Task<IActionResult> OnPostFixAll(int revision) => await Show()
        ? await Change(revision, () => !IsOutOfDate && Kept?.Reading is { } reading && RollCallFindings.FixAll(Split, reading) is { } edit ? edit : Gone)
        : NotFound();

    /// <inheritdoc/>
    protected override string Station => "line-check";

    /// <inheritdoc/>
    protected override string Address() => $"/sessions/{Id}/roll-call{(Pass > 1 ? $"?pass={Pass}" : "")}";

    /// <inheritdoc/>
    protected override async Task<bool> Show()
    {
        if (!await Load(Station))
        {
            return false;
        }

        Pass = Math.Clamp(Pass, 1, Split.Passes);
        Now = Call.Of(Session.Lines, Pass);
        Job = await JobStore.Beside(Id, JobKind.RollCall); // first: one that ends meanwhile has kept what it read by then
        Kept = (await calls.Of(Id)).FirstOrDefault(c => c.Pass == Pass);
        Files = BroughtFolder.Find(Store, From, Id)?.Files() ?? [];
        return true;
    }

    private static Core.Result<Edit> Gone => new Core.Refusal("There is nothing of the kind to put right any more.");
}
