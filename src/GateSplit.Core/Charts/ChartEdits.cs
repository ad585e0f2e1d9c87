using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Charts;

/// <summary>Small changes of a chart, as a person makes them one by one. None of them checks the whole: <see cref="ChartRules"/> does.</summary>
public static class ChartEdits
{
    /// <summary>Changes an element, and the notes that play it if one voice is its own.</summary>
    /// <param name="chart">The chart.</param>
    /// <param name="element">The element as it shall be; its id is in the chart.</param>
    /// <param name="channel">MIDI channel of its voice; null to leave it.</param>
    /// <param name="keys">Keys of its voice, empty for all.</param>
    public static Chart Set(this Chart chart, ChartElement element, int? channel, ImmutableArray<int> keys)
    {
        var own = element.Hears.Where(h => !h.Bleed).Select(h => h.VoiceId).ToList();
        return chart with
        {
            Elements = [.. chart.Elements.Select(e => e.Id == element.Id ? element : e)],
            Voices = own is [var voiceId] && channel is { } number
                ? [.. chart.Voices.Select(v => v.Id == voiceId ? v with { Channel = number, Keys = keys } : v)]
                : chart.Voices,
        };
    }

    /// <summary>Adds an element with a voice of its own, like the last one but named anew.</summary>
    public static Chart AddElement(this Chart chart, string name)
    {
        var id = FreeId(chart, "element");
        var voice = new ChartVoice(new VoiceId(id), name, 10, [36]) { Drum = new DrumPatch { BodyLevel = 0.8, BodyHz = 160 } };
        return chart with
        {
            Voices = chart.Voices.Add(voice),
            Elements = chart.Elements.Add(new ChartElement(new ElementId(id), name, Family.TomAndPercussion, ElementKind.Voice, Width.Mono) { Hears = [new Hearing(new VoiceId(id))] }),
        };
    }

    /// <summary>Adds a stereo return, a reverb until it is said otherwise; it is in the main mix.</summary>
    public static Chart AddReturn(this Chart chart, string name) => chart with
    {
        Elements = chart.Elements.Add(
            new ChartElement(new ElementId(FreeId(chart, "return")), name, Family.RoomAndReturn, ElementKind.Return, Width.Stereo) { ReturnSeconds = 1.5 }),
    };

    /// <summary>Gives an element an effect of its own and what it sends to the shared one; null takes either away.</summary>
    public static Chart SetEffects(this Chart chart, ElementId id, InsertPatch? insert, Decibels? sendDb) =>
        Each(chart, id, e => e with { Insert = insert, SendDb = sendDb });

    /// <summary>Feeds an element to a port beside its usual way; null to none.</summary>
    public static Chart SetStraight(this Chart chart, ElementId id, StraightSend? straight) => Each(chart, id, e => e with { Straight = straight });

    /// <summary>Adds a group into the main mix; elements that name it follow it.</summary>
    public static Chart AddGroup(this Chart chart, string name) => chart with { Groups = chart.Groups.Add(new ChartGroup(name)) };

    /// <summary>Changes a group; whoever names it goes on doing so under its new name.</summary>
    /// <param name="chart">The chart.</param>
    /// <param name="name">Its name so far.</param>
    /// <param name="group">The group as it shall be.</param>
    public static Chart SetGroup(this Chart chart, string name, ChartGroup group) => chart with
    {
        Groups = [.. chart.Groups.Select(g => g.Name == name ? group : g.Parent == name ? g with { Parent = group.Name } : g)],
        Elements = [.. chart.Elements.Select(e => e.Group == name ? e with { Group = group.Name } : e)],
    };

    /// <summary>Takes a group away: what followed it follows what it followed.</summary>
    public static Chart RemoveGroup(this Chart chart, string name)
    {
        var parent = chart.Group(name)?.Parent;
        return chart with
        {
            Groups = [.. chart.Groups.Where(g => g.Name != name).Select(g => g.Parent == name ? g with { Parent = parent } : g)],
            Elements = [.. chart.Elements.Select(e => e.Group == name ? e with { Group = parent } : e)],
        };
    }

    /// <summary>Gives elements that one key plays keys that count upward, in their order; what several keys play, or all, is left alone.</summary>
    /// <param name="chart">The chart.</param>
    /// <param name="channel">MIDI channel of all of them.</param>
    /// <param name="first">Key of the first.</param>
    public static Chart CountKeys(this Chart chart, int channel, int first)
    {
        var order = chart.Elements.Select(e => e.Hears.Where(h => !h.Bleed).ToList() is [var only] ? only.VoiceId : default(VoiceId?)).OfType<VoiceId>().Distinct()
            .Where(id => chart.Voices.First(v => v.Id == id).Keys.Length == 1).ToList();
        return chart with { Voices = [.. chart.Voices.Select(v => order.IndexOf(v.Id) is >= 0 and var at ? v with { Channel = channel, Keys = [first + at] } : v)] };
    }

    /// <summary>Says how long a return rings, and how often it repeats if it is an echo; null for a reverb.</summary>
    public static Chart SetReturn(this Chart chart, ElementId id, double seconds, double? echoSeconds) =>
        Each(chart, id, e => e with { ReturnSeconds = seconds, EchoSeconds = echoSeconds });

    /// <summary>Takes an element away, and the voices that nothing hears any more.</summary>
    public static Chart RemoveElement(this Chart chart, ElementId id)
    {
        var left = chart.Elements.Where(e => e.Id != id).ToImmutableArray();
        var heard = left.SelectMany(e => e.Hears).Select(h => h.VoiceId).ToHashSet();
        return chart with
        {
            Elements = left,
            Voices = [.. chart.Voices.Where(v => heard.Contains(v.Id))],
        };
    }

    /// <summary>Names a port and gives it a width and a tap; the channels of the ports behind it move up or down.</summary>
    public static Chart SetPort(this Chart chart, int number, string name, Width width, Tap tap) => Counted(chart with
    {
        Ports = [.. chart.Ports.Select(p => p.Number == number ? p with { Name = name, Width = width, Tap = tap } : p)],
    });

    /// <summary>Adds a port behind the last; every mode carries it that carries the last.</summary>
    public static Chart AddPort(this Chart chart, string name, Width width)
    {
        var last = chart.Ports[^1];
        var number = chart.Ports.Max(p => p.Number) + 1;
        return Counted(chart with
        {
            Ports = chart.Ports.Add(new ChartPort(number, name, last.LastChannel + 1, width, last.IsMain ? Tap.AfterFader : last.Tap)),
            Modes = [.. chart.Modes.Select(m => m.Ports.Contains(last.Number) ? m with { Ports = m.Ports.Add(number) } : m)],
        });
    }

    /// <summary>Takes a port away; what had it is in the main mix only.</summary>
    public static Chart RemovePort(this Chart chart, int number) => Counted(chart with
    {
        Ports = [.. chart.Ports.Where(p => p.Number != number)],
        Modes = [.. chart.Modes.Select(m => m with { Ports = m.Ports.Remove(number) })],
        Groups = [.. chart.Groups.Select(g => g.Port == number ? g with { Port = null } : g)],
        Elements =
        [
            .. chart.Elements.Select(e => e with
            {
                Port = e.Port == number ? null : e.Port,
                InMain = e.InMain || e.Port == number,
                Ports = e.Ports.Remove(number),
                Straight = e.Straight?.Port == number ? null : e.Straight,
            }),
        ],
    });

    private static Chart Each(Chart chart, ElementId id, Func<ChartElement, ChartElement> change) =>
        chart with { Elements = [.. chart.Elements.Select(e => e.Id == id ? change(e) : e)] };

    private static Chart Counted(Chart chart)
    {
        var channel = 1;
        var ports = ImmutableArray.CreateBuilder<ChartPort>();
        foreach (var port in chart.Ports)
        {
            ports.Add(port with { FirstChannel = channel });
            channel += (int)port.Width;
        }

        return chart with { Ports = ports.ToImmutable() };
    }

    private static string FreeId(Chart chart, string word) => Enumerable.Range(1, int.MaxValue).Select(n => $"{word}-{n}")
        .First(id => chart.Elements.All(e => e.Id.Value != id) && chart.Voices.All(v => v.Id.Value != id));
}
