using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>An input that is switched off in the recorder takes nothing, whatever arrives.</summary>
public sealed class InputOffCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view) =>
        from row in view.Split.Tracks.Where(t => (t.Armed || t.Live || view.IsMissed(t)) && view.Split.IsOff(t)).GroupBy(t => t.Input!.BankId)
        let waiting = row.ToList()
        select waiting is [var only] ? One(view, only) : Many(view, view.Split.Bank(row.Key)!, waiting);

    private static Finding One(SplitView view, Track track)
    {
        var input = view.Split.InputName(track);
        return Finding.Warning(Place.Of(track), $"{track.Title} listens to {input}, which is switched off in the recorder: nothing arrives there.")
            .WithFix($"Switch {input} on", SwitchOn(track));
    }

    private static Finding Many(SplitView view, Bank bank, List<Track> waiting)
    {
        var off = waiting.SelectMany(t => Enumerable.Range(t.Input!.Channel, (int)t.Width)).Where(bank.Off.Contains).Distinct().Order().ToList();
        return Finding.Warning(
                Place.Of(new InputRef(bank.Id, off[0])),
                $"{bank.Label} {Words.Runs(off)} {(off.Count == 1 ? "is" : "are")} switched off in the recorder, and {Words.List([.. waiting.Select(t => t.Title)])} listen there: nothing arrives.")
            .Naming(waiting.Select(t => t.Title))
            .AndAbout(waiting.Select(Place.Of))
            .WithFix($"Switch {bank.Label} {Words.Runs(off)} on", new Several($"Switch {bank.Label} {Words.Runs(off)} on", [.. waiting.Select(SwitchOn)]));
    }

    private static SwitchInputs SwitchOn(Track track) => new(track.Input!.BankId, track.Input.Channel, track.Input.Channel + (int)track.Width - 1, true);
}
