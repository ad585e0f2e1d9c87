using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>A change of one track.</summary>
/// <param name="TrackId">Which.</param>
public abstract record TrackEdit(TrackId TrackId) : Edit
{
    /// <inheritdoc/>
    public sealed override string Name(Split split) => split.Track(TrackId) is { } track ? Name(split, track) : "Change a track";

    /// <inheritdoc/>
    protected internal sealed override Result<Split> Change(Split split)
    {
        if (split.Track(TrackId) is not { } track)
        {
            return new Refusal("This track is not in the split any more.");
        }

        var changed = Change(split, track);
        return changed.Ok ? split.With(changed.Value) : new Refusal(changed.Trouble);
    }

    /// <summary>What it does to this track.</summary>
    protected abstract string Name(Split split, Track track);

    /// <summary>Makes the change.</summary>
    protected abstract Result<Track> Change(Split split, Track track);

    /// <summary>Refuses a place in a bank that is not there.</summary>
    protected static Refusal? MissingInput(Split split, InputRef input, Width width)
    {
        if (split.Bank(input.BankId) is not { } bank)
        {
            return new Refusal("There is no such row of inputs.");
        }

        return bank.Trouble(input.Channel, width) is { } trouble ? new Refusal(trouble) : null;
    }
}
