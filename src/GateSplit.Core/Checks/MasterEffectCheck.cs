using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>Master effects exist only in the main mix: single lines are printed without them.</summary>
public sealed class MasterEffectCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var unit in view.Split.Units.Where(u => u.Chart.Master is not null))
        {
            var main = unit.Chart.MainPort.Number;
            var single = view.ArmedTracks.Any(t => view.Signal.Into(t.Id).Any(f => f.UnitId == unit.Id) && !view.SoundingIn(t).IsEmpty);
            if (single && !view.AnyTrackHears(unit.Id, main))
            {
                yield return Finding.Note(
                        Place.OfPort(unit.Id, main),
                        $"{unit.Name}'s master effect is only in its main mix, which no track takes: the single lines print without it. Add the mix as a reference if you want to hear what it did.")
                    .WithFix($"Add {unit.Name}'s mix as a reference", new AddTrack(new Track(view.Split.NewTrackId(), Free(view, $"{unit.Name} mix"), Width.Stereo)
                    {
                        Input = view.Split.InputOf(unit, unit.Chart.MainPort.FirstChannel),
                        MeantFor = [Meant.ForMix(unit.Id)],
                        Armed = false,
                        Monitor = MonitorMode.Never,
                    }));
            }
        }
    }

    private static string Free(SplitView view, string wish) =>
        view.Split.Tracks.Any(t => string.Equals(t.Name, wish, StringComparison.OrdinalIgnoreCase)) ? wish + " reference" : wish;
}
