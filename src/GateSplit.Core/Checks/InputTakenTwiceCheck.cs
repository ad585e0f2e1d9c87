using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>One input recorded by two tracks gives the same file twice.</summary>
public sealed class InputTakenTwiceCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        var taken = new Dictionary<(BankId, int), Track>();
        foreach (var track in view.ArmedTracks.Where(t => t.Input is not null))
        {
            for (var side = 0; side < (int)track.Width; side++)
            {
                var place = (track.Input!.BankId, track.Input.Channel + side);
                if (!taken.TryAdd(place, track) && taken[place] is var first && first.Input == track.Input && first.Width == track.Width)
                {
                    yield return Finding.Note(
                            Place.Of(track),
                            $"{first.Title} and {track.Title} both record {view.Split.InputName(track)}: two files with the same in them.")
                        .WithFix($"Disarm {track.Title}", new Several($"Disarm {track.Title}", [new SetArmed(track.Id, false), new SetMonitor(track.Id, MonitorMode.Never)]));
                    break;
                }
            }
        }
    }
}
