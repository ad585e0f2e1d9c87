using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Splits;

/// <summary>One source as used in a session.</summary>
/// <param name="Id">Short id, unique in the split.</param>
/// <param name="Name">Its name in the session.</param>
/// <param name="Chart">The session's own copy of the chart.</param>
/// <param name="ModeId">The mode it is in.</param>
/// <param name="Elements">One for each element of the chart, in its order.</param>
/// <param name="Voices">One for each voice of the chart, in its order.</param>
public sealed record Unit(
    UnitId Id, string Name, Chart Chart, ModeId ModeId, ImmutableArray<UnitElement> Elements, ImmutableArray<UnitVoice> Voices)
{
    /// <summary>The groups that were set otherwise than the chart has them.</summary>
    public ImmutableArray<UnitGroup> Groups { get; init; } = [];

    /// <summary>The mode it really is in while the restart that the chosen one needs is still to come; null if none is.</summary>
    public ModeId? ModeInForceId { get; init; }

    /// <summary>Ports declared since it was loaded last; they carry nothing yet.</summary>
    public ImmutableArray<int> UnloadedPorts { get; init; } = [];

    /// <summary>How its stand-in really behaves.</summary>
    public SimulatedUnit Simulated { get; init; } = new();

    /// <summary>Who keeps time.</summary>
    public ClockMode Clock { get; init; } = ClockMode.Follows;

    /// <summary>Channels of the song that it hears as others.</summary>
    public ImmutableArray<NoteRoute> NoteRoutes { get; init; } = [];

    /// <summary>Ports that are turned up or down.</summary>
    public ImmutableArray<PortLevel> PortLevels { get; init; } = [];

    /// <summary>How much a port is turned up or down.</summary>
    public Decibels LevelOf(int port) => PortLevels.FirstOrDefault(p => p.Port == port)?.LevelDb ?? Decibels.Unity;

    /// <summary>Where an element is fed to beside its usual way: by a send of its own and by those of the groups that it follows.</summary>
    public IEnumerable<(StraightSend Send, bool OfGroup)> StraightsOf(UnitElement element)
    {
        if (element.Straight is { } own)
        {
            yield return (own, false);
        }

        foreach (var group in GroupsOf(element).Where(g => g.Straight is not null))
        {
            yield return (group.Straight!, true);
        }
    }

    /// <summary>The ports to which anything is fed beside its usual way.</summary>
    public IEnumerable<int> StraightPorts => Elements.Select(e => e.Straight?.Port).Concat(Groups.Select(g => g.Straight?.Port)).OfType<int>().Distinct();

    /// <summary>Channel and key as which it hears a note of the song.</summary>
    public (int Channel, int Key) AsHeard(int channel, int key) =>
        NoteRoutes.FirstOrDefault(r => r.From == channel) is { } route ? (route.To, key + route.KeyShift) : (channel, key);

    /// <summary>True if a note of the song plays one of its voices.</summary>
    public bool Plays(ChartVoice voice, int channel, int key)
    {
        var heard = AsHeard(channel, key);
        return heard.Key is >= 0 and <= NoteRoute.LastKey && voice.Plays(heard.Channel, heard.Key);
    }

    /// <summary>The mode that was chosen.</summary>
    public ChartMode Mode => Chart.Modes.First(m => m.Id == ModeId);

    /// <summary>The settings of an element.</summary>
    public UnitElement Element(ElementId id) => Elements.First(e => e.ElementId == id);

    /// <summary>The shape of a voice.</summary>
    public UnitVoice Voice(VoiceId id) => Voices.First(v => v.VoiceId == id);

    /// <summary>The mode that it really is in.</summary>
    public ChartMode ModeInForce => Chart.Modes.FirstOrDefault(m => m.Id == ModeInForceId) ?? Mode;

    /// <summary>True if something was changed that holds only after a restart.</summary>
    public bool NeedsRestart => ModeInForceId is not null || !UnloadedPorts.IsEmpty;

    /// <summary>True if a port carries anything, as the source really is.</summary>
    public bool Exposes(int port) =>
        (ModeInForce.Ports.Contains(port) || (Chart.DeclaresPorts && Chart.Port(port) is not null)) && !UnloadedPorts.Contains(port);

    /// <summary>
    /// The groups an element without a port of its own goes through, the nearest first: up to the one that has a port,
    /// or all of them on the way into the main mix.
    /// </summary>
    public IEnumerable<UnitGroup> GroupsOf(UnitElement element)
    {
        if (element.Port is not null || !element.FollowsGroup || Chart.Groups.IsEmpty)
        {
            yield break;
        }

        for (var group = Chart.Group(Chart.Element(element.ElementId)?.Group); group is not null; group = Chart.Group(group.Parent))
        {
            var set = Group(group.Name);
            yield return set;
            if (set.Port is not null)
            {
                yield break;
            }
        }
    }

    /// <summary>True if a setting with an effect is not made.</summary>
    public bool Lacks(SettingEffect effect) =>
        Simulated.NotMade.Any(i => i < Chart.Settings.Length && Chart.Settings[i].Effect == effect);

    /// <summary>The settings of a group of the chart.</summary>
    public UnitGroup Group(string name) => Groups.FirstOrDefault(g => g.Name == name) ?? new UnitGroup(name)
    {
        Port = Chart.Group(name)?.Port,
        FaderDb = Chart.Group(name)?.FaderDb ?? Decibels.Unity,
    };

    /// <summary>The number of the port of an element's own, or of the first group on its way that has one; null if none has.</summary>
    public int? AssignedPort(UnitElement element) => element.Port ?? GroupsOf(element).LastOrDefault()?.Port;

    /// <summary>The port an element is drawn at: its own, its group's, that of the main mix, or none.</summary>
    public ChartPort? PortOf(UnitElement element) =>
        AssignedPort(element) is { } number ? Chart.Port(number) : element.InMain ? Chart.MainPort : null;

    /// <summary>A source as it is when new.</summary>
    public static Unit FromChart(UnitId id, Chart chart) => new(
        id,
        chart.Name,
        chart,
        chart.Modes[0].Id,
        [.. chart.Elements.Select(e => new UnitElement(e.Id) { Port = e.Port, InMain = e.InMain, FaderDb = e.FaderDb, Pan = e.Pan, Straight = e.Straight })],
        [.. chart.Voices.Select(v => new UnitVoice(v.Id))]);

    /// <summary>What in it does not fit; its chart is sound.</summary>
    internal IEnumerable<Misfit> Misfits(string place) => Core.Misfits.OfList(Elements, $"{place}.elements", ChartRules.MostElements)
        .Concat(Core.Misfits.OfList(Voices, $"{place}.voices", ChartRules.MostElements))
        .Concat(Core.Misfits.OfList(NoteRoutes, $"{place}.noteRoutes", NoteRoute.LastChannel))
        .Concat(Core.Misfits.OfList(PortLevels, $"{place}.portLevels", ChartRules.MostChannels))
        .Concat(Core.Misfits.OfList(Groups, $"{place}.groups", ChartRules.MostParts)) is var gaps && gaps.Any() ? gaps : About(place).Concat(Parts(place));

    private IEnumerable<Misfit> About(string place) =>
    [
        .. Core.Misfits.Unless(Names.FitId(Id.Value), $"{place}.id", "An id is made of small letters, digits and hyphens."),
        .. Core.Misfits.Unless(Names.Fit(Name), $"{place}.name", $"A source needs a name of 1 to {Names.Longest} characters."),
        .. Core.Misfits.Unless(Chart.Modes.Any(m => m.Id == ModeId), $"{place}.modeId", $"{Name} is in a mode that its chart does not have."),
        .. Core.Misfits.Unless(ModeInForceId is not { } force || Chart.Modes.Any(m => m.Id == force), $"{place}.modeInForceId", $"{Name} is in a mode that its chart does not have."),
        .. Core.Misfits.Unless(Enum.IsDefined(Clock), $"{place}.clock", $"{Name} follows, leads or runs free."),
        .. Core.Misfits.Unless(
            !UnloadedPorts.IsDefault && UnloadedPorts.All(p => Chart.Port(p) is not null) && UnloadedPorts.Distinct().Count() == UnloadedPorts.Length,
            $"{place}.unloadedPorts",
            $"{Name} has no such ports to load."),
    ];

    private IEnumerable<Misfit> Parts(string place)
    {
        if (Elements.Length != Chart.Elements.Length || Voices.Length != Chart.Voices.Length
            || !Elements.Select(e => e.ElementId).ToHashSet().SetEquals(Chart.Elements.Select(e => e.Id))
            || !Voices.Select(v => v.VoiceId).ToHashSet().SetEquals(Chart.Voices.Select(v => v.Id)))
        {
            return [new Misfit($"{place}.elements", $"The settings of {Name} do not name every element and voice of its chart once.")];
        }

        return Elements.SelectMany((e, i) => e.Misfits(Chart, $"{place}.elements[{i}]"))
            .Concat(Voices.SelectMany((v, i) => v.Misfits($"{place}.voices[{i}]")))
            .Concat(Groups.SelectMany((g, i) => g.Misfits(this, $"{place}.groups[{i}]")))
            .Concat(NoteRoutes.SelectMany((r, i) => r.Misfits($"{place}.noteRoutes[{i}]")))
            .Concat(PortLevels.SelectMany((p, i) => p.Misfits(Chart, $"{place}.portLevels[{i}]")))
            .Concat(Core.Misfits.Twice(PortLevels, p => p.Port, i => $"{place}.portLevels[{i}]", port => $"Port {port} has one level."))
            .Concat(Core.Misfits.Twice(NoteRoutes, r => r.From, i => $"{place}.noteRoutes[{i}]", channel => $"Channel {channel} goes one way only."))
            .Concat(Core.Misfits.Twice(Groups, g => g.Name, i => $"{place}.groups[{i}].name", name => $"The group {name} is there twice."))
            .Concat(Simulated is null ? [new Misfit($"{place}.simulated", "How its stand-in behaves is missing.")] : Simulated.Misfits(this, $"{place}.simulated"));
    }
}
