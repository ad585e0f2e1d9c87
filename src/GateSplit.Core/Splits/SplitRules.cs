using System.Collections.Immutable;
using GateSplit.Core.Charts;

namespace GateSplit.Core.Splits;

/// <summary>
/// What makes a split sound. Every edit, every imported file and every stored revision passes here, so that whatever passed can be
/// drawn, checked, printed and handed off. A range or a set of allowed values is said by the type it belongs to; here they meet.
/// </summary>
public static class SplitRules
{
    /// <summary>The most sources.</summary>
    public const int MostUnits = 16;

    /// <summary>The most rows of inputs.</summary>
    public const int MostBanks = 48;

    /// <summary>The most tracks.</summary>
    public const int MostTracks = 256;

    /// <summary>The most groups of tracks.</summary>
    public const int MostTrackGroups = 64;

    /// <summary>The most passes.</summary>
    public const int MostPasses = 64;

    /// <summary>The most cables, and the most findings accepted as meant.</summary>
    public const int MostCables = 4096;

    /// <summary>The most rides, and the most points of all of them.</summary>
    public const int MostRides = 1000;

    /// <summary>The most points of all rides together.</summary>
    public const int MostRidePoints = 100_000;

    /// <summary>The first thing that does not fit; null for a sound split.</summary>
    /// <param name="split">The split.</param>
    /// <param name="before">A sound split that it was made from: what it has in common with that is not looked at again. Null for one from outside.</param>
    public static Misfit? FirstMisfit(Split split, Split? before = null) =>
        Misfits.First(Lists(split)) ?? Misfits.First(Parts(split, before));

    /// <summary>As <see cref="FirstMisfit"/>, with its place in the sentence.</summary>
    public static string? Trouble(Split split) => FirstMisfit(split)?.ToString();

    /// <summary>Everything is there; all other rules rely on it.</summary>
    private static IEnumerable<Misfit> Lists(Split split)
    {
        if (split is null)
        {
            return [new Misfit("split", "There is no split.")];
        }

        return
        [
            .. Misfits.OfList(split.Units, "split.units", MostUnits),
            .. Misfits.OfList(split.Banks, "split.banks", MostBanks),
            .. Misfits.OfList(split.Tracks, "split.tracks", MostTracks),
            .. Misfits.OfList(split.TrackGroups, "split.trackGroups", MostTrackGroups),
            .. Misfits.OfList(split.Cables, "split.cables", MostCables),
            .. Misfits.OfList(split.Accepted, "split.accepted", MostCables),
            .. Misfits.OfList(split.Ticked, "split.ticked", MostUnits * ChartRules.MostElements),
            .. Misfits.OfList(split.Rides, "split.rides", MostRides),
            .. Misfits.OfList(split.Steps, "split.steps", PerformedStep.Most),
            .. Misfits.Unless(split.Pass is not null, "split.pass", "How a pass is recorded is missing."),
            .. Misfits.Unless(split.Interface is not null, "split.interface", "How the simulated interface behaves is missing."),
        ];
    }

    private static IEnumerable<Misfit> Parts(Split split, Split? before) => Units(split, before)
        .Concat(Each(split.Banks, "split.banks", (b, at) => b.Misfits(split, at)))
        .Concat(Misfits.Twice(split.Banks, b => b.Id, i => $"split.banks[{i}].id", id => $"There are two rows of inputs with the id {id}."))
        .Concat(Misfits.Twice(split.Banks.RemoveAll(b => b.UnitId is null), b => b.UnitId, _ => "split.banks", id => $"There are two rows of inputs of the source {id}."))
        .Concat(Each(split.TrackGroups, "split.trackGroups", (g, at) => g.Misfits(split, at)))
        .Concat(Misfits.Twice(split.TrackGroups, g => g.Id, i => $"split.trackGroups[{i}].id", id => $"There are two groups with the id {id}."))
        .Concat(Misfits.Twice(split.TrackGroups, g => g.Name.ToUpperInvariant(), i => $"split.trackGroups[{i}].name", _ => "There is a group of this name already."))
        .Concat(Each(split.Tracks, "split.tracks", (t, at) => t.Misfits(split, at)))
        .Concat(Misfits.Twice(split.Tracks, t => t.Id, i => $"split.tracks[{i}].id", id => $"There are two tracks with the id {id}."))
        .Concat(Each(split.Cables, "split.cables", (c, at) => c.Misfits(split, at)))
        .Concat(Misfits.Twice(split.Cables, c => c, i => $"split.cables[{i}]", _ => "This cable is there twice."))
        .Concat(Each(split.Accepted, "split.accepted", (a, at) => a.Misfits(at)))
        .Concat(Misfits.Twice(split.Accepted, a => a.Key, i => $"split.accepted[{i}].key", _ => "A finding is accepted once."))
        .Concat(Each(split.Ticked, "split.ticked", (t, at) => t.Misfits(split, at)))
        .Concat(Misfits.Twice(split.Ticked, t => t.Element, i => $"split.ticked[{i}].element", _ => "A line is ticked once."))
        .Concat(split.Pass.Misfits("split.pass"))
        .Concat(Performance(split, before))
        .Concat(split.Interface.Misfits(split, "split.interface"));

    /// <summary>A source that was sound and is the same still is not looked at again, and neither is a chart: they are by far the longest part.</summary>
    private static IEnumerable<Misfit> Units(Split split, Split? before)
    {
        for (var i = 0; i < split.Units.Length; i++)
        {
            var unit = split.Units[i];
            var place = $"split.units[{i}]";
            var old = before?.Unit(unit.Id);
            if ((unit.Chart is null || !ReferenceEquals(old?.Chart, unit.Chart)) && ChartRules.FirstMisfit(unit.Chart!, $"{place}.chart") is { } misfit)
            {
                yield return misfit;
            }
            else if (!ReferenceEquals(old, unit))
            {
                foreach (var wrong in unit.Misfits(place))
                {
                    yield return wrong;
                }
            }

            if (split.Banks.All(b => b.UnitId != unit.Id))
            {
                yield return new Misfit($"{place}.id", $"There is no row of inputs for {unit.Name}.");
            }
        }

        foreach (var twice in Misfits.Twice(split.Units, u => u.Id, i => $"split.units[{i}].id", id => $"There are two sources with the id {id}."))
        {
            yield return twice;
        }
    }

    private static IEnumerable<Misfit> Performance(Split split, Split? before) =>
        Each(split.Rides, "split.rides", (r, at) => before?.Rides.Contains(r) == true && split.HasElement(r.Element) ? [] : r.Misfits(split, at))
        .Concat(Misfits.Twice(split.Rides, r => (r.Element, r.Control), i => $"split.rides[{i}]", _ => "A control of an element has one ride."))
        .Concat(Misfits.Unless(split.Rides.Sum(r => r.Points.Length) <= MostRidePoints, "split.rides", $"All rides together have at most {MostRidePoints} points."))
        .Concat(Each(split.Steps, "split.steps", (s, at) => s.Misfits(split, at)));

    private static IEnumerable<Misfit> Each<T>(ImmutableArray<T> list, string place, Func<T, string, IEnumerable<Misfit>> rule) =>
        list.SelectMany((part, i) => rule(part, $"{place}[{i}]"));
}
