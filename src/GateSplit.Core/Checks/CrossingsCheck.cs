using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>Where recorded tracks run in another order than their inputs, numbers on the two sides disagree.</summary>
public sealed class CrossingsCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var bank in view.Split.Banks.Where(b => b.UnitId is not null && b.Connected))
        {
            var tracks = view.ArmedTracks.Where(t => t.Input?.BankId == bank.Id).ToList();
            var inOrder = tracks.OrderBy(t => t.Input!.Channel).ThenBy(t => view.Split.Tracks.IndexOf(t)).ToList();
            var wrong = tracks.Zip(inOrder).Count(p => p.First.Id != p.Second.Id);
            if (wrong > 0)
            {
                yield return Finding.Note(
                        Place.Of(view.Split.Unit(bank.UnitId!.Value)!),
                        $"{Words.Count(wrong, "track")} on {bank.Label} stand in another order than their inputs, so the numbers on the two sides disagree.")
                    .WithFix("Put the tracks into the order of their inputs", new OrderTracks([.. Merge(view, bank, inOrder)]));
            }
        }
    }

    /// <summary>The tracks of the bank in their new order, all others where they are, those of other passes too.</summary>
    private static IEnumerable<TrackId> Merge(SplitView view, Bank bank, List<Track> inOrder)
    {
        var next = 0;
        var moved = inOrder.Select(t => t.Id).ToHashSet();
        return [.. view.Whole.Tracks.Select(t => moved.Contains(t.Id) ? inOrder[next++].Id : t.Id)];
    }
}
