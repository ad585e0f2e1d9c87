using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>What leaves by one side of a pair is lost if only the other has a track, however well that is heard.</summary>
public sealed class LostSideCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var unit in view.Split.Units)
        {
            foreach (var port in unit.Chart.Ports.Where(p => p is { Width: Width.Stereo, IsMain: false }))
            {
                var untaken = PortSides.Both & ~view.SidesTaken(unit.Id, port.Number);
                var lost = view.SoundingAt(unit.Id, port.Number).Where(f => SplitView.SidesOf(f) == untaken && !view.RecordedElsewhere.Contains(f.Element)).ToList();
                if (untaken is PortSides.Left or PortSides.Right && lost.Count > 0)
                {
                    yield return Tell(view, unit, port, untaken, lost);
                }
            }
        }
    }

    private static Finding Tell(SplitView view, Unit unit, ChartPort port, PortSides side, List<PortFeed> lost)
    {
        var channel = port.FirstChannel + (side == PortSides.Left ? 0 : 1);
        var one = lost.Count == 1;
        var names = Words.List([.. lost.Select(f => view.Split.NameOf(f.Element))]);
        var word = side == PortSides.Left ? "left" : "right";
        var finding = Finding.Warning(
            Place.OfPort(unit.Id, port.Number),
            $"{names} {(one ? "leaves" : "leave")} {unit.Name} by the {word} side of port {port.Number}, and no track takes that side: {(one ? "it" : "they")} will not be recorded.")
            .Naming(lost.Select(f => view.Split.NameOf(f.Element)));
        return view.Split.InputOf(unit, channel) is { } input && view.Split.Bank(input.BankId)!.Trouble(input.Channel, Width.Mono) is null
            ? finding.WithFix($"Add a track for {(one ? names : "them")} on {view.Split.Bank(input.BankId)!.InputName(input.Channel, Width.Mono)}", new AddTrack(
                view.NewTrack(one ? names : $"{unit.Name} {port.Name} {word}", Width.Mono) with
                {
                    Input = input,
                    MeantFor = [.. lost.Select(f => Meant.For(f.Element))],
                },
                view.PlaceFor(input)))
            : finding;
    }
}
