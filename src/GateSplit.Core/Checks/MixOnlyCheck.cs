using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>Master effects, and returns that come out with the mix, are in no file while no track takes the main mix.</summary>
public sealed class MixOnlyCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var unit in view.Split.Units)
        {
            var main = unit.Chart.MainPort.Number;
            var single = view.ArmedTracks.Any(t => view.Signal.Into(t.Id).Any(f => f.UnitId == unit.Id) && !view.SoundingIn(t).IsEmpty);
            var only = view.SoundingElements
                .Where(e => e.Unit == unit && e.Chart.Kind == ElementKind.Return && view.Signal.PortsOf(e.Ref).Any() && view.Signal.PortsOf(e.Ref).All(f => f.Port == main))
                .Select(e => e.Chart.Name)
                .Concat(unit.Chart.Master is null ? [] : [$"{unit.Name}'s master effect"])
                .ToList();
            if (single && only.Count > 0 && !view.AnyTrackHears(unit.Id, main))
            {
                yield return Tell(view, unit, only);
            }
        }
    }

    private static Finding Tell(SplitView view, Unit unit, List<string> only)
    {
        var (verb, them) = only.Count == 1 ? ("is", "it") : ("are", "they");
        var finding = Finding.Note(
            Place.OfPort(unit.Id, unit.Chart.MainPort.Number),
            $"{Words.List(only)} {verb} only in the main mix of {unit.Name}, which no track takes: the single lines print without {(only.Count == 1 ? "it" : "them")}. Record the mix beside them if you want to hear what {them} did.");
        return view.Split.InputOf(unit, unit.Chart.MainPort.FirstChannel) is { } input
            ? finding.WithFix($"Record {unit.Name}'s mix beside them", new AddTrack(view.NewTrack($"{unit.Name} mix", unit.Chart.MainPort.Width) with
            {
                Input = input,
                MeantFor = [Meant.ForMix(unit.Id)],
                Monitor = MonitorMode.Never,
            }, view.PlaceFor(input)))
            : finding;
    }
}
