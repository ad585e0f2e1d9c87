using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Charts;

/// <summary>One thing of a source worth a track of its own.</summary>
/// <param name="Id">Short id, unique in the chart.</param>
/// <param name="Name">Its name on the source.</param>
/// <param name="Family">What it is to the ear.</param>
/// <param name="Kind">Where its sound comes from.</param>
/// <param name="Width">Mono or stereo.</param>
public sealed record ChartElement(ElementId Id, string Name, Family Family, ElementKind Kind, Width Width)
{
    /// <summary>
    /// Group it is gathered under; null for none. If the chart lists the group among its own, the element follows it.
    /// </summary>
    public string? Group { get; init; }

    /// <summary>
    /// The part of the source it shares with the other elements that say the same: only one of them sounds at a time.
    /// Null if it has its own.
    /// </summary>
    public string? SharedVoice { get; init; }

    /// <summary>The voices it hears; empty for a return.</summary>
    public ImmutableArray<Hearing> Hears { get; init; } = [];

    /// <summary>The ports it can be given; empty for any.</summary>
    public ImmutableArray<int> Ports { get; init; } = [];

    /// <summary>The port it has when the source is new; null if it is only in the main mix.</summary>
    public int? Port { get; init; }

    /// <summary>True if it is in the main mix when the source is new.</summary>
    public bool InMain { get; init; } = true;

    /// <summary>Fader of a new source, in dB.</summary>
    public Decibels FaderDb { get; init; }

    /// <summary>Pan or balance of a new source, -1 left to 1 right.</summary>
    public Pan Pan { get; init; }

    /// <summary>What it sends to the shared effect after its fader, in dB; null for nothing.</summary>
    public Decibels? SendDb { get; init; }

    /// <summary>Where it is fed to beside its usual way when the source is new; null for nowhere.</summary>
    public StraightSend? Straight { get; init; }

    /// <summary>Seconds a return rings after what it is fed has ended.</summary>
    public double ReturnSeconds { get; init; }

    /// <summary>For a return that repeats what it is sent: seconds from one echo to the next. Null for a reverb.</summary>
    public double? EchoSeconds { get; init; }

    /// <summary>An effect of its own before its fader; null for none.</summary>
    public InsertPatch? Insert { get; init; }

    /// <summary>Where its microphone stands; null for one without a tone of its own, and for what is no microphone.</summary>
    public MicPlace? Mic { get; init; }

    /// <summary>How long a return may ring, in seconds.</summary>
    public static Limits<double> Returns => new(0, 60);

    /// <summary>How far apart echoes may be, in seconds.</summary>
    public static Limits<double> Echoes => new(0.03, 5);

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(Chart chart, string place)
    {
        if (!Names.Fit(Id.Value) || !Names.Fit(Name) || !Enum.IsDefined(Width) || !Enum.IsDefined(Family) || !Enum.IsDefined(Kind)
            || Ports.IsDefault || Ports.Length > ChartRules.MostChannels)
        {
            return [new Misfit(place, "an id, a name, a family, a kind and a width are needed.")];
        }

        return Core.Misfits.OfList(Hears, $"{place}.hears", ChartRules.MostParts) is var gaps && gaps.Any()
            ? gaps
            :
            [
                .. Core.Misfits.Unless(Group is null || Names.Fit(Group), $"{place}.group", "a group has a name of 1 to 80 letters."),
                .. Core.Misfits.Unless(SharedVoice is null || Names.Fit(SharedVoice), $"{place}.sharedVoice", "what is shared has a name of 1 to 80 letters."),
                .. Lost(chart, place),
                .. Amounts(place),
                .. Insert?.Misfits($"{place}.insert") ?? [],
                .. Mic?.Misfits($"{place}.mic") ?? [],
                .. Straight?.Misfits(chart, $"{place}.straight") ?? [],
            ];
    }

    private IEnumerable<Misfit> Lost(Chart chart, string place)
    {
        if (Hears.FirstOrDefault(h => chart.Voices.All(v => v.Id != h.VoiceId)) is { } deaf)
        {
            yield return new Misfit($"{place}.hears", $"there is no voice {deaf.VoiceId}.");
        }

        if (Ports.Append(Port ?? chart.Ports[0].Number).FirstOrDefault(p => chart.Port(p) is null, -1) is not -1 and var lost)
        {
            yield return new Misfit($"{place}.ports", $"there is no port {lost}.");
        }
    }

    private IEnumerable<Misfit> Amounts(string place) =>
    [
        .. Core.Misfits.Unless(Echoes.Hold(EchoSeconds), $"{place}.echoSeconds", "echoes follow each other after 0.03 to 5 seconds."),
        .. Core.Misfits.Unless(
            ChartRules.Levels.Hold(FaderDb) && ChartRules.Levels.Hold(SendDb) && Pan.Limits.Hold(Pan) && Returns.Hold(ReturnSeconds) && Hears.All(h => h.IsSound),
            place,
            "levels go from -120 to 12 dB, pans from -1 to 1, distances from 0 to 50 m, returns to 60 seconds."),
    ];
}
