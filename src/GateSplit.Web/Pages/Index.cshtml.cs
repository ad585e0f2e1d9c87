using System.Collections.Immutable;
using GateSplit.Core;
using GateSplit.Core.Charts;
using GateSplit.Core.Handoff;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Views;
using GateSplit.Data;
using GateSplit.Jobs;
using GateSplit.Web.Endpoints;
using GateSplit.Web.Forms;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace GateSplit.Web.Pages;

/// <summary>The list of sessions, and making a new one.</summary>
public sealed class IndexModel(SessionStore sessions, OpenSessions open, ChartStore charts, AudioKeeper keeper, UploadRoom room, JobStore jobs, DemoStore demos, TakeStore takes) : PageModel
{
    private const int DefaultRate = 48000;
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
    public NewSession Wish { get; private set; } = new("", [], "", "", true);

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
    /// <param name="box">The chart of the box.</param>
    /// <param name="recorded">True if it was recorded already.</param>
    public async Task<IActionResult> OnPostFirst(string? box, bool recorded)
    {
        var chart = (await charts.All()).FirstOrDefault(c => c.Id.Value == box);
        var made = chart is null ? new Core.Refusal("Choose the box first.") : await Make(new NewSession(chart.Name, [chart.Id.Value], "", "", true), null);
        if (!made.Ok)
        {
            Notice = made.Trouble;
            AskAgain = true;
            await Load();
            return Page();
        }

        Answered();
        if (recorded)
        {
            TempData.Notify("The tracks are laid. Send the recording in here: the files, or one with many channels, from whatever recorder.");
        }

        return Redirect($"/sessions/{made.Value.Id}/{(recorded ? "print" : "setup")}");
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
    public async Task<IActionResult> OnPostCreate(string? name, [FromForm(Name = "charts")] string[] chosen, IFormFile? midi, string? tempo, string? bars, bool lay)
    {
        Wish = new NewSession(name?.Trim() ?? "", chosen, tempo ?? "", bars ?? "", lay);
        var made = await Make(Wish, midi);
        if (made.Ok)
        {
            Answered(); // who makes a session knows what is in front of them
            return Redirect($"/sessions/{made.Value.Id}/split");
        }

        Notice = made.Trouble;
        await Load();
        return Page();
    }

    private async Task<Core.Result<Made>> Make(NewSession wish, IFormFile? midi)
    {
        var all = await charts.All();
        var sources = wish.Charts.Select(id => all.FirstOrDefault(c => c.Id.Value == id)).OfType<Chart>().ToList();
        if (!Names.Fit(wish.Name, SessionFile.LongestName))
        {
            return new Core.Refusal($"The session needs a name of 1 to {SessionFile.LongestName} characters, on one line.");
        }

        if (sources.Count == 0)
        {
            return new Core.Refusal("Choose at least one source for the session.");
        }

        double? quarters = null;
        if (wish.Tempo.Length > 0)
        {
            if (SentSong.Tempo(wish.Tempo) is not { } value)
            {
                return new Core.Refusal(SentSong.TempoNeeded);
            }

            quarters = value;
        }

        int? length = null;
        if (wish.Bars.Length > 0)
        {
            if (!int.TryParse(wish.Bars, out var value) || value is not (>= 1 and <= 2000))
            {
                return new Core.Refusal("The length is 1 to 2000 bars.");
            }

            length = value;
        }

        var file = await ReadSong(sources, midi, quarters);
        if (!file.Ok)
        {
            return new Core.Refusal(file.Trouble);
        }

        var song = Song.Of(file.Value);
        var split = StartingSplit.Of(sources, length ?? ReplaceSong.LengthOf(song), DefaultRate);
        // What is to be set on the gear is ticked once it is set.
        split = split with { Units = [.. split.Units.Select(AddUnit.Unmade)] };
        if (wish.Lay && Layer.Propose(SplitView.Of(split, song), new LayWish()).Edit is { } edit)
        {
            split = edit.Apply(split).Value ?? split;
        }

        return new Made(await sessions.Create(wish.Name, MidiWriter.Write(file.Value), split));
    }

    private static async Task<Core.Result<MidiFile>> ReadSong(List<Chart> sources, IFormFile? midi, double? quarters)
    {
        if (midi is null or { Length: 0 })
        {
            return CheckPattern.Of(sources, quarters is { } q ? Tempo.FromQuartersPerMinute(q) : Tempo.Default);
        }

        var read = await SentSong.Read(midi);
        return read.Ok && quarters is { } wanted ? Song.WithTempo(read.Value, Tempo.FromQuartersPerMinute(wanted)) : read;
    }

    private async Task Load()
    {
        Shelf = await charts.All();
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

    /// <summary>What was asked for.</summary>
    /// <param name="Name">Its name.</param>
    /// <param name="Charts">Ids of the sources.</param>
    /// <param name="Tempo">As typed.</param>
    /// <param name="Bars">As typed.</param>
    /// <param name="Lay">True to lay lines at once.</param>
    public sealed record NewSession(string Name, string[] Charts, string Tempo, string Bars, bool Lay);

    private sealed record Made(long Id);
}
