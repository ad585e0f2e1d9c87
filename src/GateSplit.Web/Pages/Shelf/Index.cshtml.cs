using GateSplit.Core.Charts;
using GateSplit.Data;
using GateSplit.Web.Endpoints;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace GateSplit.Web.Pages.Shelf;

/// <summary>The shelf: every chart there is, a new one from nothing, and one from a file.</summary>
public sealed class IndexModel(ChartStore charts) : PageModel
{
    /// <summary>The charts.</summary>
    public IReadOnlyList<ChartRow> Charts { get; private set; } = [];

    /// <summary>A sentence for the top; null for none.</summary>
    public string? Notice { get; private set; }

    /// <summary>Shows the shelf.</summary>
    public async Task OnGet()
    {
        Notice ??= TempData.TakeNotice();
        Charts = await charts.Rows();
    }

    /// <summary>Begins a chart from nothing: so many mono elements, each with a port of its own after a main pair.</summary>
    public async Task<IActionResult> OnPostNew(string? name, int? elements)
    {
        name = name?.Trim() ?? "";
        if (name.Length is 0 or > 80 || elements is not (>= 1 and <= 64))
        {
            return await Refuse("A new chart needs a name of 1 to 80 letters and 1 to 64 elements.");
        }

        var id = await charts.FreeId(ChartSketch.IdOf(name));
        return await charts.Add(ChartSketch.Of(id, name, elements.Value)) is { } trouble ? await Refuse(trouble) : Redirect($"/shelf/{id}");
    }

    /// <summary>Begins a chart from a list of names.</summary>
    public async Task<IActionResult> OnPostNames(string? name, string? names, bool stereo, int first = ChartSketch.FirstChannel)
    {
        name = name?.Trim() ?? "";
        if (name.Length is 0 or > 80)
        {
            return await Refuse("A new chart needs a name of 1 to 80 letters.");
        }

        var id = await charts.FreeId(ChartSketch.IdOf(name));
        var sketch = ChartSketch.OfNames(id, name, names ?? "", stereo ? Width.Stereo : Width.Mono, first);
        return (sketch.Trouble ?? await charts.Add(sketch.Value!)) is { } trouble ? await Refuse(trouble) : Redirect($"/shelf/{id}");
    }

    /// <summary>Takes a chart from a file; if one of its id is there already, it gets another.</summary>
    public async Task<IActionResult> OnPostImport(IFormFile? file)
    {
        if (file is null or { Length: 0 })
        {
            return await Refuse("Choose a chart file to bring in.");
        }

        if (file.Length > ChartJson.MostBytes)
        {
            return await Refuse($"{file.FileName} is too large for a chart.");
        }

        using var text = new StreamReader(file.OpenReadStream());
        var read = ChartJson.Read(await text.ReadToEndAsync());
        if (!read.Ok)
        {
            return await Refuse($"{file.FileName}: {read.Trouble}");
        }

        var chart = read.Value with { Id = await charts.FreeId(read.Value.Id) };
        if (await charts.Add(chart) is { } trouble)
        {
            return await Refuse(trouble);
        }

        TempData.Notify(chart.Id == read.Value.Id
            ? $"{chart.Name} is on the shelf."
            : $"There was a chart with the id {read.Value.Id} already. That one is as it was; this one stands beside it as {chart.Id}.");
        return RedirectToPage("Chart", new { id = chart.Id });
    }

    private async Task<IActionResult> Refuse(string sentence)
    {
        Notice = sentence;
        await OnGet();
        return Page();
    }
}
