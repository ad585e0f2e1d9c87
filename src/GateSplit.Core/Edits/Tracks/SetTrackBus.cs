using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Sends a track to a bus, or with null to the recorder's main output.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="Bus">The bus, or the first of a pair; null for the main output.</param>
public sealed record SetTrackBus(TrackId TrackId, InputRef? Bus) : TrackEdit(TrackId)
{
    /// <inheritdoc/>
    protected override string Name(Split split, Track track) => Bus is { } bus && split.Bank(bus.BankId) is { } bank
        ? $"Send {track.Title} to {bank.InputName(bus.Channel, track.Width)}"
        : $"Send {track.Title} to the main output";

    /// <inheritdoc/>
    protected override Result<Track> Change(Split split, Track track)
    {
        if (Bus is not { } bus)
        {
            return track with { Bus = null };
        }

        if (MissingInput(split, bus, track.Width) is { } refusal)
        {
            return refusal;
        }

        return split.Bank(bus.BankId)!.Kind is BankKind.Buses or BankKind.Loopback
            ? track with { Bus = bus }
            : new Refusal("A track can only be sent to a bus or a looped-back pair.");
    }
}
