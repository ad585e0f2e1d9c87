using System.Collections.Immutable;

namespace GateSplit.Core.Charts;

/// <summary>One thing of a source worth a track of its own.</summary>
/// <param name="Id">Short id, unique in the chart.</param>
/// <param name="Name">Its name on the source.</param>
/// <param name="Family">What it is to the ear.</param>
/// <param name="Kind">Where its sound comes from.</param>
/// <param name="Width">Mono or stereo.</param>
public sealed record ChartElement(string Id, string Name, Family Family, ElementKind Kind, Width Width)
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
    public double FaderDb { get; init; }

    /// <summary>Pan or balance of a new source, -1 left to 1 right.</summary>
    public double Pan { get; init; }

    /// <summary>What it sends to the shared effect after its fader, in dB; null for nothing.</summary>
    public double? SendDb { get; init; }

    /// <summary>Seconds a return rings after what it is fed has ended.</summary>
    public double ReturnSeconds { get; init; }

    /// <summary>For a return that repeats what it is sent: seconds from one echo to the next. Null for a reverb.</summary>
    public double? EchoSeconds { get; init; }

    /// <summary>An effect of its own before its fader; null for none.</summary>
    public InsertPatch? Insert { get; init; }
}
