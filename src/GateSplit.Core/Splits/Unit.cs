using System.Collections.Immutable;
using GateSplit.Core.Charts;

namespace GateSplit.Core.Splits;

/// <summary>One source as used in a session.</summary>
/// <param name="Id">Short id, unique in the split.</param>
/// <param name="Name">Its name in the session.</param>
/// <param name="Chart">The session's own copy of the chart.</param>
/// <param name="ModeId">The mode it is in.</param>
/// <param name="Elements">One for each element of the chart, in its order.</param>
/// <param name="Voices">One for each voice of the chart, in its order.</param>
public sealed record Unit(
    string Id, string Name, Chart Chart, string ModeId, ImmutableArray<UnitElement> Elements, ImmutableArray<UnitVoice> Voices)
{
    /// <summary>The mode it is in.</summary>
    public ChartMode Mode => Chart.Modes.First(m => m.Id == ModeId);

    /// <summary>The settings of an element.</summary>
    public UnitElement Element(string id) => Elements.First(e => e.ElementId == id);

    /// <summary>The shape of a voice.</summary>
    public UnitVoice Voice(string id) => Voices.First(v => v.VoiceId == id);

    /// <summary>True if the mode lets a port carry anything.</summary>
    public bool Exposes(int port) => Mode.Ports.Contains(port);

    /// <summary>The port an element is drawn at: its own, or that of the main mix, or none.</summary>
    public ChartPort? PortOf(UnitElement element) =>
        element.Port is { } own ? Chart.Port(own) : element.InMain ? Chart.MainPort : null;

    /// <summary>A source as it is when new.</summary>
    public static Unit FromChart(string id, Chart chart) => new(
        id,
        chart.Name,
        chart,
        chart.Modes[0].Id,
        [.. chart.Elements.Select(e => new UnitElement(e.Id) { Port = e.Port, InMain = e.InMain, FaderDb = e.FaderDb, Pan = e.Pan })],
        [.. chart.Voices.Select(v => new UnitVoice(v.Id))]);
}
