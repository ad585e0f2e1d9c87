using GateSplit.Core.Planning;
using GateSplit.Core.Splits;
using GateSplit.Data;
using GateSplit.Jobs;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;

namespace GateSplit.Web.Pages.Session;

/// <summary>Which of the files that were brought in goes to which track: shown, and corrected, before anything is cut.</summary>
public sealed class BringInModel(OpenSessions open, SessionStore sessions, TakeStore takes, JobStore jobs, IAudioStore store, JobQueue queue)
    : SessionPage(open, sessions, takes, jobs, store)
{
    private const string Gone = "These files are not here any more. Bring them in once more.";

    /// <summary>The folder the files lie in.</summary>
    [BindProperty(SupportsGet = true, Name = "from")]
    public string? From { get; set; }

    /// <summary>True if channels are left, and tracks that could have them.</summary>
    public bool CanOrder => BringInPlan.RestInOrder(Session.State.Split, Files, [.. Lines.Values.Where(l => BringInPlan.Fits(Session.State.Split, Files, l))]).Length > Lines.Count;

    /// <summary>The files.</summary>
    public IReadOnlyList<BroughtFile> Files { get; private set; } = [];

    /// <summary>What goes where, by track.</summary>
    public IReadOnlyDictionary<TrackId, BroughtLine> Lines { get; private set; } = new Dictionary<TrackId, BroughtLine>();

    /// <summary>True if any of them runs at another sample rate than the session.</summary>
    public bool RatesDiffer => Files.Any(f => f.Format.SampleRate != Session.State.Split.Pass.SampleRate);

    /// <summary>What is odd about the files.</summary>
    public IReadOnlyList<string> Remarks { get; private set; } = [];

    /// <summary>Shows the page.</summary>
    public async Task<IActionResult> OnGet()
    {
        if (!await Show())
        {
            return NotFound();
        }

        return BroughtFolder.Find(Store, From, Id) is null
            ? RedirectTelling($"/sessions/{Id}/print", Gone)
            : Page();
    }

    /// <summary>Cuts as it is said; with "order" it only gives the rest in order, to be looked at.</summary>
    /// <param name="order">True to give the rest in order.</param>
    /// <param name="revision">The revision of the split that the page showed.</param>
    public async Task<IActionResult> OnPost(bool order, int revision)
    {
        if (!await Show())
        {
            return NotFound();
        }

        if (Files.Count == 0)
        {
            return RedirectTelling($"/sessions/{Id}/print", Gone);
        }

        var lines = new List<BroughtLine>();
        foreach (var track in Session.State.Split.Tracks)
        {
            if (Request.Form[$"of:{track.Id}"].ToString().Split(':') is [var file, var channel] && int.TryParse(file, out var number) && int.TryParse(channel, out var first))
            {
                lines.Add(Lines.GetValueOrDefault(track.Id) is { } found && (found.File, found.Channel) == (number, first)
                    ? found
                    : new BroughtLine(track.Id, number, first, "by hand"));
            }
        }

        Lines = lines.ToDictionary(l => l.TrackId);
        if (revision != Session.State.Revision)
        {
            Notice = "This session was changed in another window meanwhile, so nothing was cut yet. Look once more at what goes where.";
            return Page();
        }

        if (lines.FirstOrDefault(l => !BringInPlan.Fits(Session.State.Split, Files, l)) is { } wide)
        {
            Notice = $"{Session.State.Split.Track(wide.TrackId)!.Title} is stereo, and there is no second channel beside the one that was chosen.";
            return Page();
        }

        if (order)
        {
            Lines = BringInPlan.RestInOrder(Session.State.Split, Files, lines).ToDictionary(l => l.TrackId);
            return Page();
        }

        if (lines.Count == 0)
        {
            Notice = "Nothing was chosen for any track.";
            return Page();
        }

        if (await queue.BringIn(Id, new BringInRequest(From!, lines, Request.Form["convert"] == "true") { Revision = revision }) is null)
        {
            Notice = "This session is already printing or cutting. Wait until that is done.";
            return Page();
        }

        return Redirect($"/sessions/{Id}/print");
    }

    /// <summary>Throws the files away.</summary>
    public IActionResult OnPostDiscard()
    {
        if (BroughtFolder.Find(Store, From, Id) is { } folder)
        {
            Store.Discard(folder.Name);
        }

        return Redirect($"/sessions/{Id}/print");
    }

    private async Task<bool> Show()
    {
        if (!await Load("print"))
        {
            return false;
        }

        if (BroughtFolder.Find(Store, From, Id) is { } folder)
        {
            Files = folder.Files();
            Lines = BringInPlan.Of(Session.State.Split, Files).ToDictionary(l => l.TrackId);
            Remarks = BringInPlan.Remarks(Session.State.Split, Files);
        }

        return true;
    }
}
