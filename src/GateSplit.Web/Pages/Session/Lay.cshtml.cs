using GateSplit.Core;
using GateSplit.Core.Charts;
using GateSplit.Core.Planning;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;
using GateSplit.Data;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;

namespace GateSplit.Web.Pages.Session;

/// <summary>A proposal for the lines: what it would do, why, how long it takes, and what else could be done.</summary>
public sealed class LayModel(OpenSessions open, SessionStore sessions, TakeStore takes, JobStore jobs, IAudioStore store)
    : EditPage(open, sessions, takes, jobs, store)
{
    /// <summary>True to lay everything again.</summary>
    [BindProperty(SupportsGet = true, Name = "anew")]
    public bool Anew { get; set; }

    /// <summary>True to let two mono lines share a pair where that saves a pass.</summary>
    [BindProperty(SupportsGet = true, Name = "pan")]
    public bool HardPan { get; set; }

    /// <summary>True to lay groups as one line each.</summary>
    [BindProperty(SupportsGet = true, Name = "groups")]
    public bool ByGroup { get; set; }

    /// <summary>The only elements to lay, as "unit/element" with commas between; null for all.</summary>
    [BindProperty(SupportsGet = true, Name = "only")]
    public string? Only { get; set; }

    /// <summary>The proposal.</summary>
    public Proposal Proposal { get; private set; } = null!;

    /// <summary>What the passes take after it.</summary>
    public PassTimes Times { get; private set; } = null!;

    /// <summary>Other wishes with what they come to.</summary>
    public IReadOnlyList<Choice> Choices { get; private set; } = [];

    /// <summary>Accepts the proposal.</summary>
    public Task<IActionResult> OnPostAccept(int revision) => Change(
        revision,
        () => Layer.Propose(Session.Lines, Wish).Edit is { } edit ? edit : new Refusal("There is nothing to lay: every element that sounds has its line already."));

    /// <inheritdoc/>
    protected override string Station => "split";

    /// <inheritdoc/>
    protected override string Address() => $"/sessions/{Id}/split";

    private LayWish Wish => new(Anew, HardPan, ByGroup)
    {
        Only = string.IsNullOrWhiteSpace(Only)
            ? null
            : [.. Only.Split(',').Select(o => o.Split('/', 2)).Where(o => o.Length == 2).Select(o => new ElementRef(new UnitId(o[0]), new ElementId(o[1])))],
    };

    /// <summary>What is laid, in words; null for everything that sounds.</summary>
    public string? OnlyWords => Wish.Only is { } only ? Core.Words.List([.. only.Select(Split.NameOf)]) : null;

    /// <inheritdoc/>
    protected override async Task<bool> Show()
    {
        if (!await Load(Station))
        {
            return false;
        }

        Proposal = Layer.Propose(Session.Lines, Wish);
        Times = TimesOf(Proposal);
        Choices = [.. Wishes().Select(w => (Wish: w, Proposal: Layer.Propose(Session.Lines, w))).Select(c => new Choice(Words(c.Wish), Query(c.Wish), c.Proposal.Lines.Length, TimesOf(c.Proposal), c.Wish with { Only = null } == Wish with { Only = null }))];
        return true;
    }

    private IEnumerable<LayWish> Wishes()
    {
        yield return Wish with { HardPan = false, ByGroup = false };
        yield return Wish with { HardPan = true, ByGroup = false };
        if (Split.Units.Any(u => !u.Chart.Groups.IsEmpty))
        {
            yield return Wish with { HardPan = false, ByGroup = true };
        }
    }

    private PassTimes TimesOf(Proposal proposal) =>
        PassTimes.Of(new SplitView(proposal.After, Session.Lines.Sounding), Session.Song);

    private static string Words(LayWish wish) =>
        wish.ByGroup ? "each group as one line" : wish.HardPan ? "two mono lines on a pair where that saves a pass" : "each line on a port of its own";

    private string Query(LayWish wish) =>
        $"/sessions/{Id}/lay?anew={(wish.Anew ? "true" : "false")}&pan={(wish.HardPan ? "true" : "false")}&groups={(wish.ByGroup ? "true" : "false")}{(Only is null ? "" : "&only=" + Uri.EscapeDataString(Only))}";

    /// <summary>Another way to lay the lines.</summary>
    /// <param name="What">In words.</param>
    /// <param name="Address">Where it is proposed.</param>
    /// <param name="Lines">New lines.</param>
    /// <param name="Times">What it takes.</param>
    /// <param name="Chosen">True for the one that is shown.</param>
    public sealed record Choice(string What, string Address, int Lines, PassTimes Times, bool Chosen);
}
