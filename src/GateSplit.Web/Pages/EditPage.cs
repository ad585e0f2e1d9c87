using GateSplit.Core;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Splits;
using GateSplit.Data;
using GateSplit.Web.Endpoints;
using GateSplit.Web.Forms;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;

namespace GateSplit.Web.Pages;

/// <summary>What the pages of a session that change its split have in common.</summary>
public abstract class EditPage(OpenSessions open, SessionStore sessions, TakeStore takes, JobStore jobs, IAudioStore store)
    : SessionPage(open, sessions, takes, jobs, store)
{
    /// <summary>What was just done, for the live region.</summary>
    public string? Said { get; private set; }

    /// <summary>The split.</summary>
    public Split Split => Session.State.Split;

    /// <summary>An edit that was refused because the page was no longer current; null for none.</summary>
    public RefusedEdit? Again { get; private set; }

    /// <summary>Shows the page.</summary>
    public virtual async Task<IActionResult> OnGet()
    {
        Said = TempData.TakeSaid();
        return await Show() ? Page() : NotFound();
    }

    /// <summary>Makes an edit.</summary>
    public Task<IActionResult> OnPostEdit(int revision) => Change(revision, () => EditForms.Read(Request.Form, Split, Session.Lines));

    /// <summary>Takes the last edit back.</summary>
    public Task<IActionResult> OnPostUndo(int revision) => Step(revision, Sessions.Undo, s => s.Undo, "Undone");

    /// <summary>Makes it again.</summary>
    public Task<IActionResult> OnPostRedo(int revision) => Step(revision, Sessions.Redo, s => s.Redo, "Done again");

    /// <summary>Gathers what the page shows.</summary>
    /// <returns>False if there is no such session.</returns>
    protected abstract Task<bool> Show();

    /// <summary>The station's name in addresses.</summary>
    protected abstract string Station { get; }

    /// <summary>The address of this page.</summary>
    protected abstract string Address();

    /// <summary>Makes an edit of the revision that the page showed, and keeps it.</summary>
    protected async Task<IActionResult> Change(int revision, Func<Result<Edit>> read)
    {
        if (!await Load(Station))
        {
            return NotFound();
        }

        if (Session.State.Revision != revision)
        {
            return await ShowMoved(revision);
        }

        var edit = read();
        var after = edit.Ok ? edit.Value.Apply(Split) : new Refusal(edit.Trouble);
        if (!after.Ok)
        {
            HttpContext.RequestServices.GetRequiredService<ILogger<EditPage>>()
                .LogInformation("Session {Session}: the edit {Edit} was refused: {Sentence}", Id, Request.Form[Field.Edit].ToString(), after.Trouble);
            return await ShowWith(after.Trouble);
        }

        var name = edit.Value!.Name(Split);
        return await Open.Save(Session, after.Value, name) ? await Done(name) : await ShowMoved(revision);
    }

    /// <summary>Replaces the song of the revision that the page showed; undo brings the one before back.</summary>
    /// <param name="revision">The revision that the page showed.</param>
    /// <param name="replace">The new file and what the edit is called, or a sentence.</param>
    protected async Task<IActionResult> ChangeSong(int revision, Func<Task<Result<SentSong.Replacement>>> replace)
    {
        if (!await Load(Station))
        {
            return NotFound();
        }

        if (Session.State.Revision != revision)
        {
            return await ShowWith(Moved);
        }

        var asked = await replace();
        if (!asked.Ok)
        {
            return await ShowWith(asked.Trouble);
        }

        var (file, name) = asked.Value!;
        var split = ReplaceSong.Fitted(Split, Session.Song, Song.Of(file));
        return await Open.Save(Session, split, name, file) ? await Done(name) : await ShowWith(Moved);
    }

    /// <summary>After an edit: the page again. One that swaps parts of itself gets it at once, any other is sent to it.</summary>
    protected async Task<IActionResult> Done(string said)
    {
        if (!Request.Headers.ContainsKey("HX-Request"))
        {
            TempData.Say(said);
            return Redirect(Address());
        }

        Said = said;
        Response.Headers["HX-Replace-Url"] = Address();
        return await Show() ? Page() : NotFound();
    }

    /// <summary>Shows the page as it is now, with what happened since and the edit that was refused.</summary>
    protected async Task<IActionResult> ShowMoved(int revision)
    {
        var since = (await Sessions.History(Id)).TakeWhile(r => r.Number != revision).Select(r => r.Edit).Reverse().ToList();
        Again = RefusedEdit.Of(Request, (await Sessions.Head(Id))?.Revision ?? revision, since);
        return await ShowWith(Moved);
    }

    /// <summary>Shows the page with a sentence on top.</summary>
    protected async Task<IActionResult> ShowWith(string notice)
    {
        Notice = notice;
        return await Show() ? Page() : NotFound();
    }

    private async Task<IActionResult> Step(int revision, Func<long, int, Task<bool>> step, Func<SessionState, string?> what, string said)
    {
        if (await Sessions.Load(Id) is not { } before)
        {
            return NotFound();
        }

        if (await step(Id, revision))
        {
            return await Done($"{said}: {what(before)}");
        }

        return before.Revision == revision ? await ShowWith("There is nothing more to undo or redo.") : await ShowMoved(revision);
    }
}
