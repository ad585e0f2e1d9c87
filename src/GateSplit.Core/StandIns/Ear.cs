using System.Collections.Immutable;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>What is listened to live.</summary>
/// <param name="UnitId">The source whose main mix is heard; null for tracks.</param>
/// <param name="TrackIds">The tracks that are heard, at their levels and pans; none for all that are heard in the recorder's mix.</param>
public sealed record Ear(UnitId? UnitId, ImmutableArray<TrackId> TrackIds)
{
    /// <summary>The recorder's mix.</summary>
    public static Ear Mix { get; } = new(null, []);

    /// <summary>Reads "mix", "main u1" or "lines t1 t3"; anything else is the mix.</summary>
    public static Ear Parse(string? text) => text?.Split(' ', StringSplitOptions.RemoveEmptyEntries) switch
    {
        ["main", var unit] => new Ear(new UnitId(unit), []),
        ["lines", .. var tracks] when tracks.Length > 0 => new Ear(null, [.. tracks.Select(TrackId.Of)]),
        _ => Mix,
    };
}
