using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Splits;

/// <summary>How an element is set in this session.</summary>
/// <param name="ElementId">The element of the chart.</param>
public sealed record UnitElement(ElementId ElementId)
{
    /// <summary>The port of its own; null if it is only in the main mix.</summary>
    public int? Port { get; init; }

    /// <summary>True if it is in the main mix.</summary>
    public bool InMain { get; init; } = true;

    /// <summary>False if it leaves its group and goes straight into the main mix; of no matter where it has no such group.</summary>
    public bool FollowsGroup { get; init; } = true;

    /// <summary>The only pass it plays in, from 1; in the others it is muted on the source. Null if it plays in all.</summary>
    public int? Pass { get; init; }

    /// <summary>Fader in dB.</summary>
    public Decibels FaderDb { get; init; }

    /// <summary>Pan of a mono element, balance of a stereo one: -1 left to 1 right.</summary>
    public Pan Pan { get; init; }

    /// <summary>The pan it has in the music, if it is panned hard only to share a pair; null if its pan is meant.</summary>
    public Pan? MusicalPan { get; init; }

    /// <summary>True if it is muted on the source.</summary>
    public bool Muted { get; init; }

    /// <summary>True if its own effect is switched off, so that it leaves without it.</summary>
    public bool InsertOff { get; init; }

    /// <summary>Its send to the shared effect in dB; null for the chart's.</summary>
    public Decibels? SendDb { get; init; }

    /// <summary>Where its send stands in the effect, -1 left to 1 right; null for where its own pan is.</summary>
    public Pan? SendPan { get; init; }

    /// <summary>Whether it sounds in this song, told by hand; null to go by the notes.</summary>
    public bool? Sounds { get; init; }

    /// <summary>How much more or less a microphone hears of what it is not meant for, in dB.</summary>
    public Decibels BleedDb { get; init; }

    /// <summary>Where it is fed to beside its usual way; null for nowhere.</summary>
    public StraightSend? Straight { get; init; }

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(Chart chart, string place)
    {
        var of = chart.Element(ElementId)!;
        return
        [
            .. Core.Misfits.Unless(Port is not { } port || chart.Port(port) is not null, $"{place}.port", $"There is no port {Port}."),
            .. Core.Misfits.Unless(
                Port is null || of.Ports.IsEmpty || of.Ports.Contains(Port.Value) || Port == of.Port, $"{place}.port", $"{of.Name} leaves by other ports only: {Words.Runs([.. of.Ports.Order()])}."),
            .. Core.Misfits.Unless(Pass is null or (>= 1 and <= SplitRules.MostPasses), $"{place}.pass", $"A split has 1 to {SplitRules.MostPasses} passes."),
            .. Core.Misfits.Unless(ChartRules.Levels.Hold(FaderDb), $"{place}.faderDb", "A fader goes from -120 to +12 dB."),
            .. Core.Misfits.Unless(Pan.Limits.Hold(Pan) && Pan.Limits.Hold(MusicalPan), $"{place}.pan", "Pan goes from -1 (left) to 1 (right)."),
            .. Core.Misfits.Unless(ChartRules.Levels.Hold(SendDb) && Pan.Limits.Hold(SendPan), $"{place}.sendDb", "A send goes from -120 to +12 dB, its pan from -1 (left) to 1 (right)."),
            .. Straight?.Misfits(chart, $"{place}.straight") ?? [],
            .. Core.Misfits.Unless(ChartRules.Levels.Hold(BleedDb), $"{place}.bleedDb", "Bleed goes from -120 to +12 dB."),
        ];
    }
}
