using GateSplit.Core.Setup;
using GateSplit.Core.Templates;
using GateSplit.Data;
using GateSplit.Web.Endpoints;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace GateSplit.Web.Pages.Templates;

/// <summary>A template: its drawing, its versions, and what changed from one to another.</summary>
public sealed class OneModel(TemplateStore templates) : PageModel
{
    /// <summary>The template's id.</summary>
    [BindProperty(SupportsGet = true)]
    public long Id { get; set; }

    /// <summary>The version that is shown; null for the newest.</summary>
    [BindProperty(SupportsGet = true, Name = "version")]
    public int? Version { get; set; }

    /// <summary>The version that it is compared with; null for the one before.</summary>
    [BindProperty(SupportsGet = true, Name = "beside")]
    public int? Beside { get; set; }

    /// <summary>The template.</summary>
    public Template Template { get; private set; } = null!;

    /// <summary>Its versions, the newest first.</summary>
    public IReadOnlyList<TemplateHead> Versions { get; private set; } = [];

    /// <summary>The drawing.</summary>
    public string Svg { get; private set; } = "";

    /// <summary>What the version says that the other does not, and the other way round; null where there is no other.</summary>
    public (int Other, SetupSheet New, SetupSheet Gone)? Changed { get; private set; }

    /// <summary>A sentence for the top; null for none.</summary>
    public string? Notice { get; private set; }

    /// <summary>Shows it.</summary>
    public async Task<IActionResult> OnGet()
    {
        Versions = await templates.Versions(Id);
        if (await templates.Find(Id, Version) is not { } found)
        {
            return NotFound();
        }

        Notice ??= TempData.TakeNotice();
        if (!found.Ok)
        {
            TempData.Notify(found.Trouble);
            return Redirect("/templates");
        }

        (Template, Version) = (found.Value, Version ?? Versions[0].Version);
        Svg = TemplateDrawing.Svg(Template);
        if ((Beside ?? Versions.FirstOrDefault(v => v.Version < Version)?.Version) is { } other && other != Version && await templates.Find(Id, other) is { Ok: true } last)
        {
            var (now, then) = (SetupSheet.Of(TemplateDrawing.View(Template)), SetupSheet.Of(TemplateDrawing.View(last.Value)));
            Changed = (other, now.Beside(then), then.Beside(now));
        }

        return Page();
    }

    /// <summary>Gives it another name.</summary>
    public async Task<IActionResult> OnPostRename(string? name)
    {
        TempData.Notify(await templates.Rename(Id, name?.Trim() ?? "") ?? "It is renamed.");
        return Redirect($"/templates/{Id}");
    }

    /// <summary>Makes an old version the newest one.</summary>
    public async Task<IActionResult> OnPostBack(int version)
    {
        if (await templates.Find(Id, version) is { Ok: true } found && await templates.Keep(found.Value) is { Ok: true } kept)
        {
            TempData.Notify($"Version {version} is kept again, as version {kept.Value.Version}.");
        }

        return Redirect($"/templates/{Id}");
    }
}
