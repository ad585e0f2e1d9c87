using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>A track on an input that the recorder does not offer at its width cannot be set up on the real one.</summary>
public sealed class InputWidthCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var track in view.Split.Tracks)
        {
            if (track.Input is not { } input || view.Split.Bank(input.BankId) is not { } bank || bank.Trouble(input.Channel, track.Width) is not { } trouble)
            {
                continue;
            }

            var odd = input with { Channel = (input.Channel - 1) / 2 * 2 + 1 };
            var fix = new Several($"Make {track.Title} a pair on {bank.InputName(odd.Channel, Width.Stereo)}",
                [new SetTrackInput(track.Id, null), new SetTrackWidth(track.Id, Width.Stereo), new SetTrackInput(track.Id, odd)]);
            var finding = Finding.Warning(Place.Of(track), $"{track.Title} cannot listen to {view.Split.InputName(track)}. {trouble}");
            yield return fix.Apply(view.Split).Ok ? finding.WithFix(fix.Title, fix) : finding;
        }
    }
}
