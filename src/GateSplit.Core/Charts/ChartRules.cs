using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Charts;

/// <summary>What makes a chart sound, so that the rest of the program can rely on it: whatever is kept or comes in has passed here.</summary>
public static class ChartRules
{
    /// <summary>The most elements, and the most voices.</summary>
    public const int MostElements = 512;

    /// <summary>The most ports, and the most channels at the gate.</summary>
    public const int MostChannels = 256;

    /// <summary>The most modes, settings, groups, and voices that one element hears.</summary>
    public const int MostParts = 128;

    /// <summary>The highest port number.</summary>
    public const int HighestPort = 999;

    /// <summary>How far a fader, a send or a group goes.</summary>
    public static Limits<Decibels> Levels => new(new(-120), new(12));

    /// <summary>The first thing that does not fit; null for a sound chart.</summary>
    /// <param name="chart">The chart.</param>
    /// <param name="place">Where it stands in the file.</param>
    public static Misfit? FirstMisfit(Chart chart, string place = "chart") =>
        Misfits.First(Lists(chart, place)) ?? Misfits.First(Parts(chart, place));

    /// <summary>As <see cref="FirstMisfit"/>, with its place in the sentence.</summary>
    public static string? Trouble(Chart chart) => FirstMisfit(chart)?.ToString();

    /// <summary>Everything is there; all other rules rely on it.</summary>
    private static IEnumerable<Misfit> Lists(Chart chart, string place)
    {
        if (chart is null)
        {
            return [new Misfit(place, "There is no chart.")];
        }

        return
        [
            .. Misfits.OfList(chart.Voices, $"{place}.voices", MostElements),
            .. Misfits.OfList(chart.Elements, $"{place}.elements", MostElements),
            .. Misfits.OfList(chart.Ports, $"{place}.ports", MostChannels),
            .. Misfits.OfList(chart.Modes, $"{place}.modes", MostParts),
            .. Misfits.OfList(chart.Settings, $"{place}.settings", MostParts),
            .. Misfits.OfList(chart.Groups, $"{place}.groups", MostParts),
            .. Misfits.Unless(chart.Clock is not null, $"{place}.clock", "It is left out or says whether it follows, leads and starts."),
        ];
    }

    private static IEnumerable<Misfit> Parts(Chart chart, string place) =>
    [
        .. About(chart, place),
        .. Ports(chart, place),
        .. Each(chart.Voices, $"{place}.voices", (v, at) => v.Misfits(at)),
        .. Misfits.Twice(chart.Voices, v => v.Id, i => $"{place}.voices[{i}].id", id => $"{id} is there twice."),
        .. Groups(chart, place),
        .. Each(chart.Elements, $"{place}.elements", (e, at) => e.Misfits(chart, at)),
        .. Misfits.Twice(chart.Elements, e => e.Id, i => $"{place}.elements[{i}].id", id => $"{id} is there twice."),
        .. Each(chart.Modes, $"{place}.modes", (m, at) => m.Misfits(chart, at)),
        .. Misfits.Twice(chart.Modes, m => m.Id, i => $"{place}.modes[{i}].id", id => $"{id} is there twice."),
        .. Each(chart.Settings, $"{place}.settings", (s, at) => s.Misfits(at)),
    ];

    private static IEnumerable<Misfit> About(Chart chart, string place) =>
    [
        .. Misfits.Unless(Names.FitId(chart.Id.Value), $"{place}.id", "small letters, digits and hyphens are needed, at most 80 of them."),
        .. Misfits.Unless(Names.Fit(chart.Name), $"{place}.name", "a name of 1 to 80 letters is needed."),
        .. Misfits.Unless(Names.FitSentence(chart.Gist), $"{place}.gist", $"a sentence of at most {Names.LongestSentence} letters is needed, without control characters."),
        .. Misfits.Unless(Enum.IsDefined(chart.Kind), $"{place}.kind", "it is a plug-in, hardware, a tablet or groups of the recorder."),
        .. Misfits.Unless(chart.Elements.Length > 0 && chart.Ports.Length > 0 && chart.Modes.Length > 0, place, "at least one element, one port and one mode are needed."),
        .. Misfits.Unless(Chart.Latencies.Hold(chart.LatencyMs), $"{place}.latencyMs", $"{Chart.Latencies} ms are possible."),
        .. chart.Master?.Misfits($"{place}.master") ?? [],
    ];

    private static IEnumerable<Misfit> Ports(Chart chart, string place)
    {
        var taken = new Dictionary<int, int>();
        for (var i = 0; i < chart.Ports.Length; i++)
        {
            var port = chart.Ports[i];
            if (!port.IsSound)
            {
                yield return new Misfit($"{place}.ports[{i}]", $"a number from 1 to {HighestPort}, a name, a width, a tap and channels from 1 to {MostChannels} are needed.");
                yield break;
            }

            for (var channel = port.FirstChannel; channel <= port.LastChannel; channel++)
            {
                if (!taken.TryAdd(channel, port.Number))
                {
                    yield return new Misfit($"{place}.ports[{i}]", $"channel {channel} belongs to port {taken[channel]} already.");
                }
            }
        }

        foreach (var twice in Misfits.Twice(chart.Ports, p => p.Number, i => $"{place}.ports[{i}].number", number => $"port {number} is there twice."))
        {
            yield return twice;
        }

        if (chart.Ports.Count(p => p.IsMain) != 1)
        {
            yield return new Misfit($"{place}.ports", "exactly one port carries the main mix (isMain).");
        }
    }

    private static IEnumerable<Misfit> Groups(Chart chart, string place)
    {
        foreach (var misfit in Each(chart.Groups, $"{place}.groups", (g, at) => g.Misfits(chart, at))
            .Concat(Misfits.Twice(chart.Groups, g => g.Name, i => $"{place}.groups[{i}].name", name => $"{name} is there twice.")))
        {
            yield return misfit;
        }

        for (var i = 0; i < chart.Groups.Length; i++)
        {
            var passed = new HashSet<string>();
            for (var at = chart.Groups[i]; at is not null; at = chart.Group(at.Parent))
            {
                if (!passed.Add(at.Name))
                {
                    yield return new Misfit($"{place}.groups[{i}].parent", $"{chart.Groups[i].Name} follows itself, by way of {Words.List([.. passed])}.");
                    yield break;
                }
            }
        }
    }

    private static IEnumerable<Misfit> Each<T>(ImmutableArray<T> list, string place, Func<T, string, IEnumerable<Misfit>> rule) =>
        list.SelectMany((part, i) => rule(part, $"{place}[{i}]"));
}
