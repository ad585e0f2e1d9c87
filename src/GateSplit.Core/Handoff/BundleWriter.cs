using System.Collections.Immutable;
using System.Security.Cryptography;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Handoff;

/// <summary>A whole session about to leave: the same session makes the same bytes.</summary>
/// <param name="session">What it is.</param>
/// <param name="documents">The small files that it names.</param>
/// <param name="audio">Its recordings.</param>
public sealed class BundleWriter(SessionBundle session, IReadOnlyList<HandoffPaper> documents, IReadOnlyList<BundledAudio> audio)
{
    private const int CopyBytes = 1 << 20;
    private readonly ImmutableArray<HandoffPaper> _documents = [new HandoffPaper(SessionBundle.FileName, session.ToJson()), .. documents];

    /// <summary>The session's name.</summary>
    public string Name => session.Name;

    /// <summary>The time that all its files are given.</summary>
    public DateTime Made => session.Made;

    /// <summary>Its recordings.</summary>
    public IReadOnlyList<BundledAudio> Audio => audio;

    /// <summary>Of all its recordings.</summary>
    public Bytes AudioBytes => new(audio.Sum(a => a.Bytes.Count));

    /// <summary>Tells whether two are the same, without reading their recordings.</summary>
    public string Tag => HashList.Sum(HashList.Write([.. _documents.Select(d => (d.Path, HashList.Sum(d.Body))), .. audio.Select(a => (a.Path, a.Stored))]));

    /// <summary>All its files with their lengths, in the order in which they leave.</summary>
    public IEnumerable<(string Path, long Bytes)> Lengths =>
    [
        .. _documents.Select(d => (d.Path, (long)d.Body.Length)),
        .. audio.Select(a => (a.Path, a.Bytes.Count)),
        (HashList.FileName, HashList.Length(_documents.Select(d => d.Path).Concat(audio.Select(a => a.Path)))),
    ];

    /// <summary>Writes it all, the sums last.</summary>
    /// <param name="find">Where a stored file lies; null if it is there no longer.</param>
    /// <param name="target">Where it goes.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="IOException">A recording is gone, there is no room, or nobody listens any more.</exception>
    public async Task WriteTo(Func<string, string?> find, IHandoffTarget target, CancellationToken cancel)
    {
        var sums = new List<(string, string)>();
        foreach (var document in _documents)
        {
            await target.Write(document.Path, to => to.WriteAsync(document.Body, cancel).AsTask(), cancel);
            sums.Add((document.Path, HashList.Sum(document.Body)));
        }

        foreach (var recording in audio)
        {
            sums.Add((recording.Path, await Copy(recording, find(recording.Stored) ?? throw new IOException($"The recording {recording.Path} is not in the audio store any more."), target, cancel)));
        }

        await target.Write(HashList.FileName, to => to.WriteAsync(HashList.Write(sums), cancel).AsTask(), cancel);
    }

    private static async Task<string> Copy(BundledAudio recording, string path, IHandoffTarget target, CancellationToken cancel)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        await target.Write(
            recording.Path,
            async to =>
            {
                await using var from = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.Read, 1, FileOptions.SequentialScan);
                if (from.Length != recording.Bytes.Count)
                {
                    throw new IOException($"The recording {recording.Path} is no longer as long as it was.");
                }

                var block = new byte[CopyBytes];
                int count;
                while ((count = await from.ReadAsync(block, cancel)) > 0)
                {
                    await Task.WhenAll(Task.Run(() => hash.AppendData(block, 0, count), CancellationToken.None), to.WriteAsync(block.AsMemory(0, count), cancel).AsTask());
                }
            },
            cancel);
        return Convert.ToHexStringLower(hash.GetHashAndReset());
    }
}
