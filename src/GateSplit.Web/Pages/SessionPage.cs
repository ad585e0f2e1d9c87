using GateSplit.Data;
using GateSplit.Web.Endpoints;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace GateSplit.Web.Pages;

/// <summary>What the pages of a session have in common.</summary>
public abstract class SessionPage(OpenSessions open, SessionStore sessions, TakeStore takes, JobStore jobs, IAudioStore store) : PageModel
{
    /// <summary>What is said when an edit comes from a page that is no longer current.</summary>
    protected const string Moved = "This session was changed in another window meanwhile, so nothing was done. What you see now is its current state.";

    /// <summary>The session.</summary>
    [BindProperty(SupportsGet = true)]
    public long Id { get; set; }

    /// <summary>A sentence for the top of the page; null for none.</summary>
    public string? Notice { get; protected set; }

    /// <summary>The frame with the session in it.</summary>
    public Frame Frame { get; private set; } = null!;

    /// <summary>The session ready to be looked at.</summary>
    public OpenSession Session => Frame.Session;

    /// <summary>Sessions as they are now.</summary>
    protected OpenSessions Open => open;

    /// <summary>Sessions.</summary>
    protected SessionStore Sessions => sessions;

    /// <summary>Takes.</summary>
    protected TakeStore Takes => takes;

    /// <summary>Jobs.</summary>
    protected JobStore JobStore => jobs;

    /// <summary>The audio store.</summary>
    protected IAudioStore Store => store;

    /// <summary>Sends to another page with a sentence for its top.</summary>
    protected IActionResult RedirectTelling(string address, string sentence)
    {
        TempData.Notify(sentence);
        return Redirect(address);
    }

    /// <summary>Loads the session.</summary>
    /// <param name="station">The station the page is.</param>
    /// <returns>False if there is no such session.</returns>
    protected async Task<bool> Load(string station)
    {
        if (await open.Find(Id) is not var (session, findings))
        {
            return false;
        }

        Notice ??= TempData.TakeNotice();
        Frame = await Frame.Of(session, findings, takes, jobs, store, HttpContext.RequestServices.GetRequiredService<ProofStore>());
        ViewData["Frame"] = Frame;
        ViewData["Station"] = station;
        ViewData["Title"] = $"{session.State.Name}: {station}";
        return true;
    }
}
