using System.Globalization;
using GateSplit.Core;
using GateSplit.Core.Splits;
using GateSplit.Core.Templates;
using GateSplit.Data;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;

namespace GateSplit.Web.Pages.Session;

/// <summary>Keeps templates of a session, and adds others to it.</summary>
public sealed class TemplatesModel(OpenSessions open, SessionStore sessions, TakeStore takes, JobStore jobs, IAudioStore store, TemplateStore templates)
    : EditPage(open, sessions, takes, jobs, store)
{
    /// <summary>The template that is looked at; null for none.</summary>
    [BindProperty(SupportsGet = true, Name = "add")]
    public long? Add { get; set; }

    /// <summary>What is to be brought along.</summary>
    [BindProperty(SupportsGet = true, Name = "bring")]
    public string[] Bring { get; set; } = [];

    /// <summary>True to leave sources that are here as they are set.</summary>
    [BindProperty(SupportsGet = true, Name = "leave")]
    public bool Leave { get; set; }

    /// <summary>True to leave out what does not sound in this song.</summary>
    [BindProperty(SupportsGet = true, Name = "sounding")]
    public bool OnlySounding { get; set; }

    /// <summary>True to count numbers anew, without gaps.</summary>
    [BindProperty(SupportsGet = true, Name = "close")]
    public bool CloseUp { get; set; }

    /// <summary>What becomes of tracks whose inputs are taken.</summary>
    [BindProperty(SupportsGet = true, Name = "taken")]
    public TakenInputs Taken { get; set; }

    /// <summary>The templates there are.</summary>
    public IReadOnlyList<TemplateHead> All { get; private set; } = [];

    /// <summary>That template, and what it would do; null for none.</summary>
    public (Template Template, TemplateFit Fit)? Proposal { get; private set; }

    /// <summary>Keeps one of this session.</summary>
    /// <param name="name">Its name.</param>
    /// <param name="what">"whole", "source u1" or "outputs u1".</param>
    /// <param name="notes">True with notes.</param>
    /// <param name="clip">Bars of the empty clip that is kept instead; empty for those of the song.</param>
    /// <param name="rides">True with rides, rolls and variations.</param>
    public async Task<IActionResult> OnPostKeep(string? name, string? what, bool notes, string? clip, bool rides)
    {
        if (!await Load(Station))
        {
            return NotFound();
        }

        var (view, song) = (Session.Lines, Session.Song.File);
        var made = (what ?? "").Split(' ') switch
        {
            ["source", var id] => TemplateMaker.Source(name ?? "", view, new UnitId(id), song, notes, rides),
            ["outputs", var id] => TemplateMaker.Outputs(name ?? "", Split, new UnitId(id), song),
            _ => TemplateMaker.Whole(name ?? "", Split, song, notes, rides),
        };
        if (made.Ok && !notes && !string.IsNullOrWhiteSpace(clip))
        {
            made = TemplateMaker.WithClip(made.Value, int.TryParse(clip, NumberStyles.None, CultureInfo.InvariantCulture, out var bars) ? bars : 0);
        }

        var kept = made.Ok ? await templates.Keep(made.Value) : new Refusal(made.Trouble);
        return RedirectTelling(Address(), !kept.Ok ? kept.Trouble
            : kept.Value.Version == 1 ? $"{made.Value!.Name} is kept: {made.Value.Gist}."
            : $"{made.Value!.Name} is kept as version {kept.Value.Version}: {made.Value.Gist}.");
    }

    /// <summary>Adds one, as it was proposed.</summary>
    public async Task<IActionResult> OnPostAdd(int revision)
    {
        if (Add is not { } id || await templates.Find(id) is not { Ok: true } found)
        {
            return RedirectTelling(Address(), "This template is not there any more.");
        }

        return await Change(revision, () => Fit(found.Value).Edit);
    }

    /// <inheritdoc/>
    protected override string Station => "split";

    /// <inheritdoc/>
    protected override string Address() => $"/sessions/{Id}/{(Add is null ? "templates" : "split")}"; // what was added is seen in the split

    /// <inheritdoc/>
    protected override async Task<bool> Show()
    {
        if (!await Load(Station))
        {
            return false;
        }

        All = await templates.List();
        if (Add is { } id && await templates.Find(id) is { Ok: true } found)
        {
            Proposal = (found.Value, Fit(found.Value));
        }

        return true;
    }

    private TemplateFit Fit(Template template) => TemplateFit.Of(template, Session.Lines, Session.Song, new TemplateWish([.. Bring], Leave, OnlySounding, CloseUp, Enum.IsDefined(Taken) ? Taken : TakenInputs.StayWithout));
}
