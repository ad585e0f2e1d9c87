using GateSplit.Core.Edits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>An input that is switched off in the recorder takes nothing, whatever arrives.</summary>
public sealed class InputOffCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view) =>
        from track in view.Split.Tracks
        where (track.Armed || track.Live) && view.Split.IsOff(track)
        let first = track.Input!
        let last = first.Channel + (int)track.Width - 1
        let input = view.Split.InputName(track)
        select Finding.Warning(
                Place.Of(track),
                $"{track.Title} listens to {input}, which is switched off in the recorder: nothing arrives there.")
            .WithFix($"Switch {input} on", new SwitchInputs(first.BankId, first.Channel, last, true));
}
