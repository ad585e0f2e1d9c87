using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>What the interface lets through by itself and a monitored track plays as well is heard twice, a little apart.</summary>
public sealed class HeardDirectlyCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view) =>
        from bank in view.Split.Banks
        where bank.HeardDirectly
        let heard = view.Split.Tracks.Where(t => t.Input?.BankId == bank.Id && t.Heard && !view.SoundingIn(t).IsEmpty).Select(t => t.Title).ToList()
        where heard.Count > 0
        select Finding.Warning(
                Place.Of(new InputRef(bank.Id, 1)),
                $"{Words.List(heard, most: 3)} {(heard.Count == 1 ? "is" : "are")} heard twice: {bank.Label} is heard directly at the interface, and the {(heard.Count == 1 ? "track is" : "tracks are")} monitored besides. It sounds hollow, though the files are right.")
            .Naming(heard)
            .WithFix($"Stop hearing {bank.Label} directly", new SetBank(bank with { HeardDirectly = false }));
}
