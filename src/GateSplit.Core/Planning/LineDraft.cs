using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Planning;

/// <summary>A line that a source wants, before it has a port.</summary>
/// <param name="Elements">What it carries: one element, the sharers of a voice, those of a group, or what somebody has put together.</param>
/// <param name="Name">What its track is to be called.</param>
/// <param name="Width">Of its track.</param>
internal sealed record LineDraft(ImmutableArray<ElementRef> Elements, string Name, Width Width)
{
    /// <summary>The only ports it can leave by; empty for any that fits.</summary>
    public ImmutableArray<int> Ports { get; init; } = [];

    /// <summary>The side it has in the music, if it is panned hard there.</summary>
    public int? Side { get; init; }

    /// <summary>The group that leaves as one line; null for elements.</summary>
    public string? Group { get; init; }

    /// <summary>What it has in common with lines that belong into the same pass; null for nothing.</summary>
    public string? Set { get; init; }

    /// <summary>What it shares with lines that must not be in the same pass; null for nothing.</summary>
    public string? Voice { get; init; }

    /// <summary>
    /// The lines a source wants. Sharers of a voice are one line and, where that is wished, whole groups; what somebody has put on a port by
    /// hand stays there, together with whatever else is on it.
    /// </summary>
    public static List<LineDraft> Of(SplitView view, Unit unit, LayWish wish, ICollection<string> reasons)
    {
        var main = unit.Chart.MainPort.Number;
        var keyed = new Dictionary<Key, List<(ElementRef Ref, ChartElement Chart, UnitElement Set)>>();
        foreach (var (element, _, chart, set) in view.SoundingElements.Where(e => e.Unit.Id == unit.Id && e.Chart.Kind != ElementKind.NoteOnly))
        {
            if (chart.Ports is [var only] && only == main)
            {
                reasons.Add($"{chart.Name} of {unit.Name} can leave by the main mix only, and stays there.");
                continue;
            }

            var key = KeyOf(view, unit, element, chart, wish);
            keyed.TryAdd(key, []);
            keyed[key].Add((element, chart, set));
        }

        return [.. keyed.Select(k => Drafted(unit, k.Key, k.Value, wish, reasons))];
    }

    private static Key KeyOf(SplitView view, Unit unit, ElementRef element, ChartElement chart, LayWish wish)
    {
        if (wish.Merged.Contains(element))
        {
            return new Key { Merged = true };
        }

        if (wish.ByGroup && unit.Chart.Group(chart.Group) is { } group)
        {
            return new Key { Group = group.Name };
        }

        if (!wish.Anew && ByHand(view, unit, element) is { } chosen)
        {
            return chosen;
        }

        return chart.SharedVoice is { } voice && !wish.SharersApart ? new Key { Voice = voice } : new Key { Element = element };
    }

    /// <summary>
    /// The port of an element that somebody has put there, or that is there with one that somebody has; the group of one that follows a group that
    /// somebody has given a port; null for one that is where the chart has it.
    /// </summary>
    private static Key? ByHand(SplitView view, Unit unit, ElementRef element)
    {
        var main = unit.Chart.MainPort.Number;
        var set = unit.Element(element.ElementId);
        bool Chosen(int port) => port != main && (unit.Exposes(port) || unit.Chart.Modes.Any(m => m.Ports.Contains(port)));
        if (set.Port is { } port)
        {
            var there = view.SoundingElements.Where(e => e.Unit.Id == unit.Id && e.Set.Port == port && e.Set.Pass == set.Pass).ToList();
            return !Chosen(port) || !there.Exists(e => e.Chart.SharedVoice is null && e.Chart.Port != port && e.Chart.Ports.Length != 1) ? null
                : new Key { Port = port, Pass = set.Pass, Element = AreApart([.. there.Select(e => (e.Chart, e.Set))]) ? element : null };
        }

        var group = unit.GroupsOf(set).LastOrDefault();
        return group?.Port is { } given && Chosen(given) && given != unit.Chart.Group(group.Name)?.Port ? new Key { Group = group.Name } : null;
    }

    /// <summary>True of one alone, and of two mono elements that are panned hard apart.</summary>
    private static bool AreApart(List<(ChartElement Chart, UnitElement Set)> there) => there.Count == 1
        || (there.Count == 2 && there.TrueForAll(e => e.Chart.Width == Width.Mono) && there.Exists(e => SideOf(e.Set) == 0) && there.Exists(e => SideOf(e.Set) == 1));

    private static LineDraft Drafted(
        Unit unit, Key key, List<(ElementRef Ref, ChartElement Chart, UnitElement Set)> members, LayWish wish, ICollection<string> reasons)
    {
        var (first, chart, set) = members[0];
        var elements = members.Select(m => m.Ref).ToImmutableArray();
        var names = string.Join(" + ", members.Select(m => m.Chart.Name));
        if (key.Group is { } group)
        {
            return new LineDraft(elements, group, Width.Stereo) { Group = group, Ports = wish.ByGroup || unit.Group(group).Port is not { } given ? [] : [given] };
        }

        if (key.Port is { } number)
        {
            if (members.Count > 1)
            {
                reasons.Add($"{Words.List([.. members.Select(m => m.Chart.Name)])} stay together on port {number} of {unit.Name}, where they were put.");
            }

            return new LineDraft(elements, names, members.Count == 1 ? chart.Width : unit.Chart.Port(number)!.Width) { Ports = [number], Side = SideOf(set) };
        }

        if (key.Merged)
        {
            return new LineDraft(elements, names, members.Max(m => m.Chart.Width));
        }

        if (key.Voice is not null && members.Count > 1)
        {
            reasons.Add($"{names} share a voice of {unit.Name} and so one line.");
        }

        var mono = chart.Width == Width.Stereo && wish.AsMono.Contains(first);
        return new LineDraft(elements, names, mono ? Width.Mono : chart.Width)
        {
            Ports = mono ? [.. unit.Chart.Ports.Where(p => p.Width == Width.Mono && (chart.Ports.IsEmpty || chart.Ports.Contains(p.Number))).Select(p => p.Number)] : chart.Ports,
            Side = SideOf(set),
            Set = Together.Of(chart) is { } drum ? $"{unit.Id}/{drum}" : null,
            Voice = chart.SharedVoice is { } voice && wish.SharersApart ? $"{unit.Id}/{voice}" : null,
        };
    }

    private static int? SideOf(UnitElement set) => set.Pan >= Pan.HardRight ? 1 : set.Pan <= Pan.HardLeft ? 0 : null;

    /// <summary>What elements that leave as one line have in common.</summary>
    private sealed record Key
    {
        public bool Merged { get; init; }

        public string? Group { get; init; }

        public string? Voice { get; init; }

        public int? Port { get; init; }

        public int? Pass { get; init; }

        public ElementRef? Element { get; init; }
    }
}
