using GateSplit.Core.Drawing;
using GateSplit.Core.Handoff;
using GateSplit.Core.Setup;
using GateSplit.Data;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;
using QRCoder;

namespace GateSplit.Web.Pages.Session;

/// <summary>The steps by which real gear gets to the split, to be ticked off, printed, or opened on a phone beside the gear.</summary>
public sealed class SetupModel(OpenSessions open, SessionStore sessions, TakeStore takes, JobStore jobs, IAudioStore store, SetupStore setups, OpenSheets sheets)
    : SessionPage(open, sessions, takes, jobs, store)
{
    private const int Offered = 30;

    /// <summary>Another session, whose sheet is the last time's; null for none.</summary>
    [BindProperty(SupportsGet = true, Name = "beside")]
    public long? Beside { get; set; }

    /// <summary>The steps that are shown, and which of them are done.</summary>
    public SetupTicks Ticks { get; private set; } = null!;

    /// <summary>The whole sheet.</summary>
    public SetupSheet Sheet { get; private set; } = null!;

    /// <summary>Steps of the last time's sheet that are not in this one.</summary>
    public SetupSheet? Gone { get; private set; }

    /// <summary>What has to be mended in the split before anybody follows the sheet; what the sheet itself sees to is not among it.</summary>
    public int ToMend => Frame.Findings.Count(f => f.ToMend && f.Check is not ("Settings" or "Restart"));

    /// <summary>The sessions whose sheet can be the last time's.</summary>
    public IReadOnlyList<SessionSummary> Others { get; private set; } = [];

    /// <summary>The split as drawings for paper, by pass.</summary>
    public IReadOnlyList<string> Drawings { get; private set; } = [];

    /// <summary>The address under which a phone opens it; null if it is not open, or no phone gets here.</summary>
    public string? Address { get; private set; }

    /// <summary>True if phones get here at all.</summary>
    public bool IsReachable => sheets.AreReachable;

    /// <summary>Shows it.</summary>
    public async Task<IActionResult> OnGet()
    {
        if (!await Load("setup sheet"))
        {
            return NotFound();
        }

        Sheet = SetupSheet.Of(Session.Lines);
        Others = [.. (await Sessions.List(most: Offered + 1)).Where(s => s.Id != Id).Take(Offered)];
        var shown = Sheet;
        if (Beside is { } other && await Open.Find(other) is var (last, _))
        {
            var before = SetupSheet.Of(last.Lines);
            (shown, Gone) = (Sheet.Beside(before), before.Beside(Sheet));
        }

        Ticks = new SetupTicks(shown, await setups.Ticked(Id), $"/sessions/{Id}/setup/ticks");
        var split = Session.State.Split;
        Drawings = [.. Enumerable.Range(1, split.Passes).Select(pass => SheetDrawing.ToSvg(SplitDrawing.Of(Session.Lines, new DrawingWish { Pass = split.Passes > 1 ? pass : null })))];
        Address = await setups.Link(Id) is { } token ? sheets.AddressOf(token) : null;
        return Page();
    }

    /// <summary>Opens it to phones.</summary>
    public async Task<IActionResult> OnPostOpen()
    {
        await setups.OpenLink(Id);
        return Redirect($"/sessions/{Id}/setup#phone");
    }

    /// <summary>Closes it to phones.</summary>
    public async Task<IActionResult> OnPostClose()
    {
        await setups.CloseLink(Id);
        return RedirectTelling($"/sessions/{Id}/setup", "The address that was open to phones leads nowhere any more.");
    }

    /// <summary>Takes all ticks away.</summary>
    public async Task<IActionResult> OnPostClear()
    {
        await setups.Clear(Id);
        return RedirectTelling($"/sessions/{Id}/setup", "Nothing is ticked any more.");
    }

    /// <summary>The dark squares of the address as a path, and how many squares it is wide.</summary>
    public static (string Path, int Width) Squares(string address)
    {
        using var code = QRCodeGenerator.GenerateQrCode(address, QRCodeGenerator.ECCLevel.M);
        var rows = code.ModuleMatrix;
        var dark = from y in Enumerable.Range(0, rows.Count) from x in Enumerable.Range(0, rows.Count) where rows[y][x] select $"M{x} {y}h1v1h-1z";
        return (string.Concat(dark), rows.Count);
    }
}
