using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>A track that is not armed gives a perfect performance and no file.</summary>
public sealed class NotArmedCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        var armed = view.ArmedTracks.SelectMany(t => view.SoundingIn(t)).ToHashSet();
        foreach (var track in view.Split.Tracks.Where(t => !t.Armed && !t.Live))
        {
            var lost = view.SoundingIn(track).Where(e => !armed.Contains(e) && !IsOfTheMixOnly(view, track, e)).Select(view.Split.NameOf).ToList();
            if (lost.Count > 0)
            {
                yield return Finding.Warning(
                        Place.Of(track),
                        $"{track.Title} is not armed, and {Words.List(lost)} {(lost.Count == 1 ? "is" : "are")} recorded nowhere else: there will be no file.")
                    .Naming(lost)
                    .WithFix($"Arm {track.Title}", new SetArmed(track.Id, true));
            }
        }
    }

    /// <summary>
    /// Effects that exist only in a mix are left out with the mix, and that is mostly meant; an element that leaves by a
    /// port of its own besides is missed there, and another check tells of it.
    /// </summary>
    private static bool IsOfTheMixOnly(SplitView view, Track track, ElementRef element)
    {
        var chart = view.Split.Unit(element.UnitId)!.Chart;
        return view.SoundingIn(track).Length > 1
            && view.Signal.Into(track.Id).Any(f => f.UnitId == element.UnitId && f.Port == chart.MainPort.Number)
            && (chart.Element(element.ElementId)!.Kind == ElementKind.Return || view.Signal.PortsOf(element).Any(f => f.Port != chart.MainPort.Number));
    }
}
