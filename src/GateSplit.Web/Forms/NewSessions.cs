using GateSplit.Core;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Handoff;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;
using GateSplit.Data;

namespace GateSplit.Web.Forms;

/// <summary>Makes sessions of what a form asks for: of sources of one's own, and of charts from the shelf.</summary>
public sealed class NewSessions(SessionStore sessions, ChartStore charts, GearStore gear)
{
    /// <summary>What was asked for.</summary>
    /// <param name="Name">Its name; empty for the names of its sources.</param>
    /// <param name="Charts">Ids of charts from the shelf.</param>
    /// <param name="Own">Ids of sources of one's own.</param>
    /// <param name="Tempo">As typed.</param>
    /// <param name="Bars">As typed.</param>
    /// <param name="Lay">True to lay lines at once.</param>
    public sealed record Wish(string Name, string[] Charts, string[] Own, string Tempo, string Bars, bool Lay);

    /// <summary>Makes a session.</summary>
    /// <param name="wish">What was asked for.</param>
    /// <param name="midi">Its song; null or empty for every voice in turn.</param>
    /// <returns>The session's number, or a sentence.</returns>
    public async Task<Result<Made>> Make(Wish wish, IFormFile? midi)
    {
        var (kept, all) = (await gear.Load(), await charts.All());
        if (wish.Own.Length > 0 && !kept.Gear.Ok)
        {
            return new Refusal($"Your gear cannot be read, so no session begins from it. {kept.Gear.Trouble}");
        }

        var owned = kept.Gear.Value ?? Core.Templates.Gear.None;
        var own = owned.Kept.Units.Where(u => wish.Own.Contains(u.Id.Value)).ToList();
        var chosen = wish.Charts.Select(id => all.FirstOrDefault(c => c.Id.Value == id)).OfType<Chart>().ToList();
        var name = wish.Name.Trim() is { Length: > 0 } typed ? typed : Words.List([.. own.Select(u => u.Name), .. chosen.Select(c => c.Name)]);
        if (own.Count + chosen.Count == 0)
        {
            return new Refusal("Choose at least one source for the session.");
        }

        if (!Names.Fit(name, SessionFile.LongestName))
        {
            return new Refusal($"The session needs a name of 1 to {SessionFile.LongestName} characters, on one line.");
        }

        var length = LengthOf(wish.Bars);
        var file = length.Ok ? await SongOf([.. own.Select(u => u.Chart), .. chosen], wish.Tempo, midi) : new Refusal(length.Trouble);
        if (!file.Ok)
        {
            return new Refusal(file.Trouble);
        }

        var song = Song.Of(file.Value);
        var split = SplitOf(owned, own, chosen, length.Value!.Bars ?? ReplaceSong.LengthOf(song));
        if (!split.Ok)
        {
            return new Refusal(split.Trouble);
        }

        var laid = wish.Lay && Layer.Propose(SplitView.Of(split.Value, song), new LayWish()).Edit is { } edit ? edit.Apply(split.Value) : split;
        return new Made(await sessions.Create(name, MidiWriter.Write(file.Value), laid.Value ?? split.Value));
    }

    /// <summary>What is to be set on the gear is ticked once it is set; passes are recorded as usual.</summary>
    private static Result<Split> SplitOf(Core.Templates.Gear owned, List<Unit> own, List<Chart> chosen, int bars)
    {
        if (own.Count > 0)
        {
            return new Several("Add the others", [.. chosen.Select(c => new AddUnit(c, SettingsMade: false))]).Apply(owned.Begin([.. own.Select(u => u.Id)], bars));
        }

        var fresh = StartingSplit.Of(chosen, bars, owned.Kept.Pass.SampleRate);
        return fresh with { Units = [.. fresh.Units.Select(AddUnit.Unmade)], Pass = owned.Kept.Pass with { LengthBars = bars } };
    }

    private static Result<Length> LengthOf(string typed) =>
        typed.Length == 0 ? new Length(null)
        : int.TryParse(typed, out var bars) && bars is >= 1 and <= PassSettings.MostBars ? new Length(bars)
        : new Refusal($"The length is 1 to {PassSettings.MostBars} bars.");

    private static async Task<Result<MidiFile>> SongOf(IReadOnlyList<Chart> sources, string tempo, IFormFile? midi)
    {
        double? quarters = tempo.Length > 0 ? SentSong.Tempo(tempo) : null;
        if (tempo.Length > 0 && quarters is null)
        {
            return new Refusal(SentSong.TempoNeeded);
        }

        if (midi is null or { Length: 0 })
        {
            return CheckPattern.Of(sources, quarters is { } q ? Tempo.FromQuartersPerMinute(q) : Tempo.Default);
        }

        var read = await SentSong.Read(midi);
        return read.Ok && quarters is { } wanted ? Song.WithTempo(read.Value, Tempo.FromQuartersPerMinute(wanted)) : read;
    }

    /// <summary>A session that was made.</summary>
    /// <param name="Id">Its number.</param>
    public sealed record Made(long Id);

    private sealed record Length(int? Bars);
}
