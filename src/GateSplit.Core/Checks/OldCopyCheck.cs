using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>
/// Of two copies of a source that play the same notes one is mostly the old one, still loaded. Which, is told by what tracks record of each;
/// where that says nothing, it is asked.
/// </summary>
public sealed class OldCopyCheck : ICheck, IOfTheWholeSplit
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var alike in view.Split.Units.Where(u => view.SoundingElements.Any(e => e.Unit == u)).GroupBy(u => u.Chart.Id).Where(g => g.Count() > 1))
        {
            var copies = alike.Select(u => (Unit: u, Recorded: TracksOf(view, view.ArmedTracks, u), Tracks: TracksOf(view, view.Split.Tracks, u))).ToList();
            var current = copies.MaxBy(c => (c.Recorded, c.Tracks));
            foreach (var (unit, recorded, tracks) in copies.Where(c => c.Unit != current.Unit && PlayTheSame(view, c.Unit, current.Unit)))
            {
                // One track that waits unarmed beside another may be a slip; that several do, or that most lines have none, is not.
                if (recorded == 0 && current.Tracks > 0 && (tracks > 1 || 2 * tracks < current.Tracks))
                {
                    var made = RemoveUnit.Tracks(view.Split, unit.Id);
                    yield return Finding.Warning(
                            Place.Of(unit),
                            $"{unit.Name} plays the same notes as {current.Unit.Name}, and no {(made == 0 ? "track" : "armed track")} takes it: an old copy still sounds along. Remove it.")
                        .WithFix($"Remove {unit.Name}{(made == 0 ? "" : $" and its {Words.Count(made, "track")}")}", new RemoveUnit(unit.Id, WithTracks: made > 0));
                }
                else if (recorded > 0 || view.ArmedTracks.Any())
                {
                    yield return Finding.Note(
                        Place.Of(unit),
                        $"{unit.Name} and {current.Unit.Name} play the same notes{(recorded > 0 ? ", and tracks take both" : "")}. If one of them is an old copy, remove it; if each has notes of its own, give the notes to one of them at Sources.");
                }
            }
        }
    }

    /// <summary>How many of some tracks take something of a source, or are meant to.</summary>
    private static int TracksOf(SplitView view, IEnumerable<Track> tracks, Unit unit) => tracks.Count(t => view.Signal.Into(t.Id).Any(f => f.UnitId == unit.Id) || t.MeantFor.Any(m => m.UnitId == unit.Id));

    private static bool PlayTheSame(SplitView view, Unit one, Unit other) => view.Song is not { } song
        || song.Strokes.Keys.Any(s => one.Chart.Voices.Any(v => one.Plays(v, s.Channel, s.Key)) && other.Chart.Voices.Any(v => other.Plays(v, s.Channel, s.Key)));
}
