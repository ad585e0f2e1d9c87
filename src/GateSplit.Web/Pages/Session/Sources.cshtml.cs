using GateSplit.Core;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Splits;
using GateSplit.Data;
using GateSplit.Web.Forms;
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
        return await Change(revision, () => found is null ? new Refusal("Choose a source to add.") : new AddUnit(found, SettingsMade: false));
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

    /// <summary>Replaces the song by another MIDI file.</summary>
    public Task<IActionResult> OnPostSong(int revision, IFormFile? midi) => ChangeSong(revision, async () =>
    {
        if (midi is null or { Length: 0 })
        {
            return new Refusal("Choose a MIDI file to take the place of the song.");
        }

        var read = await SentSong.Read(midi);
        return read.Ok ? new SentSong.Replacement(read.Value, $"Replace the song by {FileName.Clean(Path.GetFileName(midi.FileName))}") : new Refusal(read.Trouble);
    });

    /// <summary>Gives the song one tempo from the start.</summary>
    public Task<IActionResult> OnPostTempo(int revision, string? tempo) => ChangeSong(revision, () => Task.FromResult<Result<SentSong.Replacement>>(
        Session.Song.File.TimeBase.IsSmpte ? new Refusal("This song counts time in frames of film: it has no tempo.")
        : SentSong.Tempo(tempo ?? "") is { } quarters ? new SentSong.Replacement(Song.WithTempo(Session.Song.File, Core.Quantities.Tempo.FromQuartersPerMinute(quarters)), $"Set the tempo of the song to {quarters:0.##}")
        : new Refusal(SentSong.TempoNeeded)));

    /// <summary>Gives the song one metre from the start.</summary>
    public Task<IActionResult> OnPostMetre(int revision, string? metre) => ChangeSong(revision, () => Task.FromResult<Result<SentSong.Replacement>>(
        SentSong.Metre(metre ?? "") is { } counted ? new SentSong.Replacement(Song.WithMetre(Session.Song.File, counted), $"Set the metre of the song to {counted}") : new Refusal(SentSong.MetreNeeded)));

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
