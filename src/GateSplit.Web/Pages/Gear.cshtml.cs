using System.Globalization;
using GateSplit.Core;
using GateSplit.Core.Charts;
using GateSplit.Core.Handoff;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;
using GateSplit.Data;
using GateSplit.Web.Endpoints;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Own = GateSplit.Core.Templates.Gear;

namespace GateSplit.Web.Pages;

/// <summary>What a person owns, and beginning a session with it.</summary>
public sealed class GearModel(GearStore store, ChartStore charts, SessionStore sessions) : PageModel
{
    /// <summary>The gear.</summary>
    public Own Gear { get; private set; } = Own.None;

    /// <summary>The revision that is shown.</summary>
    public int Revision { get; private set; }

    /// <summary>Charts that a source can be added of.</summary>
    public IReadOnlyList<Chart> Charts { get; private set; } = [];

    /// <summary>Sessions that can be taken over.</summary>
    public IReadOnlyList<SessionSummary> Others { get; private set; } = [];

    /// <summary>A sentence for the top; null for none.</summary>
    public string? Notice { get; private set; }

    /// <summary>Shows it.</summary>
    public async Task OnGet()
    {
        Notice ??= TempData.TakeNotice();
        var (gear, revision) = await store.Load();
        (Gear, Revision) = (gear.Ok ? gear.Value : Own.None, revision);
        Notice ??= gear.Ok ? null : $"Your gear cannot be read. {gear.Trouble}";
        (Charts, Others) = (await charts.All(), await sessions.List(most: 30));
    }

    /// <summary>Adds a source as it is when new.</summary>
    public Task<IActionResult> OnPostAdd(int revision, string? chart) => Change(revision, async gear =>
        await charts.Find(new ChartId(chart ?? "")) is { } found ? gear.Add(found) : new Refusal("Choose a chart to add a source of."));

    /// <summary>Takes over what a session has.</summary>
    public Task<IActionResult> OnPostTakeOver(int revision, long session) => Change(revision, async gear =>
        await sessions.Load(session) is { } state ? gear.TakeOver(state.Split) : new Refusal("This session is not there any more."));

    /// <summary>Removes a source or a row of inputs.</summary>
    public Task<IActionResult> OnPostRemove(int revision, string? unit, string? bank) => Change(revision, gear => Task.FromResult<Result<Own>>(
        unit is { Length: > 0 } ? gear.Without(new UnitId(unit)) : gear.Without(new BankId(bank ?? ""))));

    /// <summary>Sets how passes are usually recorded.</summary>
    public Task<IActionResult> OnPostUsual(int revision, int rate, SampleFormat format, int countIn, int settle, string? tail, string? target) => Change(revision, gear =>
    {
        var pass = gear.Kept.Pass with
        {
            SampleRate = rate,
            Format = format,
            CountInBars = countIn,
            SettleLoops = settle,
            TailSeconds = string.IsNullOrWhiteSpace(tail) ? null : NumberText.Read(tail) ?? -1,
            TargetPeakDb = Decibels.Read(target) ?? new Decibels(1),
        };
        var split = gear.Kept with { Pass = pass };
        return Task.FromResult<Result<Own>>(SplitRules.FirstMisfit(split) is { } misfit ? new Refusal(misfit.Sentence) : gear with { Kept = split });
    });

    /// <summary>Begins a session with some of the sources: their lines laid, into the rows of inputs that there are.</summary>
    public async Task<IActionResult> OnPostBegin(string? name, [FromForm(Name = "sources")] string[] chosen)
    {
        await OnGet();
        var units = Gear.Kept.Units.Where(u => chosen.Contains(u.Id.Value)).ToList();
        name = string.IsNullOrWhiteSpace(name) ? Words.List([.. units.Select(u => u.Name)]) : name.Trim();
        if (units.Count == 0 || !Names.Fit(name, SessionFile.LongestName))
        {
            Notice = units.Count == 0 ? "Choose at least one source of yours." : $"The session needs a name of 1 to {SessionFile.LongestName} characters, on one line.";
            return Page();
        }

        var file = CheckPattern.Of([.. units.Select(u => u.Chart)], Tempo.Default);
        var song = Song.Of(file);
        var split = Gear.Begin([.. units.Select(u => u.Id)], ReplaceSong.LengthOf(song));
        split = Layer.Propose(SplitView.Of(split, song), new LayWish()).Edit is { } edit && edit.Apply(split) is { Ok: true } laid ? laid.Value : split;
        return Redirect($"/sessions/{(await sessions.Create(name, MidiWriter.Write(file), split)).ToString(CultureInfo.InvariantCulture)}/split");
    }

    private async Task<IActionResult> Change(int revision, Func<Own, Task<Result<Own>>> change)
    {
        var (gear, now) = await store.Load();
        var changed = now != revision ? new Refusal(GearStore.Moved)
            : gear.Ok ? await change(gear.Value)
            : new Refusal($"Your gear cannot be read, so nothing was changed in it. {gear.Trouble}");
        if (changed.Ok && SplitRules.FirstMisfit(changed.Value.Kept) is { } misfit)
        {
            changed = new Refusal(misfit.Sentence);
        }

        if (!changed.Ok || !await store.Save(changed.Value, revision))
        {
            TempData.Notify(changed.Ok ? GearStore.Moved : changed.Trouble);
        }

        return Redirect("/gear");
    }
}
