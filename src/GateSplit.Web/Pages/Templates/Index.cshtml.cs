using GateSplit.Core.Handoff;
using GateSplit.Core.Notes;
using GateSplit.Core.Templates;
using GateSplit.Data;
using GateSplit.Web.Endpoints;
using GateSplit.Web.Forms;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace GateSplit.Web.Pages.Templates;

/// <summary>The shelf of templates: what was kept to be used again.</summary>
public sealed class IndexModel(TemplateStore templates, SessionStore sessions) : PageModel
{
    private const int RowsAPage = 20;

    /// <summary>Words in the name or in what they keep; empty for all.</summary>
    [BindProperty(SupportsGet = true, Name = "find")]
    public string? Find { get; set; }

    /// <summary>Rows that are passed over.</summary>
    [BindProperty(SupportsGet = true, Name = "from")]
    public int From { get; set; }

    /// <summary>Where the next page begins; null for none.</summary>
    public int? Next { get; private set; }

    /// <summary>Where the page before begins; null for none.</summary>
    public int? Previous => From > 0 ? Math.Max(0, From - RowsAPage) : null;

    /// <summary>The address of the page that begins with a row.</summary>
    public string AddressOf(int from) => $"/templates?{(Find is { Length: > 0 } ? $"find={Uri.EscapeDataString(Find)}&" : "")}from={from}";

    /// <summary>What is shown: each with its drawing, or why it cannot be read.</summary>
    public IReadOnlyList<(TemplateHead Head, string? Svg, string? Trouble)> Rows { get; private set; } = [];

    /// <summary>Those that can be taken back.</summary>
    public IReadOnlyList<TemplateHead> Deleted { get; private set; } = [];

    /// <summary>A sentence for the top; null for none.</summary>
    public string? Notice { get; private set; }

    /// <summary>Shows them.</summary>
    public async Task OnGet()
    {
        Notice ??= TempData.TakeNotice();
        var rows = new List<(TemplateHead, string?, string?)>();
        var heads = await templates.List(Find ?? "", Math.Max(0, From), RowsAPage + 1);
        Next = heads.Count > RowsAPage ? Math.Max(0, From) + RowsAPage : null;
        foreach (var head in heads.Take(RowsAPage))
        {
            var found = await templates.Find(head.Id);
            rows.Add((head, found is { Ok: true } kept ? TemplateDrawing.Svg(kept.Value) : null, found is { Ok: false } lost ? lost.Trouble : null));
        }

        (Rows, Deleted) = (rows, await templates.Deleted());
    }

    /// <summary>Begins a session from one.</summary>
    /// <param name="id">Which.</param>
    /// <param name="name">The session's name.</param>
    /// <param name="with">"sheet" to go to its setup sheet rather than to its split.</param>
    /// <param name="midi">Its song; null for what the template has.</param>
    /// <param name="leaveOutSilent">True to leave out the tracks of what does not sound in the song.</param>
    public async Task<IActionResult> OnPostBegin(long id, string? name, string? with, IFormFile? midi, bool leaveOutSilent)
    {
        name = name?.Trim() ?? "";
        if (!Core.Names.Fit(name, SessionFile.LongestName))
        {
            return await Refuse($"The session needs a name of 1 to {SessionFile.LongestName} characters, on one line.");
        }

        if (await templates.Find(id) is not { } found)
        {
            return await Refuse("This template is not there any more.");
        }

        if (!found.Ok)
        {
            return await Refuse(found.Trouble);
        }

        var file = midi is { Length: > 0 } ? await SentSong.Read(midi) : MidiReader.Read(found.Value.Notes);
        if (!file.Ok)
        {
            return await Refuse(file.Trouble);
        }

        var split = TemplateFit.Begin(found.Value, Song.Of(file.Value).Read(found.Value.Split.Pass.TempoToMicrosecond), leaveOutSilent);
        return Redirect($"/sessions/{await sessions.Create(name, MidiWriter.Write(file.Value), split)}/{(with == "sheet" ? "setup" : "split")}");
    }

    /// <summary>Takes one in from a file.</summary>
    public async Task<IActionResult> OnPostImport(IFormFile? file)
    {
        if (file is null or { Length: 0 })
        {
            return await Refuse("Choose a template file to bring in.");
        }

        if (file.Length > TemplateFile.MostBytes)
        {
            return await Refuse($"{file.FileName} is too large for a template.");
        }

        using var bytes = new MemoryStream();
        await file.CopyToAsync(bytes);
        var read = TemplateFile.Read(bytes.ToArray());
        var kept = read.Ok ? await templates.Keep(read.Value) : new Core.Refusal($"{file.FileName}: {read.Trouble}");
        return kept.Ok
            ? Tell(kept.Value.Version == 1 ? $"{read.Value!.Name} was brought in." : $"{read.Value!.Name} was brought in as version {kept.Value.Version} of the template of that name.")
            : await Refuse(kept.Trouble);
    }

    /// <summary>Deletes one; it can be taken back.</summary>
    public async Task<IActionResult> OnPostDelete(long id)
    {
        await templates.Delete(id);
        return Tell("The template is deleted. It stands under Deleted, where it can be taken back.");
    }

    /// <summary>Takes a deleted one back.</summary>
    public async Task<IActionResult> OnPostRestore(long id)
    {
        await templates.Restore(id);
        return Tell("The template is back.");
    }

    /// <summary>Throws deleted ones away for good.</summary>
    public async Task<IActionResult> OnPostEmpty()
    {
        await templates.Empty();
        return Tell("Deleted templates are gone for good.");
    }

    private IActionResult Tell(string sentence)
    {
        TempData.Notify(sentence);
        return Redirect("/templates");
    }

    private async Task<IActionResult> Refuse(string sentence)
    {
        Notice = sentence;
        await OnGet();
        return Page();
    }
}
