using GateSplit.Core;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Planning;
using GateSplit.Core.Splits;
using GateSplit.Data;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;

namespace GateSplit.Web.Pages.Session;

/// <summary>The sources of a session: their modes, outputs, groups and elements, and what to set on the real gear.</summary>
public sealed class SourcesModel(OpenSessions open, SessionStore sessions, TakeStore takes, JobStore jobs, IAudioStore store, ChartStore charts)
    : EditPage(open, sessions, takes, jobs, store)
{
    /// <summary>Charts that can be added.</summary>
    public IReadOnlyList<Chart> Shelf { get; private set; } = [];

    /// <summary>For each unit whose chart is otherwise on the shelf, what is different there.</summary>
    public IReadOnlyDictionary<UnitId, IReadOnlyList<string>> Newer { get; private set; } = new Dictionary<UnitId, IReadOnlyList<string>>();

    /// <summary>Adds a source from the shelf.</summary>
    public async Task<IActionResult> OnPostAdd(int revision, string? chart)
    {
        var found = await charts.Find(new ChartId(chart ?? ""));
        return await Change(revision, () => found is null ? new Refusal("Choose a source to add.") : new AddUnit(found));
    }

    /// <summary>Takes the shelf's newer chart into the session.</summary>
    public async Task<IActionResult> OnPostUpdate(int revision, string unit)
    {
        var all = await charts.All();
        return await Change(revision, () =>
            Split.Unit(new UnitId(unit)) is { } found && all.FirstOrDefault(c => c.Id == found.Chart.Id) is { } chart
                ? new UpdateChart(new UnitId(unit), chart)
                : new Refusal("This chart is not on the shelf any more."));
    }

    /// <inheritdoc/>
    protected override string Station => "sources";

    /// <inheritdoc/>
    protected override string Address() => $"/sessions/{Id}/sources";

    /// <inheritdoc/>
    protected override async Task<bool> Show()
    {
        if (!await Load(Station))
        {
            return false;
        }

        Shelf = await charts.All();
        var newer = new Dictionary<UnitId, IReadOnlyList<string>>();
        foreach (var unit in Split.Units)
        {
            // Declared outputs are the session's own and no difference of the chart.
            if (Shelf.FirstOrDefault(c => c.Id == unit.Chart.Id) is { DeclaresPorts: false } chart
                && ChartDifferences.Between(unit.Chart, chart) is { IsEmpty: false } differences)
            {
                newer[unit.Id] = differences;
            }
        }

        Newer = newer;
        return true;
    }
}
