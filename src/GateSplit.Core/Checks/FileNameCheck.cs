using GateSplit.Core.Edits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>Two names that differ only in signs a file name cannot have become one file.</summary>
public sealed class FileNameCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var track in view.Split.Tracks.Where(t => !string.IsNullOrWhiteSpace(t.Name)))
        {
            var signs = track.Name.Where(FileName.IsUnusable).Distinct().ToArray();
            if (signs.Length > 0)
            {
                var name = string.Join(' ', new string([.. track.Name.Select(c => FileName.IsUnusable(c) ? ' ' : c)]).Split(' ', StringSplitOptions.RemoveEmptyEntries));
                var finding = Finding.Note(
                    Place.Of(track),
                    $"{track.Name} has signs that a file name cannot have on every system ({string.Join(' ', signs)}): its file will be named without them.");
                yield return name.Length > 0 && view.Whole.Tracks.All(t => !string.Equals(t.Name, name, StringComparison.OrdinalIgnoreCase))
                    ? finding.WithFix($"Call it {name}", new RenameTrack(track.Id, name))
                    : finding;
            }
        }
    }
}
