using GateSplit.Core.Setup;
using GateSplit.Data;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace GateSplit.Web.Pages;

/// <summary>A setup sheet as a phone beside the gear opens it.</summary>
public sealed class SheetModel(OpenSessions open, SetupStore setups) : PageModel
{
    /// <summary>The session's name.</summary>
    public string Session { get; private set; } = "";

    /// <summary>The steps, and which are done.</summary>
    public SetupTicks Ticks { get; private set; } = null!;

    /// <summary>Shows it.</summary>
    public async Task<IActionResult> OnGet(string token)
    {
        if (await setups.Find(token) is not { } id || await open.Find(id) is not var (session, _))
        {
            return NotFound();
        }

        Session = session.State.Name;
        Ticks = new SetupTicks(SetupSheet.Of(session.Lines), await setups.Ticked(id), $"/sheet/{token}/ticks");
        return Page();
    }
}
