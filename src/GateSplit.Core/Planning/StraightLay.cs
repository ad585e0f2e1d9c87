using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Planning;

/// <summary>
/// Gives every sounding element that has no line yet a port and a track, counting upward, so that the numbers on both
/// sides run in the same order. What is already assigned stays.
/// </summary>
public static class StraightLay
{
    /// <summary>Works out the edit; null if every sounding element has its line already.</summary>
    /// <param name="view">The split.</param>
    public static Edit? Edit(SplitView view)
    {
        var edits = ImmutableArray.CreateBuilder<Edit>();
        var split = view.Split;
        foreach (var unit in split.Units)
        {
            foreach (var edit in ForUnit(view, split, unit))
            {
                var result = edit.Apply(split);
                if (result.Ok)
                {
                    split = result.Value;
                    edits.Add(edit);
                }
            }
        }

        return edits.Count == 0 ? null : new Several("Lay every sounding element", edits.ToImmutable());
    }

    private static IEnumerable<Edit> ForUnit(SplitView view, Split split, Unit unit)
    {
        var widest = unit.Chart.Modes.MaxBy(m => m.Ports.Length)!;
        if (widest.Ports.Length > unit.Mode.Ports.Length)
        {
            yield return new SetMode(unit.Id, widest.Id);
        }

        var waiting = view.SoundingElements.Where(e => e.Unit.Id == unit.Id && !HasLine(view, e.Ref)).ToList();
        var taken = unit.Elements.Select(e => e.Port).OfType<int>().ToHashSet();
        var main = unit.Chart.MainPort;

        // A main port whose elements all leave it is a port like any other.
        var mainIsFree = unit.Chart.AssignedLeavesMain
            && !view.AnyTrackHears(unit.Id, main.Number)
            && waiting.Count <= unit.Chart.Ports.Length - taken.Count;
        var lefts = new HashSet<int>();
        var number = split.Tracks.Select(t => int.Parse(t.Id.AsSpan(1))).DefaultIfEmpty().Max();
        foreach (var (element, _, chart, set) in waiting)
        {
            var port = set.Port is { } own
                ? unit.Chart.Port(own)
                : unit.Chart.Ports.FirstOrDefault(p =>
                    (!p.IsMain || mainIsFree)
                    && widest.Ports.Contains(p.Number)
                    && (int)p.Width >= (int)chart.Width
                    && (chart.Ports.IsEmpty || chart.Ports.Contains(p.Number))
                    && !taken.Contains(p.Number));
            if (port is null)
            {
                continue;
            }

            taken.Add(port.Number);
            if (set.Port != port.Number)
            {
                yield return new AssignPort(element, port.Number);
            }

            // Two mono elements that can only leave by one pair are panned hard apart on it.
            var right = chart.Width == Width.Mono && port.Width == Width.Stereo && !lefts.Add(port.Number);
            if (chart.Width == Width.Mono && port.Width == Width.Stereo)
            {
                yield return new SetPan(element, right ? 1 : -1);
            }

            if (port.Tap == Tap.AfterFader && set.FaderDb != 0)
            {
                yield return new SetFader(element, 0);
            }

            yield return new AddTrack(new Track($"t{++number}", UniqueName(split, chart.Name), chart.Width)
            {
                Input = new InputRef(split.BankOf(unit).Id, port.FirstChannel + (right ? 1 : 0)),
            });
        }
    }

    private static bool HasLine(SplitView view, ElementRef element) =>
        view.Signal.Reaching(element).Any(c => !c.Gain.IsZero && view.Signal.In(c.TrackId).Count(o => !o.Gain.IsZero) == 1);

    private static string UniqueName(Split split, string wish)
    {
        var name = wish;
        for (var n = 2; split.Tracks.Any(t => string.Equals(t.Name, name, StringComparison.OrdinalIgnoreCase)); n++)
        {
            name = $"{wish} {n}";
        }

        return name;
    }
}
