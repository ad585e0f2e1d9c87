using System.Collections.Immutable;
using GateSplit.Core;
using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Edits;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Data;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;

namespace GateSplit.Web.Pages.Session;

/// <summary>Every line heard and metered alone before anything is recorded.</summary>
public sealed class LineCheckModel(OpenSessions open, SessionStore sessions, TakeStore takes, JobStore jobs, IAudioStore store, LineWalks walks)
    : EditPage(open, sessions, takes, jobs, store)
{
    /// <summary>The line that is being checked, such as "u1/kick".</summary>
    [BindProperty(SupportsGet = true, Name = "line")]
    public string? Line { get; set; }

    /// <summary>True with the main mixes muted on the sources.</summary>
    [BindProperty(SupportsGet = true, Name = "muted")]
    public bool Muted { get; set; }

    /// <summary>True to walk all lines at once.</summary>
    [BindProperty(SupportsGet = true, Name = "walk")]
    public bool Walk { get; set; }

    /// <summary>The elements to check, in order.</summary>
    public IReadOnlyList<(ElementRef Ref, Unit Unit, ChartElement Chart, UnitElement Set)> Elements { get; private set; } = [];

    /// <summary>The line that is being checked; null if there are none.</summary>
    public ElementRef? Chosen { get; private set; }

    /// <summary>What was measured so far, a line for each pass in which an element plays.</summary>
    public ImmutableArray<WalkedLine> Lines { get; private set; } = [];

    /// <summary>True once every line was walked.</summary>
    public bool AllWalked { get; private set; }

    /// <summary>The tracks of the table: those that are recorded or heard, in order.</summary>
    public IReadOnlyList<Track> Columns { get; private set; } = [];

    /// <summary>The sentence about a line that is not as the split says; null for one that is.</summary>
    public string? Verdict(WalkedLine line) => WalkVerdict.Of(Split, line, Lines);

    /// <summary>True of a line that somebody has found right.</summary>
    public bool IsTicked(ElementRef element) => LineWay.IsTicked(Session.Lines.Signal, element);

    /// <summary>The line after the chosen one that has no tick yet; null if all have one.</summary>
    public ElementRef? Next
    {
        get
        {
            var order = Elements.Select(e => e.Ref).ToList();
            var at = Chosen is { } chosen ? order.IndexOf(chosen) : -1;
            return order.Skip(at + 1).Concat(order.Take(at + 1)).Where(e => e != Chosen && !IsTicked(e)).Select(e => (ElementRef?)e).FirstOrDefault();
        }
    }

    /// <summary>What an element is measured to peak at on the tracks where it belongs; null if it was not walked or arrives nowhere.</summary>
    public Decibels? MeasuredPeak(ElementRef element) => Lines
        .Where(l => l.Element == element)
        .SelectMany(l => l.Tracks.Where(t => t.Meant && t.Arrived))
        .Select(t => (Decibels?)t.Peak)
        .Max();

    /// <summary>What an element is expected to peak at on the tracks where it belongs; null if its chart does not tell.</summary>
    public Decibels? ExpectedPeakOf(ElementRef element) => Columns
        .Select(t => ExpectedPeak.On(Session.Lines, element, t.Id))
        .Max();

    /// <summary>The address of this page with a line chosen.</summary>
    public string Choose(ElementRef? element, bool? muted = null, bool? walk = null)
    {
        var query = new List<string>();
        if (element is { } named)
        {
            query.Add("line=" + Uri.EscapeDataString(named.ToString()));
        }

        if (muted ?? Muted)
        {
            query.Add("muted=true");
        }

        if (walk ?? Walk)
        {
            query.Add("walk=true");
        }

        return $"/sessions/{Id}/line-check{(query.Count > 0 ? "?" + string.Join('&', query) : "")}";
    }

    /// <summary>Ticks a line and goes on to the next, or takes the tick away and stays.</summary>
    public Task<IActionResult> OnPostTick(int revision, string unit, string element, bool on)
    {
        var ticked = new ElementRef(new UnitId(unit), new ElementId(element));
        return Change(revision, () =>
        {
            Gather();
            Chosen = ticked;
            Line = (on ? Next ?? ticked : ticked).ToString();
            return new TickLine(ticked, on ? LineWay.Of(Session.Lines.Signal, ticked) : null);
        });
    }

    /// <summary>Sets all printed source faders to unity.</summary>
    public Task<IActionResult> OnPostUnity(int revision) => Change(revision, () =>
        LevelPlan.ToUnity(Session.Lines) is { } edit ? edit : new Refusal("Every source fader that is printed is at unity already."));

    /// <summary>Turns down what peaks above the target.</summary>
    public Task<IActionResult> OnPostTrim(int revision) => Change(revision, () =>
    {
        Gather();
        var peaks = Elements.SelectMany(e => walks.One(Session, e.Ref, mainMuted: false))
            .SelectMany(l => l.Tracks.Where(t => t.Meant && t.Arrived).Select(t => (l.Element, t.Peak)));
        return LevelPlan.Trim(Session.Lines, peaks) is { } edit ? edit : new Refusal("Nothing whose fader is printed peaks above the target.");
    });

    /// <inheritdoc/>
    protected override string Station => "line-check";

    /// <inheritdoc/>
    protected override string Address() => Choose(Parse(Line));

    /// <inheritdoc/>
    protected override async Task<bool> Show()
    {
        if (!await Load(Station))
        {
            return false;
        }

        Gather();
        var wished = Parse(Line);
        Chosen = Elements.Any(e => e.Ref == wished) ? wished : Elements.OrderBy(e => IsTicked(e.Ref)).Select(e => (ElementRef?)e.Ref).FirstOrDefault();
        foreach (var element in Elements.Where(e => Walk || e.Ref == Chosen))
        {
            walks.One(Session, element.Ref, Muted);
        }

        var known = walks.Known(Session, Muted);
        Lines = [.. Elements.Where(e => known.ContainsKey(e.Ref)).SelectMany(e => known[e.Ref])];
        AllWalked = Elements.Count > 0 && Elements.All(e => known.ContainsKey(e.Ref));
        return true;
    }

    private void Gather()
    {
        Elements = [.. Session.Lines.SoundingElements.Where(e => e.Chart.Kind != ElementKind.NoteOnly)];
        Columns = [.. Split.Tracks.Where(t => t.Armed || t.Live || t.Input is not null)];
    }

    private static ElementRef? Parse(string? line) => ElementRef.Read(line);
}
