using System.Collections.Immutable;
using GateSplit.Core;
using GateSplit.Core.Charts;
using GateSplit.Core.Planning;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;
using GateSplit.Data;
using GateSplit.Web.Forms;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;

namespace GateSplit.Web.Pages.Session;

/// <summary>A proposal for the lines: what it would do, why, how long it takes, and what else could be done.</summary>
public sealed class LayModel(OpenSessions open, SessionStore sessions, TakeStore takes, JobStore jobs, IAudioStore store)
    : EditPage(open, sessions, takes, jobs, store)
{
    /// <summary>How lines are to be laid, as the address has it.</summary>
    [BindProperty(SupportsGet = true)]
    public LayQuery Query { get; set; } = new();

    /// <summary>The proposal.</summary>
    public Proposal Proposal { get; private set; } = null!;

    /// <summary>What the passes take after it.</summary>
    public PassTimes Times { get; private set; } = null!;

    /// <summary>Other wishes with what they come to.</summary>
    public IReadOnlyList<Choice> Choices { get; private set; } = [];

    /// <summary>Accepts the proposal.</summary>
    public Task<IActionResult> OnPostAccept(int revision) => Change(
        revision,
        () => Layer.Propose(Session.Lines, Query.Wish).Edit is { } edit ? edit : new Refusal("There is nothing to lay: every element that sounds has its line already."));

    /// <inheritdoc/>
    protected override string Station => "split";

    /// <inheritdoc/>
    protected override string Address() => $"/sessions/{Id}/split";

    /// <summary>What is laid, in words; null for everything that sounds.</summary>
    public string? OnlyWords => Query.Wish.Only is { } only ? Words.List([.. only.Where(Split.HasElement).OrderBy(e => Session.Lines.Elements.TakeWhile(x => x.Ref != e).Count()).Select(Split.NameOf)]) : null;

    /// <summary>Sources and their groups that can be laid alone, by name; empty where there is but one.</summary>
    public IReadOnlyList<(string Name, ImmutableHashSet<ElementRef> Elements)> Parts
    {
        get
        {
            var sounding = Session.Lines.SoundingElements.Where(e => e.Chart.Kind != ElementKind.NoteOnly).ToList();
            var groups = sounding.Where(e => e.Chart.Group is not null).GroupBy(e => $"{e.Chart.Group} of {e.Unit.Name}").Select(g => (g.Key, g.Select(e => e.Ref).ToImmutableHashSet())).ToList();
            var units = sounding.GroupBy(e => (e.Unit.Id, e.Unit.Name)).Select(g => (g.Key.Name, g.Select(e => e.Ref).ToImmutableHashSet())).ToList();
            return units.Count + groups.Count < 2 ? [] : [.. units.Count > 1 ? units : [], .. groups];
        }
    }

    /// <summary>The address of another wish.</summary>
    public string AddressOf(LayWish wish) => $"/sessions/{Id}/lay{LayQuery.Of(wish)}";

    /// <inheritdoc/>
    protected override async Task<bool> Show()
    {
        if (!await Load(Station))
        {
            return false;
        }

        Proposal = Layer.Propose(Session.Lines, Query.Wish);
        Times = TimesOf(Proposal);
        var here = LayQuery.Of(Query.Wish).ToString();
        Choices =
        [
            .. from choice in LayChoices.Of(Session.Lines, Query.Wish)
               let proposal = choice.Wish is { } wish ? Layer.Propose(Session.Lines, wish) : null
               select new Choice(choice.What, choice.Wish is { } w ? AddressOf(w) : null, proposal?.Lines.Length ?? 0, proposal is null ? null : TimesOf(proposal), choice.Wish is { } own && LayQuery.Of(own).ToString() == here),
        ];
        return true;
    }

    private PassTimes TimesOf(Proposal proposal) =>
        PassTimes.Of(new SplitView(proposal.After, Session.Lines.Sounding), Session.Song);

    /// <summary>Another way to lay the lines.</summary>
    /// <param name="What">In words.</param>
    /// <param name="Address">Where it is proposed; null for a way that there is not here.</param>
    /// <param name="Lines">New lines.</param>
    /// <param name="Times">What it takes; null for a way that there is not here.</param>
    /// <param name="Chosen">True for the one that is shown.</param>
    public sealed record Choice(string What, string? Address, int Lines, PassTimes? Times, bool Chosen);
}
