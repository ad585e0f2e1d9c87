using GateSplit.Core;
using GateSplit.Core.Checks;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Data;

namespace GateSplit.Jobs;

/// <summary>From a finished file to a track of a take.</summary>
/// <param name="store">The audio store.</param>
public sealed class TakeParts(IAudioStore store)
{
    /// <summary>Takes the file into the store and describes it.</summary>
    internal async Task<NewTake.Track> Adopt(SplitView view, Track track, string path, FileMeasure measure, CancellationToken cancel)
    {
        var bytes = new FileInfo(path).Length;
        var overview = await store.Put(measure.Overview.ToBytes());
        var hash = await store.Adopt(path, cancel);
        var carried = view.SoundingIn(track);
        var families = carried.Select(e => view.Split.Unit(e.UnitId)!.Chart.Element(e.ElementId)!.Family).Distinct().ToList();
        return new NewTake.Track(
            track.Id,
            track.Name,
            families.Count == 1 ? families[0].ToString() : null,
            Words.List([.. carried.Select(view.Split.NameOf)]),
            Source(view, track),
            hash,
            bytes,
            overview,
            measure);
    }

    private static string Source(SplitView view, Track track)
    {
        var ports = view.Signal.Into(track.Id)
            .Where(f => !view.SoundingAt(f.UnitId, f.Port).IsEmpty)
            .Select(f => $"{view.Split.Unit(f.UnitId)!.Name} port {f.Port}");
        return string.Join(", ", ports.Append(view.Split.InputName(track)));
    }
}
