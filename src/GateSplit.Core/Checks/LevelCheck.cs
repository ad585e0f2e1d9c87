using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>
/// What a line is expected to peak at, played as hard as can be: from full scale on it clips where samples are whole
/// numbers, and far below it the noise of the gear comes up with it later.
/// </summary>
public sealed class LevelCheck : ICheck
{
    private static readonly Decibels Low = new(-48);

    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var track in view.ArmedTracks)
        {
            if (ExpectedPeak.On(view, track) is not { } expected)
            {
                continue;
            }

            // A fader above unity is told of by a check of its own, where the element has a port of its own.
            if (expected.Peak >= Decibels.Unity && expected.Of.All(e => view.SettingsOf(e) is var set && (set.FaderDb <= Decibels.Unity || set.Port is null)) && view.Split.Pass.Format != SampleFormat.Float32)
            {
                yield return TooHot(view, track, expected);
            }
            else if (expected.Peak < Low && view.SoundingIn(track) is [var alone])
            {
                yield return Finding.Note(
                    Place.Of(track), $"{view.Split.NameOf(alone)} is expected to reach no more than {expected.Peak} on {track.Title}: turned up later, the noise of the gear comes up with it.");
            }
        }
    }

    private static Finding TooHot(SplitView view, Track track, ExpectedPeak expected)
    {
        var names = Words.List([.. expected.Of.Select(view.Split.NameOf)]);
        var together = expected.Of.Length > 1;
        var finding = Finding.Warning(
            Place.Of(track),
            $"{names} {(together ? "together are" : "is")} expected to reach {expected.Peak} on {track.Title}: {(together ? "their" : "its")} loudest notes will clip.")
            .Naming(expected.Of.Select(view.Split.NameOf));
        if (expected.Of.Any(e => view.FeedOf(e, track) is not { } feed || view.Split.Unit(feed.UnitId)!.Chart.Port(feed.Port)!.Tap == Tap.BeforeFader))
        {
            return finding;
        }

        ImmutableArray<SetFader> down = [.. expected.Of.Select(e => new SetFader(e, new Decibels(Math.Round((view.SettingsOf(e).FaderDb - expected.Peak).Value - 1))))];
        return together
            ? finding.WithFix($"Turn {names} down by {Words.Count((long)Math.Round(expected.Peak.Value + 1), "dB", "dB")}", new Several($"Turn {names} down", [.. down]))
            : finding.WithFix($"Turn {names} down to {down[0].FaderDb}", down[0]);
    }
}
