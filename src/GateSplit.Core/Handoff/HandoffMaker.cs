using System.Collections.Immutable;
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

    /// <summary>Writes one file.</summary>
    /// <param name="file">What it is; its levels are known.</param>
    /// <param name="target">Where it goes.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="IOException">There is no room, or nobody listens any more.</exception>
    public async Task<HandoffWritten> Write(HandoffFile file, IHandoffTarget target, CancellationToken cancel)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        long length = 0;
        await target.Write(
            file.Path,
            async to =>
            {
                foreach (var bytes in Pieces(file))
                {
                    cancel.ThrowIfCancellationRequested();
                    length += bytes.Length;

                    // The hash takes as long as the writing.
                    await Task.WhenAll(Task.Run(() => hash.AppendData(bytes.Span), CancellationToken.None), to.WriteAsync(bytes, cancel).AsTask());
                }
            },
            cancel);
        return new HandoffWritten(file, new(length), Convert.ToHexStringLower(hash.GetHashAndReset()));
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
}
