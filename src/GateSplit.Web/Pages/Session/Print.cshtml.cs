using GateSplit.Core.Checks;
using GateSplit.Core.Drawing;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Data;
using GateSplit.Jobs;
using Microsoft.AspNetCore.Mvc;

namespace GateSplit.Web.Pages.Session;

/// <summary>Printing, bringing in, and the takes with their player.</summary>
public sealed class PrintModel(OpenSessions open, SessionStore sessions, TakeStore takes, JobStore jobs, IAudioStore store, JobQueue queue)
    : SessionPage(open, sessions, takes, jobs, store)
{
    /// <summary>Points across a waveform.</summary>
    public const int Columns = 560;

    /// <summary>The take that is shown; the newest where none is named.</summary>
    [BindProperty(SupportsGet = true, Name = "take")]
    public int? Number { get; set; }

    /// <summary>All takes, the newest first.</summary>
    public IReadOnlyList<Take> AllTakes { get; private set; } = [];

    /// <summary>The take that is shown; null if there is none.</summary>
    public Take? Shown => AllTakes.FirstOrDefault(t => t.Number == Number) ?? (AllTakes.Count > 0 ? AllTakes[0] : null);

    /// <summary>Findings that matter before recording.</summary>
    public IEnumerable<Finding> Warnings => Frame.Findings.Where(f => f.ToMend);

    /// <summary>Why no pass can run; null if one can.</summary>
    public string? Refusal { get; private set; }

    /// <summary>The rows of inputs that a recording could be of.</summary>
    public IEnumerable<(Bank Bank, int Tracks)> Banks =>
        Session.State.Split.Banks.Select(b => (b, BringInJob.Lines(Session.State.Split, b.Id, t => t.Id).Count)).Where(b => b.Item2 > 0);

    /// <summary>Free bytes on the disk.</summary>
    public long FreeBytes => Store.FreeBytes;

    /// <summary>The waveform of a track as path data.</summary>
    public string Waveform(TakeTrack track) => Store.Find(track.OverviewHash) is { } path
        ? WaveformOutline.PathData(Overview.FromBytes(System.IO.File.ReadAllBytes(path)), Columns)
        : "";

    /// <summary>Where the bars begin, as shares of a take's length.</summary>
    public IEnumerable<double> Bars(Take take)
    {
        var frames = take.Tracks.Count == 0 ? 0 : take.Tracks.Max(t => t.Frames);
        for (var bar = 0; bar <= Session.State.Split.Pass.LengthBars && frames > 0; bar++)
        {
            var at = Session.Song.Tempos.ToSamples(Session.Song.Metres.BarStart(bar), take.Tracks[0].SampleRate);
            if (at > frames)
            {
                yield break;
            }

            yield return (double)at / frames;
        }
    }

    /// <summary>Shows the page.</summary>
    public async Task<IActionResult> OnGet() => await Show() ? Page() : NotFound();

    /// <summary>Starts a pass.</summary>
    public async Task<IActionResult> OnPostStart()
    {
        if (!await Show())
        {
            return NotFound();
        }

        if (Refusal is { } refusal)
        {
            Notice = refusal;
            return Page();
        }

        return await queue.Print(Id) is null
            ? RedirectToPage(new { id = Id, notice = "A pass of this session is running already; this is it." })
            : RedirectToPage(new { id = Id });
    }

    /// <summary>Changes the length, count-in, tail, rate or width.</summary>
    public async Task<IActionResult> OnPostPass(int revision)
    {
        if (!await Show())
        {
            return NotFound();
        }

        var edit = EditForm.Read(Request.Form, Session.State.Split);
        var after = edit.Ok ? edit.Value.Apply(Session.State.Split) : new Core.Refusal(edit.Trouble);
        if (!after.Ok)
        {
            Notice = after.Trouble;
            return Page();
        }

        if (!await Sessions.Save(Id, revision, after.Value, edit.Value!.Name(Session.State.Split)))
        {
            Notice = Moved;
            return Page();
        }

        return RedirectToPage(new { id = Id });
    }

    /// <summary>Deletes a take with its audio.</summary>
    public async Task<IActionResult> OnPostDelete(long take)
    {
        if (await Takes.Find(take) is { } found && found.SessionId == Id)
        {
            foreach (var hash in await Takes.Delete(take))
            {
                Store.Remove(hash);
            }
        }

        return RedirectToPage(new { id = Id });
    }

    private async Task<bool> Show()
    {
        if (!await Load("print"))
        {
            return false;
        }

        AllTakes = await Takes.Of(Id);
        Refusal = new Core.StandIns.StandInRecorder(Session.Lines, Session.Song).Refusal();
        return true;
    }
}
