using GateSplit.Core;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.StandIns;
using GateSplit.Core.Views;
using GateSplit.Data;
using Microsoft.Extensions.Logging;

namespace GateSplit.Jobs;

/// <summary>From finished files to the tracks of a take.</summary>
/// <param name="store">The audio store.</param>
/// <param name="keeper">Who removes files from it.</param>
/// <param name="log">For the operator.</param>
public sealed class TakeParts(IAudioStore store, AudioKeeper keeper, ILogger<TakeParts> log)
{
    /// <summary>Takes the files of tracks into the store and describes them. What it took in is let go by the end of the job, if it is not kept.</summary>
    /// <param name="job">The job that keeps them.</param>
    /// <param name="view">The split they were made by.</param>
    /// <param name="files">The files, in a staging folder.</param>
    /// <param name="progress">Told the share done.</param>
    /// <param name="cancel">Stops it.</param>
    internal async Task<NewTake.Track[]> Adopt(
        Job job, SplitView view, IReadOnlyList<PrintedTrack> files, IProgress<double> progress, CancellationToken cancel)
    {
        var adopted = await Adopt(job, [.. files.Select(f => (f.Path, f.Measure))], progress, cancel);
        return [.. files.Zip(adopted, (file, kept) => Describe(view, file, kept))];
    }

    /// <summary>Takes files into the store.</summary>
    /// <param name="job">The job that keeps them.</param>
    /// <param name="files">The files, in a staging folder, with what they hold.</param>
    /// <param name="progress">Told the share done.</param>
    /// <param name="cancel">Stops it.</param>
    internal async Task<IReadOnlyList<Adopted>> Adopt(Job job, IReadOnlyList<(string Path, FileMeasure Measure)> files, IProgress<double> progress, CancellationToken cancel)
    {
        // Whatever needs room on the disk comes before the first file is taken in.
        foreach (var (path, measure) in files)
        {
            await File.WriteAllBytesAsync(OverviewPath(path), measure.Overview.ToBytes(), cancel);
        }

        // What they will be called is held before the first of them is moved: from then on nobody removes one.
        var names = new (string File, string Overview)[files.Count];
        var done = 0;
        await Parallel.ForAsync(0, files.Count, cancel, async (i, stop) =>
        {
            names[i] = (await store.NameOf(files[i].Path, stop), await store.NameOf(OverviewPath(files[i].Path), stop));
            progress.Report((double)Interlocked.Increment(ref done) / files.Count);
        });
        await Resilient.Run(() => keeper.Hold(job, [.. names.SelectMany(n => new[] { n.File, n.Overview })]), log);
        var adopted = new Adopted[files.Count];
        for (var i = 0; i < files.Count; i++)
        {
            cancel.ThrowIfCancellationRequested();
            var bytes = new Bytes(new FileInfo(files[i].Path).Length);
            store.Adopt(OverviewPath(files[i].Path), names[i].Overview);
            store.Adopt(files[i].Path, names[i].File);
            adopted[i] = new Adopted(names[i].File, bytes, names[i].Overview);
        }

        return adopted;
    }

    private static string OverviewPath(string path) => path + ".overview";

    private static NewTake.Track Describe(SplitView view, PrintedTrack file, Adopted kept)
    {
        var track = file.Track;
        var carried = view.SoundingIn(track);
        return new NewTake.Track(
            track.Id,
            track.Name,
            view.FamilyOf(track)?.ToString(),
            Words.List([.. carried.Select(view.Split.NameOf)]),
            view.SourceOf(track),
            kept.Hash,
            kept.Bytes,
            kept.OverviewHash,
            file.Measure);
    }

    /// <summary>A file that was taken in.</summary>
    /// <param name="Hash">Its name in the store.</param>
    /// <param name="Bytes">Its size.</param>
    /// <param name="OverviewHash">The name of its overview there.</param>
    internal sealed record Adopted(string Hash, Bytes Bytes, string OverviewHash);
}
