using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Adds a group of tracks.</summary>
/// <param name="Title">Its name.</param>
/// <param name="Sums">True if its tracks are summed in it; false if it only sets levels.</param>
public sealed record AddTrackGroup(string Title, bool Sums) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => $"Add the group {Title}";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split)
    {
        if (split.TrackGroups.Length >= SplitRules.MostTrackGroups || split.TrackGroups.Any(g => string.Equals(g.Name, Title.Trim(), StringComparison.OrdinalIgnoreCase)))
        {
            return new Refusal($"There is a group called {Title.Trim()} already, or there are {SplitRules.MostTrackGroups} of them.");
        }

        var id = Enumerable.Range(1, SplitRules.MostTrackGroups + 1).Select(n => $"g{n}").First(n => split.TrackGroup(new TrackGroupId(n)) is null);
        return split with { TrackGroups = split.TrackGroups.Add(new TrackGroup(new TrackGroupId(id), Title.Trim(), Sums)) };
    }
}
