using GateSplit.Core.Handoff;
using GateSplit.Data;
using GateSplit.Jobs;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;

namespace GateSplit.Web.Pages.Session;

/// <summary>Names, format, and the zip.</summary>
public sealed class HandoffModel(OpenSessions open, SessionStore sessions, TakeStore takes, JobStore jobs, IAudioStore store, MendedTakes mended)
    : SessionPage(open, sessions, takes, jobs, store)
{
    /// <summary>The take that is handed off, 0 for what counts of each line; that where none is named and there are several.</summary>
    [BindProperty(SupportsGet = true, Name = "take")]
    public int? Number { get; set; }

    /// <summary>The pattern of the names.</summary>
    [BindProperty(SupportsGet = true, Name = "pattern")]
    public string Pattern { get; set; } = FileNames.DefaultPattern;

    /// <summary>How the files are stored.</summary>
    [BindProperty(SupportsGet = true, Name = "format")]
    public string Format { get; set; } = HandoffFormat.AsPrinted.Value;

    /// <summary>All takes, the newest first.</summary>
    public IReadOnlyList<Take> AllTakes { get; private set; } = [];

    /// <summary>The take that is handed off; null if there is none.</summary>
    public Take? Chosen { get; private set; }

    /// <summary>The planned handoff; null if there is no take or it cannot be made.</summary>
    public HandoffZip? Plan { get; private set; }

    /// <summary>Why it cannot be made; null if it can.</summary>
    public string? Trouble { get; private set; }

    /// <summary>Mends on trial, which are not made.</summary>
    public IReadOnlyList<string> OnTrial { get; private set; } = [];

    /// <summary>The address of the zip.</summary>
    public string ZipAddress =>
        $"/sessions/{Id}/handoff.zip?take={Chosen!.Id}&pattern={Uri.EscapeDataString(Pattern)}&format={Uri.EscapeDataString(Format)}";

    /// <summary>Shows the page.</summary>
    public async Task<IActionResult> OnGet()
    {
        if (!await Load("handoff"))
        {
            return NotFound();
        }

        AllTakes = await Takes.Of(Id);
        Chosen = AllTakes.FirstOrDefault(t => t.Number == Number) ?? (AllTakes.Count == 1 ? AllTakes[0] : await Takes.Chosen(Id));
        if (Chosen is { } take)
        {
            var made = await mended.Of(take);
            var plan = made.Ok ? HandoffZip.Plan(Session, take, made.Value, Store, Pattern ?? "", HandoffFormat.Read(Format)) : new Core.Refusal(made.Trouble);
            OnTrial = made.Value?.OnTrial ?? [];
            Plan = plan.Value;
            Trouble = plan.Trouble;
        }

        return Page();
    }
}
