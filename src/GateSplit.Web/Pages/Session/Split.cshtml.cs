using GateSplit.Core;
using GateSplit.Core.Checks;
using GateSplit.Core.Drawing;
using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;
using GateSplit.Data;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;

namespace GateSplit.Web.Pages.Session;

/// <summary>The split of a session: drawing, table, inspector, findings.</summary>
public sealed class SplitModel(OpenSessions open, SessionStore sessions, TakeStore takes, JobStore jobs, IAudioStore store)
    : EditPage(open, sessions, takes, jobs, store)
{
    private const int HistoryShown = 60;
    private const int LongestStateName = 80;

    /// <summary>What is chosen: a place such as "element:u1/kick" or "track:t3".</summary>
    [BindProperty(SupportsGet = true, Name = "line")]
    public string? Line { get; set; }

    /// <summary>The place that is chosen; null for none.</summary>
    public Place? Chosen => Line is null ? null : new Place(Line);

    /// <summary>True to show the elements that do not sound.</summary>
    [BindProperty(SupportsGet = true, Name = "all")]
    public bool All { get; set; }

    /// <summary>How the split is looked at.</summary>
    public ViewChoice Look { get; private set; } = ViewChoice.Plain;

    /// <summary>The pass that is drawn; null for all. More than two on one paper are hard to read, so then it is one at a time.</summary>
    public int? ShownPass => (Look.Pass ?? (Split.Passes > 2 ? 1 : 0)) is > 0 and var pass && pass <= Split.Passes && Split.Passes > 1 ? pass : null;

    /// <summary>The groups that can be folded: each with its unit, its name and how many elements it has.</summary>
    public IReadOnlyList<(string Key, string Name, int Count)> Groups { get; private set; } = [];

    /// <summary>The edits that led here, the newest first.</summary>
    public IReadOnlyList<Revision> History { get; private set; } = [];

    /// <summary>The drawing.</summary>
    public SplitDrawing Drawing { get; private set; } = null!;

    /// <summary>The chosen element; null if another thing or nothing is chosen.</summary>
    public DrawnElement? ChosenElement => Drawing.Elements.FirstOrDefault(e => Place.Of(e.Ref) == Chosen);

    /// <summary>The chosen track; null if another thing or nothing is chosen.</summary>
    public Track? ChosenTrack => Split.Tracks.FirstOrDefault(t => Place.Of(t) == Chosen);

    /// <summary>The chosen port; null if another thing or nothing is chosen.</summary>
    public DrawnPort? ChosenPort => Drawing.Ports.FirstOrDefault(p => Place.OfPort(p.UnitId, p.Number) == Chosen);

    /// <summary>The chosen source; null if another thing or nothing is chosen.</summary>
    public Unit? ChosenUnit => Split.Units.FirstOrDefault(u => Place.Of(u) == Chosen);

    /// <summary>All places on the same line as what is chosen; empty if nothing is.</summary>
    public IReadOnlySet<Place> Lit { get; private set; } = new HashSet<Place>();

    /// <summary>The findings that concern what is chosen, or all of them if nothing is.</summary>
    public IEnumerable<Finding> FindingsHere => Lit.Count == 0
        ? Frame.Findings
        : Frame.Findings.Where(f => f.Places.Any(Lit.Contains) || Frame.FollowingFrom(f).Any(c => c.Places.Any(Lit.Contains)));

    /// <summary>The tracks an element arrives in by a direct path, the one that carries the least else first.</summary>
    public IReadOnlyList<Track> TracksOf(ElementRef element) =>
    [
        .. Session.Lines.Signal.Reaching(element)
            .Where(c => !c.Gain.IsZero)
            .Select(c => Split.Track(c.TrackId)!)
            .Where(t => Session.Lines.PlaysIn(element, t.Pass))
            .OrderBy(t => Session.Lines.SoundingIn(t).Length),
    ];

    /// <summary>The address of this page with something chosen.</summary>
    public string Choose(Place? place) => Address(place?.Key, All);

    /// <summary>Shows the page; with "turn" it first changes how the split is looked at.</summary>
    public override async Task<IActionResult> OnGet()
    {
        if (Request.Query["turn"].ToString() is not { Length: > 0 } turn || !await Load(Station))
        {
            return await base.OnGet();
        }

        FindGroups();
        var look = ViewChoice.Read(Request.Cookies[ViewChoice.CookieName]).After(turn, Groups.Select(g => g.Key));
        Response.Cookies.Append(ViewChoice.CookieName, look.Write(), new CookieOptions
        {
            Path = $"/sessions/{Id}",
            HttpOnly = true,
            SameSite = SameSiteMode.Strict,
            MaxAge = TimeSpan.FromDays(400),
            IsEssential = true,
        });
        return Redirect(Address());
    }

    /// <summary>The address that turns a switch of <see cref="Look"/>.</summary>
    public string Turn(string turn) => $"/sessions/{Id}/split?turn={Uri.EscapeDataString(turn)}{(Line is null ? "" : "&line=" + Uri.EscapeDataString(Line))}{(All ? "&all=true" : "")}";

    /// <summary>Mends a finding.</summary>
    public Task<IActionResult> OnPostFix(int revision, string finding) => Change(
        revision,
        () => Frame.Findings.FirstOrDefault(f => f.Id == finding)?.Fix is { } fix ? fix : new Refusal("This finding is gone already."));

    /// <summary>Accepts a finding as meant.</summary>
    public Task<IActionResult> OnPostAccept(int revision, string finding, string? why) => Change(
        revision,
        () => Frame.Findings.FirstOrDefault(f => f.Id == finding) is { } found
            ? new AcceptFinding(new AcceptedFinding(found.Key, found.Sentence, why ?? ""))
            : new Refusal("This finding is gone already."));

    /// <summary>Goes back to an earlier edit.</summary>
    public async Task<IActionResult> OnPostBack(int revision, int to) =>
        await Sessions.GoBack(Id, revision, to) ? await Done("Went back in the history") : await ShowMoved(revision);

    /// <summary>Names the split as it is at a revision, so that it is found again and stays.</summary>
    public async Task<IActionResult> OnPostName(int revision, string? name)
    {
        var wanted = (name ?? "").Trim();
        if (wanted.Length > 0 && !Names.Fit(wanted, LongestStateName))
        {
            return await ShowWith($"A name has at most {LongestStateName} characters, on one line.");
        }

        return await Sessions.NameRevision(Id, revision, wanted) ? await Done(wanted.Length > 0 ? $"Named “{wanted}”" : "The name is gone") : await ShowMoved(revision);
    }

    /// <inheritdoc/>
    protected override string Station => "split";

    /// <inheritdoc/>
    protected override async Task<bool> Show()
    {
        if (!await Load("split"))
        {
            return false;
        }

        FindGroups();
        Look = ViewChoice.Read(Request.Cookies[ViewChoice.CookieName]);
        Drawing = SplitDrawing.Of(Session.Lines, new DrawingWish(All)
        {
            Pass = ShownPass,
            Folded = [.. Look.Folded],
            Only = Look.OnlyToMend ? [.. Frame.Findings.Where(f => f.ToMend).SelectMany(f => f.Places)] : null,
        });
        History = await Sessions.History(Id, HistoryShown);
        Lit = Chosen is { } chosen ? LineOf(chosen) : new HashSet<Place>();
        return true;
    }

    private void FindGroups() => Groups =
    [
        .. from unit in Split.Units
           from chart in unit.Chart.Elements
           where chart.Group is not null
           group chart by (unit.Id, unit.Name, chart.Group) into g
           where g.Count() > 1
           select ($"{g.Key.Id}/{g.Key.Group}", Split.Units.Length > 1 ? $"{g.Key.Group} of {g.Key.Name}" : g.Key.Group, g.Count()),
    ];

    /// <summary>What lies on the line of an element, a port or a track.</summary>
    private HashSet<Place> LineOf(Place place)
    {
        // A track that carries a whole mix belongs to the line of an element in it; the other elements do not.
        return
        [
            place,
            .. Drawing.Rails.Where(r => r.Places.Contains(place)).SelectMany(r => r.Places).Where(p => place.Element is null || p.Element is null),
        ];
    }

    /// <inheritdoc/>
    protected override string Address() => Address(Line, All);

    private string Address(string? line, bool all)
    {
        var query = new List<string>();
        if (line is not null)
        {
            query.Add("line=" + Uri.EscapeDataString(line));
        }

        if (all)
        {
            query.Add("all=true");
        }

        return $"/sessions/{Id}/split{(query.Count > 0 ? "?" + string.Join('&', query) : "")}";
    }
}
