using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using System.Security.Cryptography;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Handoff;

/// <summary>Makes the audio files of a handoff from stored files, block by block.</summary>
/// <param name="find">Where a stored file lies, by the hash of its bytes; null if it is there no longer.</param>
/// <param name="folder">Where there is room for what has to be written before it can be read.</param>
public sealed class HandoffMaker(Func<string, string?> find, string folder)
{
    private const int CopyBytes = 1 << 20;

    /// <summary>Measures the files whose levels nobody knows, as they will be but for the width of their samples.</summary>
    /// <param name="files">The files.</param>
    /// <param name="progress">Told the share done, 0 to 1; may be null.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>All of them, with their levels, in their order.</returns>
    public ImmutableArray<HandoffFile> Measured(IReadOnlyList<HandoffFile> files, IProgress<double>? progress, CancellationToken cancel)
    {
        var measured = files.ToArray();
        var done = 0;
        Parallel.For(0, files.Count, new ParallelOptions { CancellationToken = cancel, MaxDegreeOfParallelism = Environment.ProcessorCount }, i =>
        {
            if (files[i].Levels is null)
            {
                using var opened = Open(files[i]);
                measured[i] = files[i] with { Levels = HandoffLevels.Of(FileLevels.Of(opened.Recording, null, cancel)) };
            }

            progress?.Report((double)Interlocked.Increment(ref done) / files.Count);
        });
        return [.. measured.Select(Labelled)];
    }

    /// <summary>Writes files side by side, as many as there are cores: into a folder, or nowhere to know their bytes.</summary>
    /// <param name="files">The files; their levels are known.</param>
    /// <param name="target">Where they go; it takes several at once.</param>
    /// <param name="progress">Told the share done, 0 to 1; may be null.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>What was written, in their order.</returns>
    /// <exception cref="IOException">There is no room.</exception>
    public async Task<ImmutableArray<HandoffWritten>> WriteAll(ImmutableArray<HandoffFile> files, IHandoffTarget target, IProgress<double>? progress, CancellationToken cancel)
    {
        var written = new HandoffWritten[files.Length];
        var done = 0;
        await Parallel.ForAsync(0, files.Length, new ParallelOptions { CancellationToken = cancel, MaxDegreeOfParallelism = Environment.ProcessorCount }, async (i, stop) =>
        {
            using var begun = Begin(files[i]);
            written[i] = await Write(begun, target, stop);
            progress?.Report((double)Interlocked.Increment(ref done) / files.Length);
        });
        return [.. written];
    }

    /// <summary>Writes files one after the other, as a zip wants them. What takes long before its first byte, as FLAC does, is made ahead, side by side.</summary>
    /// <param name="files">The files; their levels are known.</param>
    /// <param name="target">Where they go.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>Each as soon as it is written.</returns>
    /// <exception cref="IOException">There is no room, or nobody listens any more.</exception>
    internal async IAsyncEnumerable<HandoffWritten> WriteInOrder(ImmutableArray<HandoffFile> files, IHandoffTarget target, [EnumeratorCancellation] CancellationToken cancel)
    {
        var ahead = new Queue<Task<Begun>>();
        try
        {
            for (var i = 0; i < files.Length; i++)
            {
                for (var next = i + ahead.Count; next < files.Length && ahead.Count < Environment.ProcessorCount; next++)
                {
                    var file = files[next];
                    ahead.Enqueue(Task.Run(() => Begin(file), CancellationToken.None));
                }

                using var begun = await ahead.Dequeue();
                yield return await Write(begun, target, cancel);
            }
        }
        finally
        {
            foreach (var left in ahead)
            {
                // One that failed holds nothing, and why it did no longer matters.
                await left.ContinueWith(l => l.IsCompletedSuccessfully ? l.Result : null, CancellationToken.None, TaskContinuationOptions.ExecuteSynchronously, TaskScheduler.Default)
                    .ContinueWith(l => l.Result?.Dispose(), CancellationToken.None, TaskContinuationOptions.ExecuteSynchronously, TaskScheduler.Default);
            }
        }
    }

    /// <summary>Goes as far as the first bytes of a file.</summary>
    private Begun Begin(HandoffFile file)
    {
        var pieces = Pieces(file).GetEnumerator();
        try
        {
            return new Begun(file, pieces, pieces.MoveNext());
        }
        catch
        {
            pieces.Dispose();
            throw;
        }
    }

    private static async Task<HandoffWritten> Write(Begun begun, IHandoffTarget target, CancellationToken cancel)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        long length = 0;
        await target.Write(
            begun.File.Path,
            async to =>
            {
                for (var more = begun.Any; more; more = begun.Pieces.MoveNext())
                {
                    cancel.ThrowIfCancellationRequested();
                    var bytes = begun.Pieces.Current;
                    length += bytes.Length;

                    // The hash takes as long as the writing.
                    await Task.WhenAll(Task.Run(() => hash.AppendData(bytes.Span), CancellationToken.None), to.WriteAsync(bytes, cancel).AsTask());
                }
            },
            cancel);
        return new HandoffWritten(begun.File, new(length), Convert.ToHexStringLower(hash.GetHashAndReset()));
    }

    /// <summary>A file whose label tells how loud it is.</summary>
    private static HandoffFile Labelled(HandoffFile file) => file.Levels is not { } levels
        ? file
        : file with { Label = file.Label with { Broadcast = file.Label.Broadcast with { Loudness = levels.Loudness, TruePeak = levels.TruePeakDbtp } } };

    private IEnumerable<ReadOnlyMemory<byte>> Pieces(HandoffFile file)
    {
        if (file.AsStored)
        {
            using var stored = File.OpenRead(PathOf(file.Recipe.Parts[0].Audio));
            var bytes = new byte[CopyBytes];
            for (int count; (count = stored.Read(bytes)) > 0;)
            {
                yield return bytes.AsMemory(0, count);
            }

            yield break;
        }

        using var opened = Open(file);
        foreach (var piece in Containers.Of(file.Container).Pieces(opened.Recording, file.Format, file.Label, folder))
        {
            yield return piece;
        }
    }

    private Opened Open(HandoffFile file)
    {
        var readers = new List<WaveReader>();
        try
        {
            foreach (var part in file.Recipe.Parts)
            {
                readers.Add(WaveReader.Open(PathOf(part.Audio)) is { Ok: true } reader ? reader.Value : throw new IOException($"The stored file of {file.Track} cannot be read any more."));
            }

            return new Opened(file.Recipe.Open(readers), readers);
        }
        catch
        {
            readers.ForEach(r => r.Dispose());
            throw;
        }
    }

    private string PathOf(string audio) => find(audio) ?? throw new IOException("A file that the handoff is made from is not in the audio store any more.");

    /// <summary>What a recipe makes, with the files it reads.</summary>
    private sealed class Opened(IRecording recording, List<WaveReader> readers) : IDisposable
    {
        public IRecording Recording => recording;

        public void Dispose() => readers.ForEach(r => r.Dispose());
    }

    /// <summary>A file that is being made.</summary>
    private sealed record Begun(HandoffFile File, IEnumerator<ReadOnlyMemory<byte>> Pieces, bool Any) : IDisposable
    {
        public void Dispose() => Pieces.Dispose();
    }
}
