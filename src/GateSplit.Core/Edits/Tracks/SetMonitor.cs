using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Says when a track's input is heard.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="Monitor">When.</param>
public sealed record SetMonitor(TrackId TrackId, MonitorMode Monitor) : TrackEdit(TrackId)
{
    /// <inheritdoc/>
    protected override string Name(Split split, Track track) => Monitor switch
    {
        MonitorMode.Never => $"Monitor {track.Title} never",
        MonitorMode.Always => $"Monitor {track.Title} always",
        _ => $"Monitor {track.Title} while armed",
    };

    /// <inheritdoc/>
    protected override Result<Track> Change(Split split, Track track) => track with { Monitor = Monitor };
}
