using System.Collections.Immutable;
using System.Globalization;
using GateSplit.Core;
using GateSplit.Core.Handoff;
using GateSplit.Core.Quantities;
using GateSplit.Data;
using GateSplit.Jobs;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;

namespace GateSplit.Web.Pages.Session;

/// <summary>Everything that leaves: what, from where to where, how it is called and stored; and what has left.</summary>
public sealed class HandoffModel(OpenSessions open, SessionStore sessions, TakeStore takes, JobStore jobs, IAudioStore store, HandoffMaterials materials, HandoffStore handoffs, JobQueue queue, GearStore gear)
    : SessionPage(open, sessions, takes, jobs, store)
{
    private const string LinePrefix = "of.";

    /// <summary>The take that is handed off, 0 for what counts of each line; that where none is named and there are several.</summary>
    [BindProperty(SupportsGet = true, Name = "take")]
    public int? Number { get; set; }

    /// <summary>The pattern of the names.</summary>
    [BindProperty(SupportsGet = true, Name = "pattern")]
    public string? Pattern { get; set; }

    /// <summary>How the files are stored.</summary>
    [BindProperty(SupportsGet = true, Name = "format")]
    public string? Format { get; set; }

    /// <summary>Frames a second; empty for those they have.</summary>
    [BindProperty(SupportsGet = true, Name = "rate")]
    public string? Rate { get; set; }

    /// <summary>How lines are added up.</summary>
    [BindProperty(SupportsGet = true, Name = "stems")]
    public string? Stems { get; set; }

    /// <summary>The first bar.</summary>
    [BindProperty(SupportsGet = true, Name = "from")]
    public string? From { get; set; }

    /// <summary>The last bar.</summary>
    [BindProperty(SupportsGet = true, Name = "to")]
    public string? To { get; set; }

    /// <summary>The files that are ticked.</summary>
    [BindProperty(SupportsGet = true, Name = "file")]
    public string[] Ticked { get; set; } = [];

    /// <summary>True if somebody has said what is ticked.</summary>
    [BindProperty(SupportsGet = true, Name = "chosen")]
    public bool IsChosen { get; set; }

    /// <summary>All takes, the newest first.</summary>
    public IReadOnlyList<Take> AllTakes { get; private set; } = [];

    /// <summary>The take that is handed off; null if there is none.</summary>
    public Take? Chosen { get; private set; }

    /// <summary>What is wanted.</summary>
    public HandoffWish Wish { get; private set; } = new();

    /// <summary>What it is made of; null if there is no take or it cannot be made.</summary>
    public HandoffMaterial? Material { get; private set; }

    /// <summary>The planned handoff; null if there is no take or it cannot be made.</summary>
    public HandoffPlan? Plan { get; private set; }

    /// <summary>Why it cannot be made; null if it can.</summary>
    public string? Trouble { get; private set; }

    /// <summary>Handoffs that were made, the newest first, each with what of it can no longer be made.</summary>
    public IReadOnlyList<(KeptHandoff Handoff, IReadOnlyList<string> Missing)> Made { get; private set; } = [];

    /// <summary>The job that makes one, or the last one that did; null if there was none.</summary>
    public Job? Job { get; private set; }

    /// <summary>True of a file that leaves.</summary>
    public bool Leaves(HandoffFile file) => Plan!.Files.Any(f => f.Key == file.Key);

    /// <summary>The file as it leaves, or as it would.</summary>
    public HandoffFile AsItLeaves(HandoffFile file) => Plan!.Files.FirstOrDefault(f => f.Key == file.Key) ?? file;

    /// <summary>The takes in which a line was recorded, the newest first.</summary>
    public IEnumerable<Take> TakesOf(HandoffFile file) => AllTakes.Where(t => t.Tracks.Any(l => $"line:{l.TrackId}" == file.Key));

    /// <summary>What was asked for, as it is sent again to be made.</summary>
    public IEnumerable<(string Name, string Value)> Fields() =>
        Request.Query.SelectMany(q => q.Value.Select(v => (q.Key, v ?? ""))).Where(q => q.Key != "handler");

    /// <summary>Shows the page.</summary>
    public async Task<IActionResult> OnGet() => await Show() ? Page() : NotFound();

    /// <summary>How far the making is, for a page that waits for it.</summary>
    public async Task<IActionResult> OnGetProgress()
    {
        Job = await JobStore.Beside(Id, JobKind.Handoff);
        if (Job is not { IsActive: true })
        {
            Response.Headers["HX-Refresh"] = "true";
        }

        return Partial("_HandoffProgress", this);
    }

    /// <summary>Makes what is shown.</summary>
    public async Task<IActionResult> OnPostMake()
    {
        if (!await Show())
        {
            return NotFound();
        }

        var sentence = Chosen is not { } take ? "There is no take yet."
            : Plan is not { } plan ? Trouble!
            : plan.Files.IsEmpty ? "Nothing is ticked, so nothing would leave."
            : await handoffs.Count(Id) >= HandoffStore.Most ? $"{HandoffStore.Most} handoffs of this session are listed, which are the most. Forget one first."
            : await queue.HandOff(Id, new HandoffRequest(take.Id, Wish) { Others = Others }) ? null
            : "A handoff of this session is being made already. Wait for its end, or stop it.";
        var address = $"/sessions/{Id}/handoff{Request.QueryString}".Replace("handler=Make&", "", StringComparison.Ordinal).Replace("?handler=Make", "", StringComparison.Ordinal);
        return sentence is null ? Redirect(address) : RedirectTelling(address, sentence);
    }

    /// <summary>Forgets a handoff that was made.</summary>
    public async Task<IActionResult> OnPostForget(long handoff)
    {
        await handoffs.Delete(Id, handoff);
        return Redirect($"/sessions/{Id}/handoff");
    }

    /// <summary>Lines that are of another take than the others.</summary>
    private ImmutableDictionary<string, int> Others => Request.Query
        .Where(q => q.Key.StartsWith(LinePrefix, StringComparison.Ordinal) && int.TryParse(q.Value, NumberStyles.None, CultureInfo.InvariantCulture, out _))
        .ToImmutableDictionary(q => q.Key[LinePrefix.Length..], q => int.Parse(q.Value!, CultureInfo.InvariantCulture));

    private async Task<bool> Show()
    {
        if (!await Load("handoff"))
        {
            return false;
        }

        Job = await JobStore.Beside(Id, JobKind.Handoff); // first: one that ends meanwhile has kept its record by then
        AllTakes = await Takes.Of(Id);
        Made = [.. (await handoffs.Of(Id)).Select(h => (h, h.Missing(Store.Find)))];
        Chosen = AllTakes.FirstOrDefault(t => t.Number == Number) ?? (AllTakes.Count == 1 ? AllTakes[0] : await Takes.Chosen(Id));
        if (Chosen is not { } take)
        {
            return true;
        }

        Wish = new HandoffWish
        {
            Files = IsChosen ? [.. Ticked] : null,
            Stems = Stems == "flat" ? StemLevels.Flat : StemLevels.Mixed,
            FromBar = Bar(From),
            ToBar = Bar(To),
            Pattern = Pattern ?? (await gear.Load()).Gear.Value?.Pattern ?? FileNames.DefaultPattern,
            Format = HandoffFormat.Read(Format).Value,
            SampleRate = int.TryParse(Rate, NumberStyles.None, CultureInfo.InvariantCulture, out var hz) && Core.Splits.PassSettings.SampleRates.Contains(hz) ? (SampleRate)hz : null,
        };
        var gathered = await materials.Of(Session.State, take.Id, Others);
        Material = gathered.Value;
        var plan = gathered.Ok ? HandoffPlan.Of(gathered.Value, Wish, DateTime.Now) : new Core.Refusal(gathered.Trouble);
        Plan = plan.Value;
        Trouble = plan.Trouble;
        return true;
    }

    /// <summary>What is no number is no bar: it is told like one that there is not.</summary>
    private static int? Bar(string? text) => string.IsNullOrWhiteSpace(text) ? null : int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var bar) ? bar : 0;
}
