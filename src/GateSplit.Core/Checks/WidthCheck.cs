using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>Mono and stereo that do not fit: a side that is lost, a level that drops, a channel that is wasted.</summary>
public sealed class WidthCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var track in view.ArmedTracks)
        {
            var direct = view.Signal.In(track.Id).Where(c => view.Sounding.Contains(c.Element) && !c.Gain.IsZero).ToList();
            if (direct.Count != 1 || view.FeedOf(direct[0].Element, track) is not { } feed)
            {
                continue;
            }

            var unit = view.Split.Unit(feed.UnitId)!;
            var port = unit.Chart.Port(feed.Port)!;
            var element = unit.Chart.Element(direct[0].Element.ElementId);
            if (element is not null && Look(view, track, unit, port, element, direct[0]) is { } finding)
            {
                yield return finding;
            }
        }
    }

    private static Finding? Look(
        SplitView view, Track track, Unit unit, ChartPort port, ChartElement element, Contribution arrives)
    {
        if (element.Width == Width.Stereo && port.Width == Width.Mono)
        {
            return Finding.Note(
                Place.Of(track), $"{element.Name} is stereo, but port {port.Number} is mono: the file holds the mean of its two sides, and its width is lost.");
        }

        // What this track leaves of a pair, another may take.
        if (port.Width == Width.Stereo && track.Width == Width.Mono && view.SidesTaken(unit.Id, port.Number) == PortSides.Both)
        {
            return null;
        }

        if (element.Width == Width.Stereo && track.Width == Width.Mono)
        {
            var finding = Finding.Warning(
                Place.Of(track),
                $"{element.Name} is stereo, but {track.Title} is mono and takes only one side of it: the other side is lost.");
            var pair = new Several($"Make {track.Title} stereo",
            [
                new SetTrackInput(track.Id, view.Split.InputOf(unit, port.FirstChannel, track.Pass)),
                new SetTrackWidth(track.Id, Width.Stereo),
            ]);
            return pair.Apply(view.Split).Ok ? finding.WithFix(pair.Title, pair) : finding;
        }

        if (element.Width == Width.Stereo)
        {
            return null;
        }

        if (track.Width == Width.Mono)
        {
            var left = view.Signal.Into(track.Id).Any(f => f.Gain.LL != 0);
            var loss = Decibels.FromRatio(arrives.Gain.Largest / FaderRatio(unit, element, port));
            return loss < new Decibels(-0.5)
                ? Finding.Warning(
                        Place.Of(track),
                        $"{element.Name} is panned between the two sides of port {port.Number}, and {track.Title} takes only one of them: it prints {new Decibels(-loss.Value).ToString().TrimStart('+')} too low.")
                    .WithFix(
                        $"Pan {element.Name} hard {(left ? "left" : "right")}",
                        new SetPan(new ElementRef(unit.Id, element.Id), left ? Pan.HardLeft : Pan.HardRight))
                : null;
        }

        return track.Width == Width.Stereo && view.Split.Bank(track.Input!.BankId)?.Widths != InputWidths.PairsOnly
            ? Finding.Note(
                    Place.Of(track),
                    $"{element.Name} is mono, but {track.Title} is stereo: the file is twice as big and holds no more.")
                .WithFix($"Make {track.Title} mono", MakeMono(view.Split, track, unit, port, element))
            : null;
    }

    private static double FaderRatio(Unit unit, ChartElement element, ChartPort port) =>
        port.Tap == Tap.BeforeFader ? 1 : unit.Element(element.Id).FaderDb.Ratio;

    private static Several MakeMono(Split split, Track track, Unit unit, ChartPort port, ChartElement element)
    {
        // What arrived on the second side of the track alone is on the first input that is left to it.
        var edits = new List<Edit> { new SetTrackWidth(track.Id, Width.Mono) };
        if (split.InputOf(unit, port.FirstChannel, track.Pass) is { } input && input != track.Input)
        {
            edits.Add(new SetTrackInput(track.Id, input));
        }

        if (port.Width == Width.Stereo)
        {
            edits.Insert(0, new SetPan(new ElementRef(unit.Id, element.Id), Pan.HardLeft));
        }

        return new Several($"Make {track.Title} mono", [.. edits]);
    }
}
