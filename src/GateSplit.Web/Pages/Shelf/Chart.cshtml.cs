using System.Text;
using GateSplit.Core.Charts;
using GateSplit.Data;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace GateSplit.Web.Pages.Shelf;

/// <summary>One chart: what it says, a copy of it, its file, and, if it is the user's own, its text to be changed.</summary>
public sealed class ChartModel(ChartStore charts) : PageModel
{
    /// <summary>Which.</summary>
    [BindProperty(SupportsGet = true)]
    public string Id { get; set; } = "";

    /// <summary>The chart.</summary>
    public Chart Chart { get; private set; } = null!;

    /// <summary>True if it ships and so is only copied.</summary>
    public bool Shipped => ChartStore.IsShipped(Id);

    /// <summary>A sentence for the top; null for none.</summary>
    public string? Notice { get; private set; }

    /// <summary>The chart's text as it stands in the field.</summary>
    public string Text { get; private set; } = "";

    /// <summary>Shows it.</summary>
    public async Task<IActionResult> OnGet() => await Load() ? Page() : NotFound();

    /// <summary>Gives its file.</summary>
    public async Task<IActionResult> OnGetExport() =>
        await Load() ? File(Encoding.UTF8.GetBytes(ChartJson.Write(Chart)), "application/json", $"{Chart.Id}.chart.json") : NotFound();

    /// <summary>Makes a copy that can be changed.</summary>
    public async Task<IActionResult> OnPostCopy()
    {
        if (!await Load())
        {
            return NotFound();
        }

        var copy = Chart with { Id = await charts.FreeId(Chart.Id + "-copy"), Name = Chart.Name.Length > 70 ? Chart.Name : $"{Chart.Name} (copy)" };
        await charts.Save(copy);
        return Redirect($"/shelf/{copy.Id}");
    }

    /// <summary>Removes it from the shelf.</summary>
    public async Task<IActionResult> OnPostDelete()
    {
        await charts.Delete(Id);
        return Redirect("/shelf");
    }

    /// <summary>Keeps its changed text.</summary>
    public async Task<IActionResult> OnPostSave(string? text)
    {
        if (!await Load())
        {
            return NotFound();
        }

        var read = ChartJson.Read(text ?? "");
        var trouble = !read.Ok ? read.Trouble
            : read.Value.Id != Id ? "A chart keeps its id; make a copy to get another one."
            : await charts.Save(read.Value);
        if (trouble is null)
        {
            return Redirect($"/shelf/{Id}");
        }

        Notice = $"Not kept. {trouble}";
        Text = text ?? "";
        return Page();
    }

    private async Task<bool> Load()
    {
        if (await charts.Find(Id) is not { } chart)
        {
            return false;
        }

        Chart = chart;
        Text = ChartJson.Write(chart);
        return true;
    }
}
