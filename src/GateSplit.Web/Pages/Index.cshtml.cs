using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Data;
using GateSplit.Jobs;
using GateSplit.Web.Endpoints;
using GateSplit.Web.Forms;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace GateSplit.Web.Pages;

/// <summary>The list of sessions, and making a new one.</summary>
public sealed class IndexModel(SessionStore sessions, NewSessions made, OpenSessions open, ChartStore charts, GearStore gear, AudioKeeper keeper, UploadRoom room, JobStore jobs, DemoStore demos, TakeStore takes) : PageModel
{
    /// <summary>Begins the value of a box that is a source of one's own.</summary>
    public const string OwnBox = "own:";

    private const int LongestSearch = 120;
    private const int RowsAPage = 50;
    private const string AskedCookie = "gate-split-asked";

    /// <summary>The rows of this page.</summary>
    public IReadOnlyList<Row> Sessions { get; private set; } = [];

    /// <summary>Words in the name or among the sources; empty for all sessions.</summary>
    [BindProperty(SupportsGet = true, Name = "find")]
    public string? Find { get; set; }

    /// <summary>The page of the list, from 1.</summary>
    [BindProperty(SupportsGet = true, Name = "at")]
    public int PageNumber { get; set; } = 1;

    /// <summary>How many sessions there are that the search finds.</summary>
    public int Found { get; private set; }

    /// <summary>How many pages they fill.</summary>
    public int Pages => Math.Max(1, (Found + RowsAPage - 1) / RowsAPage);

    /// <summary>The first row of this page among all, from 1.</summary>
    public int First => (PageNumber - 1) * RowsAPage + 1;

    /// <summary>The address of a page of the list.</summary>
    public string AddressOf(int page) => $"/?{(Search.Length > 0 ? $"find={Uri.EscapeDataString(Search)}&" : "")}at={page}";

    /// <summary>Charts a session can have.</summary>
    public IReadOnlyList<Chart> Shelf { get; private set; } = [];

    /// <summary>A sentence for the top; null for none.</summary>
    public string? Notice { get; private set; }

    /// <summary>What the form for a new session holds.</summary>
    public NewSessions.Wish Wish { get; private set; } = new("", [], [], "", "", true);

    /// <summary>Sources of one's own.</summary>
    public IReadOnlyList<Core.Splits.Unit> Own { get; private set; } = [];

    /// <summary>The job that brings a session in, by its number; null for none.</summary>
    [BindProperty(SupportsGet = true, Name = "in")]
    public long? In { get; set; }

    /// <summary>That job, while it waits or runs; null otherwise.</summary>
    public Job? Arriving { get; private set; }

    /// <summary>True to be asked again what one has in front of oneself.</summary>
    [BindProperty(SupportsGet = true, Name = "ask")]
    public bool AskAgain { get; set; }

    /// <summary>True if the first question is asked: of who opens the program for the first time, or wants to be asked again.</summary>
    public bool Asks => AskAgain || (!Request.Cookies.ContainsKey(AskedCookie) && Search.Length == 0 && In is null);

    /// <summary>A session that ships and has its take to listen to; null if there is none, or none yet.</summary>
    public long? ToLookAt { get; private set; }

    /// <summary>How much can come in just now.</summary>
    public Bytes Left => room.Left(ResumableUpload.NewSession);

    /// <summary>The most bytes of one file.</summary>
    public Bytes MostBytes => room.Limits.File;

    /// <summary>Shows the list; or goes to the session that has been brought in.</summary>
    public async Task<IActionResult> OnGet()
    {
        Notice = TempData.TakeNotice();
        var job = await FindArriving();
        if (job is { State: JobState.Done, SessionId: > 0 })
        {
            if (job.Sentence.Length > 0)
            {
                TempData.Notify(job.Sentence);
            }

            return Redirect($"/sessions/{job.SessionId}/split");
        }

        Arriving = job is { IsActive: true } ? job : null;
        Notice ??= job is { IsActive: false } ? JobEndpoints.Sentence(job) : null;
        await Load();
        return Page();
    }

    /// <summary>How far the session is that is being brought in.</summary>
    public async Task<IActionResult> OnGetArriving()
    {
        Arriving = await FindArriving();
        if (Arriving is not { IsActive: true })
        {
            Response.Headers["HX-Refresh"] = "true";
        }

        return Partial("_Arriving", this);
    }

    private async Task<Job?> FindArriving() => In is { } id && await jobs.Find(id) is { Kind: JobKind.SessionIn } job ? job : null;

    private string Search => (Find ?? "").Trim() is { Length: > LongestSearch } words ? words[..LongestSearch] : (Find ?? "").Trim();

    /// <summary>Renames a session.</summary>
    public async Task<IActionResult> OnPostRename(long id, string? name)
    {
        name = name?.Trim() ?? "";
        if (name.Length is 0 or > 120)
        {
            TempData.Notify("A session needs a name of 1 to 120 characters.");
            return RedirectToPage();
        }

        await sessions.Rename(id, name);
        return RedirectToPage();
    }

    /// <summary>Deletes a session with its audio.</summary>
    public async Task<IActionResult> OnPostDelete(long id)
    {
        if (await keeper.DeleteSession(id) is { } refusal)
        {
            TempData.Notify(refusal);
        }
        else
        {
            room.Discard(id);
        }

        return RedirectToPage();
    }

    /// <summary>Answers the first question: a box to be recorded leads to its setup sheet, a recording that was made to where it is brought in.</summary>
    /// <param name="box">The chart of the box; or, after "own:", the source of one's own that it is.</param>
    /// <param name="recorded">True if it was recorded already.</param>
    public async Task<IActionResult> OnPostFirst(string? box, bool recorded)
    {
        box ??= "";
        var isOwn = box.StartsWith(OwnBox, StringComparison.Ordinal);
        var first = await made.Make(new NewSessions.Wish("", isOwn ? [] : [box], isOwn ? [box[OwnBox.Length..]] : [], "", "", true), null);
        if (!first.Ok)
        {
            Notice = first.Trouble;
            AskAgain = true;
            await Load();
            return Page();
        }

        Answered();
        if (recorded)
        {
            TempData.Notify("The tracks are laid. Send the recording in here: the files, or one with many channels, from whatever recorder.");
        }

        return Redirect($"/sessions/{first.Value!.Id}/{(recorded ? "print" : "setup")}");
    }

    /// <summary>Answers the first question with no more than a look, or not at all.</summary>
    /// <param name="look">A session to look at; null for none.</param>
    public IActionResult OnPostLook(long? look)
    {
        Answered();
        return Redirect(look is { } id ? $"/sessions/{id}/print" : "/");
    }

    /// <summary>It is not asked again in this browser.</summary>
    private void Answered() => Response.Cookies.Append(AskedCookie, "yes", new CookieOptions { MaxAge = TimeSpan.FromDays(400), HttpOnly = true, SameSite = SameSiteMode.Strict, IsEssential = true });

    /// <summary>Makes a session.</summary>
    public async Task<IActionResult> OnPostCreate(string? name, [FromForm(Name = "charts")] string[] chosen, [FromForm(Name = "own")] string[] owned, IFormFile? midi, string? tempo, string? bars, bool lay)
    {
        Wish = new NewSessions.Wish(name?.Trim() ?? "", chosen, owned, tempo ?? "", bars ?? "", lay);
        var session = await made.Make(Wish, midi);
        if (session.Ok)
        {
            Answered(); // who makes a session knows what is in front of them
            return Redirect($"/sessions/{session.Value!.Id}/split");
        }

        Notice = session.Trouble;
        await Load();
        return Page();
    }

    private async Task Load()
    {
        Shelf = await charts.All();
        Own = (await gear.Load()).Gear.Value?.Kept.Units ?? [];
        Found = await sessions.Count(Search);
        PageNumber = Math.Clamp(PageNumber, 1, Pages);
        var rows = ImmutableArray.CreateBuilder<Row>();
        foreach (var summary in await sessions.List(Search, (PageNumber - 1) * RowsAPage, RowsAPage))
        {
            rows.Add(await RowOf(summary));
        }

        Sessions = rows.ToImmutable();
        foreach (var demo in Asks ? await demos.All() : [])
        {
            ToLookAt ??= await takes.Count(demo.SessionId) > 0 ? demo.SessionId : null;
        }
    }

    /// <summary>One that nobody has looked at yet is looked at once. One that cannot be read is told where it stands, and harms no other.</summary>
    private async Task<Row> RowOf(SessionSummary summary)
    {
        try
        {
            if (summary.IsKnown || await open.Find(summary.Id) is not var (session, findings))
            {
                return new Row(summary, null);
            }

            var seen = SplitSummary.Of(session, findings);
            await sessions.Summarise(summary.Id, session.State.Revision, seen);
            return new Row(summary.With(seen), null);
        }
        catch (UnreadableException e)
        {
            return new Row(summary, e.Message);
        }
    }

    /// <summary>A row of the list.</summary>
    /// <param name="Summary">The session.</param>
    /// <param name="Unreadable">Why it cannot be read; null if it can.</param>
    public sealed record Row(SessionSummary Summary, string? Unreadable);
}
