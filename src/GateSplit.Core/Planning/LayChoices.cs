using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Planning;

/// <summary>Another way to lay lines, to be looked at and taken.</summary>
/// <param name="What">In words.</param>
/// <param name="Wish">What is wished; null for a way that there is not here, of which <paramref name="What"/> says why.</param>
public sealed record LayChoice(string What, LayWish? Wish);

/// <summary>The ways to lay lines that differ from each other here: what is short, and what could be done about it.</summary>
public static class LayChoices
{
    /// <summary>The most lines that are proposed to become one.</summary>
    private const int MostMerged = 12;

    /// <summary>The ways there are beside each other, that of the wish among them.</summary>
    /// <param name="view">The split.</param>
    /// <param name="wish">How lines are laid without them.</param>
    public static ImmutableArray<LayChoice> Of(SplitView view, LayWish wish)
    {
        var bare = wish with { HardPan = false, Declare = false, ByGroup = false, Unity = false, SharersApart = false, Merged = [], AsMono = [] };
        var plain = bare with { HardPan = true, Declare = true };
        var fewest = Layer.Propose(view, plain);
        var apart = Layer.Propose(view, bare);
        var choices = ImmutableArray.CreateBuilder<LayChoice>();
        choices.Add(new LayChoice("in the fewest passes", plain));
        if (apart.Passes > fewest.Passes)
        {
            choices.Add(new LayChoice("each line on a port of its own, as the ports are", bare));
        }

        if (apart.Passes > 1)
        {
            choices.AddRange(Short(view, bare, apart).Where(c => c.Wish is not { } w || !SplitJson.Same(Layer.Propose(view, w).After, fewest.After)));
        }

        if (view.Split.Units.Any(u => !u.Chart.Groups.IsEmpty))
        {
            choices.Add(new LayChoice("each group as one line", plain with { ByGroup = true }));
        }

        if (view.SoundingElements.Where(e => e.Chart.SharedVoice is not null && wish.Only?.Contains(e.Ref) != false).GroupBy(e => (e.Unit.Id, e.Chart.SharedVoice)).Any(g => g.Count() > 1))
        {
            choices.Add(new LayChoice("sharers of a voice in passes of their own", plain with { SharersApart = true }));
        }

        if (Layer.Propose(view, plain with { Unity = true }) is var unity && !Faders(unity.After).SequenceEqual(Faders(fewest.After)))
        {
            choices.Add(new LayChoice("with the faders of single lines at unity", plain with { Unity = true }));
        }

        return choices.ToImmutable();
    }

    private static IEnumerable<Decibels> Faders(Split split) => split.Units.SelectMany(u => u.Elements.Select(e => e.FaderDb));

    /// <summary>What can be done where one pass does not hold all lines: each way by itself, or why it is none here.</summary>
    private static IEnumerable<LayChoice> Short(SplitView view, LayWish bare, Proposal apart)
    {
        var hard = bare with { HardPan = true };
        yield return Layer.Propose(view, hard).Passes < apart.Passes
            ? new LayChoice("two mono lines hard apart on a pair", hard)
            : new LayChoice($"two mono lines hard apart on a pair: {WhyNotApart(view, apart)}", null);
        if (view.Split.Units.Any(u => u.Chart.DeclaresPorts))
        {
            var declared = bare with { Declare = true };
            yield return Layer.Propose(view, declared).Passes < apart.Passes
                ? new LayChoice("with further outputs declared", declared)
                : new LayChoice("with further outputs declared: that would spare no pass, since inputs are short too", null);
        }

        var mono = apart.Lines.Where(l => l.Width == Width.Mono && l.Elements.Length == 1).ToList();
        if (Fewer(view, apart, Candidates(view, mono).Select(c => bare with { Merged = [.. c] })) is { } merged)
        {
            yield return new LayChoice($"{Words.List([.. merged.Merged.OrderBy(e => PlaceOf(view, e)).Select(view.Split.NameOf)], most: MostMerged)} merged into one", merged);
        }

        var stereo = apart.Lines.Where(l => l.Width == Width.Stereo && l.Elements.Length == 1 && l.Group is null).Select(l => l.Elements[0]).Reverse().ToList();
        if (Fewer(view, apart, Enumerable.Range(1, stereo.Count).Select(n => bare with { AsMono = [.. stereo.Take(n)] })) is { } narrow)
        {
            yield return new LayChoice($"{Words.List([.. narrow.AsMono.OrderBy(e => PlaceOf(view, e)).Select(view.Split.NameOf)], most: MostMerged)} as mono", narrow);
        }
    }

    /// <summary>The first wish with which it takes fewer passes and nothing is left out; null if there is none.</summary>
    private static LayWish? Fewer(SplitView view, Proposal than, IEnumerable<LayWish> wishes) => wishes.FirstOrDefault(w =>
        Layer.Propose(view, w) is var proposal && proposal.Passes < than.Passes && proposal.Lines.Sum(l => l.Elements.Length) == than.Lines.Sum(l => l.Elements.Length));

    /// <summary>Lines to put together: of one family and one source, those first that play least, as few as will do.</summary>
    private static IEnumerable<ImmutableArray<ElementRef>> Candidates(SplitView view, List<LaidLine> mono) =>
        from count in Enumerable.Range(2, MostMerged - 1)
        from family in mono.GroupBy(l => (l.UnitId, view.ElementOf(l.Elements[0]).Chart.Family)).OrderByDescending(g => g.Count())
        where family.Count() >= count
        select family.Select(l => l.Elements[0]).OrderBy(e => Strokes(view, e)).Take(count).ToImmutableArray();

    private static int Strokes(SplitView view, ElementRef element)
    {
        var (_, unit, chart, _) = view.ElementOf(element);
        var voices = unit.Chart.Voices.Where(v => chart.Hears.Any(h => !h.Bleed && h.VoiceId == v.Id)).ToList();
        return view.Song?.Strokes.Where(s => voices.Exists(v => unit.Plays(v, s.Key.Channel, s.Key.Key))).Sum(s => s.Value) ?? 0;
    }

    private static int PlaceOf(SplitView view, ElementRef element) => view.Elements.TakeWhile(e => e.Ref != element).Count();

    private static string WhyNotApart(SplitView view, Proposal apart)
    {
        var late = apart.Lines.Where(l => l.Pass > 1).Select(l => l.UnitId).ToHashSet();
        var units = view.Split.Units.Where(u => late.Contains(u.Id)).ToList();
        return units.TrueForAll(u => u.Chart.Ports.All(p => p.Width == Width.Mono || p.IsMain)) ? $"not possible here, {Words.List([.. units.Select(u => u.Name)])} {(units.Count == 1 ? "has" : "have")} no pairs to share"
            : apart.Lines.Count(l => l.Width == Width.Mono && late.Contains(l.UnitId)) < 2 ? "not possible here, there are no two mono lines"
            : "it would spare no pass here";
    }
}
