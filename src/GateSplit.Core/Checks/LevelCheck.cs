using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>
/// What a line is expected to peak at, played as hard as can be: over full scale it clips where samples are whole
/// numbers, and far below it the noise of the gear comes up with it later.
/// </summary>
public sealed class LevelCheck : ICheck
{
    private static readonly Decibels Hot = new(1);
    private static readonly Decibels Low = new(-48);

    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var track in view.ArmedTracks)
        {
            var alone = view.SoundingIn(track);
            if (alone.Length != 1 || view.ElementOf(alone[0]) is not { Chart.Hears.IsEmpty: false } element)
            {
                continue;
            }

            var peak = ExpectedPeak.On(view, alone[0], track.Id) ?? Decibels.Silence;

            // A fader above unity is told of by a check of its own.
            if (peak > Hot && element.Set.FaderDb <= Decibels.Unity && view.Split.Pass.Format != SampleFormat.Float32)
            {
                var down = new Decibels(Math.Round((element.Set.FaderDb - peak).Value - 1));
                var port = view.FeedOf(alone[0], track) is { } feed ? element.Unit.Chart.Port(feed.Port) : null;
                var finding = Finding.Warning(Place.Of(track), $"{element.Chart.Name} is expected to reach {peak} on {track.Title}: its loudest notes will clip.");
                yield return port is null or { Tap: Tap.BeforeFader }
                    ? finding
                    : finding.WithFix($"Turn {element.Chart.Name} down to {down}", new SetFader(alone[0], down));
            }
            else if (peak < Low)
            {
                yield return Finding.Note(Place.Of(track), $"{element.Chart.Name} is expected to reach no more than {peak} on {track.Title}: turned up later, the noise of the gear comes up with it.");
            }
        }
    }
}
