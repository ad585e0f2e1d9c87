using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>Files are named after tracks, so every armed track needs a name of its own.</summary>
public sealed class TrackNameCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        var taken = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        foreach (var track in view.Split.Tracks)
        {
            if (string.IsNullOrWhiteSpace(track.Name))
            {
                var place = view.Whole.Tracks.IndexOf(track) + 1;
                yield return WithNewName(view, track, Finding.Warning(
                    Place.Of(track), $"Track {place} has no name, so nobody can tell its file from the others."));
            }
            else if (!taken.Add(track.Name.Trim()))
            {
                yield return WithNewName(view, track, Finding.Warning(
                    Place.Of(track), $"Two tracks are called {track.Name}: their files cannot be told apart."));
            }
        }
    }

    private static Finding WithNewName(SplitView view, Track track, Finding finding)
    {
        var carried = view.SoundingIn(track);
        var wish = carried.Length == 1 ? view.Split.NameOf(carried[0]) : $"Track {view.Whole.Tracks.IndexOf(track) + 1}";
        var name = wish;
        for (var n = 2; view.Whole.Tracks.Any(t => t.Id != track.Id && string.Equals(t.Name, name, StringComparison.OrdinalIgnoreCase)); n++)
        {
            name = $"{wish} {n}";
        }

        return finding.WithFix($"Call it {name}", new RenameTrack(track.Id, name));
    }
}
