using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>Elements that share a voice cut each other off where both play, and leave by one port.</summary>
public sealed class SharedVoiceCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view) =>
        from e in view.SoundingElements
        where e.Chart.SharedVoice is not null
        group e by (e.Unit, Voice: e.Chart.SharedVoice) into sharers
        where sharers.Count() > 1
        let names = Words.List([.. sharers.Select(s => s.Chart.Name)])
        select Finding.Note(
            Place.Of(sharers.First().Ref),
            $"{names} share voice {sharers.Key.Voice} of {sharers.Key.Unit.Name}: they come out of one port, and where both play the later one cuts the other off. Print them in separate passes if they are to be mixed apart.");
}
