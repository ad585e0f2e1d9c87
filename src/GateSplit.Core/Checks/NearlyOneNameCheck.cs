using GateSplit.Core.Edits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>Two tracks of one family whose names differ only in spaces, marks or the case of their letters are easily taken for each other.</summary>
public sealed class NearlyOneNameCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view) =>
        from alike in view.Split.Tracks.GroupBy(t => (Family: view.FamilyOf(t), Name: Bare(t.Name)))
        where alike.Key.Family is not null && alike.Key.Name.Length > 0
        let first = alike.First()
        from other in alike.Skip(1)
        where !string.Equals(first.Name.Trim(), other.Name.Trim(), StringComparison.OrdinalIgnoreCase)
        select Finding.Note(Place.Of(other), $"{first.Name} and {other.Name} are nearly one name: a hasty hand takes the wrong file.")
            .WithFix($"Call it {Plain(view, other)}", new RenameTrack(other.Id, Plain(view, other)));

    private static string Plain(SplitView view, Splits.Track track) =>
        view.SoundingIn(track) is [var only] ? view.Split.NameOf(only) : $"Track {view.Split.Tracks.IndexOf(track) + 1}";

    private static string Bare(string name) => string.Concat(name.Where(char.IsLetterOrDigit)).ToUpperInvariant();
}
