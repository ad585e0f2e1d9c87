using System.Collections.Concurrent;
using GateSplit.Core;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Core.Views;
using GateSplit.Data;

namespace GateSplit.Jobs;

/// <summary>From finished files to the tracks of a take.</summary>
/// <param name="store">The audio store.</param>
/// <param name="takes">What is kept already.</param>
public sealed class TakeParts(IAudioStore store, TakeStore takes)
{
    /// <summary>Takes files into the store and describes them: all of them, or none.</summary>
    /// <param name="view">The split they were made by.</param>
    /// <param name="files">The files, in a staging folder.</param>
    /// <param name="progress">Told the share done.</param>
    /// <param name="cancel">Stops it.</param>
    internal async Task<NewTake.Track[]> Adopt(
        SplitView view, IReadOnlyList<PrintedTrack> files, IProgress<double> progress, CancellationToken cancel)
    {
        // Whatever needs room on the disk comes before the first file is taken in.
        foreach (var file in files)
        {
            await File.WriteAllBytesAsync(OverviewPath(file), file.Measure.Overview.ToBytes(), cancel);
        }

        var adopted = new NewTake.Track[files.Count];
        var taken = new ConcurrentBag<string>();
        var done = 0;
        try
        {
            await Parallel.ForAsync(0, files.Count, cancel, async (i, stop) =>
            {
                var bytes = new Bytes(new FileInfo(files[i].Path).Length);
                var overview = await store.Adopt(OverviewPath(files[i]), stop);
                taken.Add(overview);
                var hash = await store.Adopt(files[i].Path, stop);
                taken.Add(hash);
                adopted[i] = Describe(view, files[i], hash, bytes, overview);
                progress.Report((double)Interlocked.Increment(ref done) / files.Count);
            });
        }
        catch
        {
            foreach (var hash in await takes.Unknown([.. taken]))
            {
                store.Remove(hash);
            }

            throw;
        }

        return adopted;
    }

    private static string OverviewPath(PrintedTrack file) => file.Path + ".overview";

    private static NewTake.Track Describe(SplitView view, PrintedTrack file, string hash, Bytes bytes, string overview)
    {
        var track = file.Track;
        var carried = view.SoundingIn(track);
        return new NewTake.Track(
            track.Id,
            track.Name,
            view.FamilyOf(track)?.ToString(),
            Words.List([.. carried.Select(view.Split.NameOf)]),
            Source(view, track),
            hash,
            bytes,
            overview,
            file.Measure);
    }

    private static string Source(SplitView view, Track track)
    {
        var ports = view.Signal.Into(track.Id)
            .Where(f => !view.SoundingAt(f.UnitId, f.Port).IsEmpty)
            .Select(f => $"{view.Split.Unit(f.UnitId)!.Name} port {f.Port}");
        return string.Join(", ", ports.Append(view.Split.InputName(track)));
    }
}
