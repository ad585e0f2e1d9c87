using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Charts;

/// <summary>The description of a kind of source.</summary>
/// <param name="Id">Short id, unique on the shelf.</param>
/// <param name="Name">Its name.</param>
/// <param name="Kind">Plug-in or hardware.</param>
/// <param name="Gist">What it is, in one sentence.</param>
public sealed record Chart(ChartId Id, string Name, SourceKind Kind, string Gist)
{
    /// <summary>What notes play.</summary>
    public required ImmutableArray<ChartVoice> Voices { get; init; }

    /// <summary>What is worth a track of its own.</summary>
    public required ImmutableArray<ChartElement> Elements { get; init; }

    /// <summary>The gate, in order of number.</summary>
    public required ImmutableArray<ChartPort> Ports { get; init; }

    /// <summary>The modes; the first is that of a new source.</summary>
    public required ImmutableArray<ChartMode> Modes { get; init; }

    /// <summary>What to set on the real source, in order.</summary>
    public ImmutableArray<ChartSetting> Settings { get; init; } = [];

    /// <summary>Groups that carry sound of their own accord; empty if elements go straight to their ports.</summary>
    public ImmutableArray<ChartGroup> Groups { get; init; } = [];

    /// <summary>How it can run in time with a recorder.</summary>
    public ChartClock Clock { get; init; } = ChartClock.None;

    /// <summary>Usual milliseconds from a note to the gate.</summary>
    public double LatencyMs { get; init; }

    /// <summary>True if the user declares its ports; declared ones exist only after the source was loaded again.</summary>
    public bool DeclaresPorts { get; init; }

    /// <summary>True if an element that is given a port leaves the main mix by itself.</summary>
    public bool AssignedLeavesMain { get; init; }

    /// <summary>The effects on the main mix; null for none.</summary>
    public MasterPatch? Master { get; init; }

    /// <summary>The port of the main mix.</summary>
    public ChartPort MainPort => Ports.First(p => p.IsMain);

    /// <summary>Channels at the gate.</summary>
    public int Channels => Ports.Max(p => p.LastChannel);

    /// <summary>Finds an element; null if there is none.</summary>
    public ChartElement? Element(ElementId id) => Elements.FirstOrDefault(e => e.Id == id);

    /// <summary>Finds a group that carries sound; null if there is none.</summary>
    public ChartGroup? Group(string? name) => Groups.FirstOrDefault(g => g.Name == name);

    /// <summary>Finds a port; null if there is none.</summary>
    public ChartPort? Port(int number) => Ports.FirstOrDefault(p => p.Number == number);

    /// <summary>Usual milliseconds from a note to the gate.</summary>
    public static Limits<double> Latencies => new(0, 500);
}
