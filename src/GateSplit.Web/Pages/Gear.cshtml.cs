using System.Globalization;
using GateSplit.Core;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Data;
using GateSplit.Web.Endpoints;
using GateSplit.Web.Forms;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Own = GateSplit.Core.Templates.Gear;

namespace GateSplit.Web.Pages;

/// <summary>What a person owns and how it is usually set, and beginning a session with it.</summary>
public sealed class GearModel(GearStore store, ChartStore charts, SessionStore sessions, NewSessions made) : PageModel
{
    /// <summary>The gear.</summary>
    public Own Gear { get; private set; } = Own.None;

    /// <summary>The revision that is shown.</summary>
    public int Revision { get; private set; }

    /// <summary>What was done last and can be taken back; null for nothing.</summary>
    public string? LastChange { get; private set; }

    /// <summary>The source or row that is open to be changed, by its id; null for none.</summary>
    [BindProperty(SupportsGet = true, Name = "open")]
    public string? Opened { get; set; }

    /// <summary>Charts that a source can be added of.</summary>
    public IReadOnlyList<Chart> Charts { get; private set; } = [];

    /// <summary>Sessions that can be taken over.</summary>
    public IReadOnlyList<SessionSummary> Others { get; private set; } = [];

    /// <summary>A sentence for the top; null for none.</summary>
    public string? Notice { get; private set; }

    /// <summary>What was just done, for the live region.</summary>
    public string? Said { get; private set; }

    /// <summary>Shows it.</summary>
    public async Task OnGet()
    {
        Notice ??= TempData.TakeNotice();
        Said = TempData.TakeSaid();
        var kept = await store.Load();
        (Gear, Revision, LastChange) = (kept.Gear.Ok ? kept.Gear.Value : Own.None, kept.Revision, kept.LastChange);
        Notice ??= kept.Gear.Ok ? null : $"Your gear cannot be read. {kept.Gear.Trouble}";
        (Charts, Others) = (await charts.All(), await sessions.List(most: 30));
    }

    /// <summary>Adds a source as it is when new.</summary>
    public Task<IActionResult> OnPostAdd(int revision, string? chart) => Change(revision, async gear =>
        await charts.Find(new ChartId(chart ?? "")) is { } found ? new Step(gear.Add(found), $"Add {found.Name}") : Step.Refused("Choose a chart to add a source of."));

    /// <summary>Takes over what a session has.</summary>
    public Task<IActionResult> OnPostTakeOver(int revision, long session) => Change(revision, async gear =>
        await sessions.Load(session) is { } state ? new Step(gear.TakeOver(state.Split), $"Take over {state.Name}") : Step.Refused("This session is not there any more."));

    /// <summary>Removes a source, or a row of inputs.</summary>
    public Task<IActionResult> OnPostRemove(int revision, string? unit, string? bank) => Change(revision, gear => Task.FromResult(unit is { Length: > 0 }
        ? new Step(gear.Without(new UnitId(unit)), $"Remove {gear.Kept.Unit(new UnitId(unit))?.Name}")
        : new Step(gear.Without(new BankId(bank ?? "")), $"Remove {gear.Kept.Bank(new BankId(bank ?? ""))?.Label}")));

    /// <summary>Sets a source or a row of inputs as it usually is, by the same forms as in a session.</summary>
    public Task<IActionResult> OnPostEdit(int revision) => Change(revision, gear =>
    {
        var edit = EditForms.Read(Request.Form, gear.Kept);
        return Task.FromResult(edit.Ok ? new Step(gear.Change(edit.Value), edit.Value.Name(gear.Kept)) : Step.Refused(edit.Trouble));
    });

    /// <summary>Sets how passes are usually recorded, and what files are called.</summary>
    public Task<IActionResult> OnPostUsual(int revision, int rate, SampleFormat format, int countIn, int settle, string? tail, string? target, string? pattern) => Change(revision, gear =>
    {
        var pass = gear.Kept.Pass with
        {
            SampleRate = rate,
            Format = format,
            CountInBars = countIn,
            SettleLoops = settle,
            TailSeconds = string.IsNullOrWhiteSpace(tail) ? null : NumberText.Read(tail) ?? -1,
            TargetPeakDb = Decibels.Read(target) ?? new Decibels(1),
        };
        return Task.FromResult(new Step(gear with { Kept = gear.Kept with { Pass = pass }, Pattern = pattern?.Trim() ?? "" }, "Set how passes are usually recorded"));
    });

    /// <summary>Takes the last change back.</summary>
    public async Task<IActionResult> OnPostUndo(int revision)
    {
        var undone = (await store.Load()).LastChange;
        if (await store.Undo(revision))
        {
            TempData.Say($"Undone: {undone}");
        }
        else
        {
            TempData.Notify(GearStore.Moved);
        }

        return Redirect("/gear");
    }

    /// <summary>Begins a session with some of the sources: their lines laid, into the rows of inputs that there are.</summary>
    public async Task<IActionResult> OnPostBegin(string? name, [FromForm(Name = "sources")] string[] chosen, IFormFile? midi)
    {
        var session = await made.Make(new NewSessions.Wish(name ?? "", [], chosen, "", "", true), midi);
        if (session.Ok)
        {
            return Redirect($"/sessions/{session.Value!.Id.ToString(CultureInfo.InvariantCulture)}/split");
        }

        Notice = session.Trouble;
        await OnGet();
        return Page();
    }

    private async Task<IActionResult> Change(int revision, Func<Own, Task<Step>> change)
    {
        var kept = await store.Load();
        var step = kept.Revision != revision ? Step.Refused(GearStore.Moved)
            : kept.Gear.Ok ? await change(kept.Gear.Value)
            : Step.Refused($"Your gear cannot be read, so nothing was changed in it. {kept.Gear.Trouble}");
        var trouble = step.After.Ok ? step.After.Value!.Misfit : step.After.Trouble;
        if (trouble is null && !await store.Save(step.After.Value!, revision, step.Said))
        {
            trouble = GearStore.Moved;
        }

        if (trouble is null)
        {
            TempData.Say(step.Said);
        }
        else
        {
            TempData.Notify(trouble);
        }

        return Redirect(Opened is { Length: > 0 } ? $"/gear?open={Uri.EscapeDataString(Opened)}" : "/gear");
    }

    private sealed record Step(Result<Own> After, string Said)
    {
        public static Step Refused(string sentence) => new(new Refusal(sentence), "");
    }
}
