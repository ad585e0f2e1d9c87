using System.Globalization;
using System.Text;
using GateSplit.Core;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Data;
using GateSplit.Web.Endpoints;
using GateSplit.Web.Forms;
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

    /// <summary>The revision that is shown; 0 for a chart that ships.</summary>
    public int Revision { get; private set; }

    /// <summary>A change that was refused because the page was no longer current; null for none.</summary>
    public RefusedEdit? Again { get; private set; }

    /// <summary>True if it ships and so is only copied.</summary>
    public bool Shipped => ChartStore.IsShipped(new ChartId(Id));

    /// <summary>A sentence for the top; null for none.</summary>
    public string? Notice { get; private set; }

    /// <summary>The chart's text as it stands in the field.</summary>
    public string Text { get; private set; } = "";

    /// <summary>Shows it.</summary>
    public async Task<IActionResult> OnGet()
    {
        Notice = TempData.TakeNotice();
        return await Load() ? Page() : NotFound();
    }

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

        var copy = Chart with { Id = await charts.FreeId(new ChartId(Chart.Id + "-copy")), Name = Chart.Name.Length > 70 ? Chart.Name : $"{Chart.Name} (copy)" };
        Notice = await charts.Add(copy);
        return Notice is null ? Redirect($"/shelf/{copy.Id}") : Page();
    }

    /// <summary>Removes it from the shelf.</summary>
    public async Task<IActionResult> OnPostDelete()
    {
        await charts.Delete(new ChartId(Id));
        return Redirect("/shelf");
    }

    /// <summary>Changes its name and gist.</summary>
    public Task<IActionResult> OnPostAbout(string? name, string? gist, bool? leaves, bool? declares) => Keep(c => c with
    {
        Name = (name ?? "").Trim(),
        Gist = (gist ?? "").Trim(),
        AssignedLeavesMain = leaves ?? c.AssignedLeavesMain,
        DeclaresPorts = declares ?? c.DeclaresPorts,
    });

    /// <summary>Adds a group.</summary>
    public Task<IActionResult> OnPostAddGroup(string? name) => Keep(c => c.AddGroup((name ?? "").Trim()));

    /// <summary>Changes a group; with "remove" takes it away.</summary>
    public Task<IActionResult> OnPostGroup(string group, string? name, string? parent, int? port, string? fader, bool remove) => Keep(c => c.Group(group) is not { } before ? c
        : remove ? c.RemoveGroup(group)
        : c.SetGroup(group, before with { Name = (name ?? "").Trim(), Parent = string.IsNullOrEmpty(parent) ? null : parent, Port = port, FaderDb = Decibels.Read(fader) ?? before.FaderDb }));

    /// <summary>Lets keys count upward.</summary>
    public Task<IActionResult> OnPostKeys(int channel, int first) => Keep(c => c.CountKeys(channel, first));

    /// <summary>Feeds an element to a port beside its usual way.</summary>
    public Task<IActionResult> OnPostStraight(string element, int? port, string? level, bool before) => Keep(c => c.SetStraight(
        new ElementId(element), port is { } to ? new StraightSend(to) { LevelDb = Decibels.Read(level) ?? Decibels.Unity, BeforeEffects = before } : null));

    /// <summary>Changes an element; with "remove" takes it away.</summary>
    public Task<IActionResult> OnPostElement(string element, string? name, Family family, Width width, string? group, int? port, int? channel, string? keys, bool remove) => Keep(c =>
    {
        if (c.Element(new ElementId(element)) is not { } before)
        {
            return c;
        }

        return remove ? c.RemoveElement(new ElementId(element)) : c.Set(
            before with
            {
                Name = (name ?? "").Trim(),
                Family = family,
                Width = width,
                Group = string.IsNullOrWhiteSpace(group) ? null : group.Trim(),
                Port = port,
            },
            channel,
            [.. (keys ?? "").Split([',', ' ', '/'], StringSplitOptions.RemoveEmptyEntries).Select(k => int.TryParse(k, out var key) ? key : -1)]);
    });

    /// <summary>Adds an element.</summary>
    public Task<IActionResult> OnPostAddElement(string? name) => Keep(c => c.AddElement((name ?? "").Trim()));

    /// <summary>Adds a return.</summary>
    public Task<IActionResult> OnPostAddReturn(string? name) => Keep(c => c.AddReturn((name ?? "").Trim()));

    /// <summary>Changes the own effect of an element and what it sends to the shared one; an effect whose name is taken away goes.</summary>
    public Task<IActionResult> OnPostEffects(string element, string? send, string? name, string? hold, string? bits, string? drive) => Keep(c => c.SetEffects(
        new ElementId(element),
        string.IsNullOrWhiteSpace(name) && (c.Element(new ElementId(element))?.Insert is not null || $"{hold}{bits}{drive}".Trim().Length == 0)
            ? null
            : new InsertPatch((name ?? "").Trim()) { HoldHz = Number(hold), Bits = Whole(bits), Drive = Number(drive) ?? 0 },
        Decibels.Read(send)));

    /// <summary>Changes a return.</summary>
    public Task<IActionResult> OnPostReturn(string element, string? seconds, string? echo) => Keep(c => c.SetReturn(new ElementId(element), Number(seconds) ?? 0, Number(echo)));

    /// <summary>Changes the effects on the main mix; with "remove" takes them away.</summary>
    public Task<IActionResult> OnPostMaster(string? lowPass, string? threshold, int ratio, string? drive, bool remove) => Keep(c => c with
    {
        Master = remove
            ? null
            : new MasterPatch { LowPassHz = Number(lowPass), ThresholdDb = Decibels.Read(threshold) ?? Decibels.Unity, Ratio = ratio, Drive = Number(drive) ?? 0 },
    });

    /// <summary>Changes a port; with "remove" takes it away.</summary>
    public Task<IActionResult> OnPostPort(int number, string? name, Width width, Tap tap, bool remove) =>
        Keep(c => remove ? c.RemovePort(number) : c.SetPort(number, (name ?? "").Trim(), width, tap));

    /// <summary>Adds a port.</summary>
    public Task<IActionResult> OnPostAddPort(string? name, Width width) => Keep(c => c.AddPort((name ?? "").Trim(), width));

    /// <summary>A number as it is written, null for none; what is no number is none that any field takes, and so is told.</summary>
    private static double? Number(string? text) =>
        string.IsNullOrWhiteSpace(text) ? null
        : double.TryParse(text.Trim().Replace('−', '-').Replace(',', '.'), NumberStyles.Float, CultureInfo.InvariantCulture, out var number) ? number
        : double.NaN;

    /// <summary>A whole number as it is written, null for none; -1, which no field takes, for what is none.</summary>
    private static int? Whole(string? text) => Number(text) is not { } number ? null : double.IsInteger(number) ? (int)number : -1;

    private Task<IActionResult> Keep(Func<Chart, Chart> change) => Keep(() => change(Chart));

    /// <summary>Keeps its changed text.</summary>
    public async Task<IActionResult> OnPostSave(string? text)
    {
        var kept = await Keep(() => ChartJson.Read(text ?? "") switch
        {
            { Ok: true } read when read.Value.Id.Value != Id => new Refusal("A chart keeps its id; make a copy to get another one."),
            var read => read,
        });
        Text = text ?? "";
        return kept;
    }

    /// <summary>Makes a change of the revision that the page showed, and keeps it.</summary>
    private async Task<IActionResult> Keep(Func<Result<Chart>> change)
    {
        if (!await Load() || Shipped)
        {
            return NotFound();
        }

        if (!int.TryParse(Request.Form[Field.Revision], out var shown) || shown != Revision)
        {
            return await ShowMoved();
        }

        var changed = change();
        if ((changed.Trouble ?? ChartRules.Trouble(changed.Value!)) is { } trouble)
        {
            Notice = $"Not kept. {trouble}";
            return Page();
        }

        switch (await charts.Change(changed.Value!, shown))
        {
            case null:
                return Redirect($"/shelf/{Id}");
            case ChartStore.Moved:
                return await ShowMoved();
            case var refusal:
                Notice = $"Not kept. {refusal}";
                return Page();
        }
    }

    private async Task<IActionResult> ShowMoved()
    {
        if (!await Load())
        {
            return NotFound();
        }

        (Notice, Again) = (ChartStore.Moved, RefusedEdit.Of(Request, Revision, []));
        return Page();
    }

    private async Task<bool> Load()
    {
        if (await charts.Row(new ChartId(Id)) is not { } row)
        {
            return false;
        }

        if (row.Chart.Value is not { } chart)
        {
            throw new UnreadableException(row.Chart.Trouble!);
        }

        (Chart, Revision, Text) = (chart, row.Revision, ChartJson.Write(chart));
        return true;
    }
}
