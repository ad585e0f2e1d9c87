using System.IO.Compression;
using System.Text;

namespace GateSplit.Core.Handoff;

/// <summary>A handoff as one zip that is streamed while it is made. Nothing in it is compressed, so that its length is known beforehand.</summary>
public sealed class ZipTarget : IHandoffTarget, IAsyncDisposable
{
    private readonly ZipArchive _zip;
    private readonly DateTimeOffset _made;

    private ZipTarget(ZipArchive zip, DateTime made) => (_zip, _made) = (zip, new DateTimeOffset(made.Ticks / TimeSpan.TicksPerSecond * TimeSpan.TicksPerSecond, TimeSpan.Zero));

    /// <summary>Begins a zip.</summary>
    /// <param name="to">Where its bytes go; it need not seek, and stays open.</param>
    /// <param name="made">The time that all its files are given, so that the same files make the same bytes.</param>
    /// <param name="cancel">Stops it.</param>
    public static async Task<ZipTarget> Begin(Stream to, DateTime made, CancellationToken cancel) =>
        new(await ZipArchive.CreateAsync(to, ZipArchiveMode.Create, leaveOpen: true, Encoding.UTF8, cancel), made);

    /// <summary>The length of a zip of files of these names and lengths.</summary>
    public static async Task<long> Length(IEnumerable<(string Path, long Bytes)> files, CancellationToken cancel)
    {
        // What the writer puts about the files depends on their lengths, not on what is in them.
        var nothing = new byte[1 << 20];
        await using var counted = new CountingStream();
        await using (var zip = await Begin(counted, DateTime.UnixEpoch.AddYears(20), cancel))
        {
            foreach (var (path, bytes) in files)
            {
                await zip.Write(
                    path,
                    async to =>
                    {
                        for (var left = bytes; left > 0; left -= nothing.Length)
                        {
                            await to.WriteAsync(nothing.AsMemory(0, (int)Math.Min(left, nothing.Length)), cancel);
                        }
                    },
                    cancel);
            }
        }

        return counted.Length;
    }

    /// <inheritdoc/>
    public async Task Write(string path, Func<Stream, Task> fill, CancellationToken cancel)
    {
        var entry = _zip.CreateEntry(path, CompressionLevel.NoCompression);
        entry.LastWriteTime = _made;
        await using var stream = await entry.OpenAsync(cancel);
        await fill(stream);
    }

    /// <summary>Writes the list of its files.</summary>
    public ValueTask DisposeAsync() => _zip.DisposeAsync();
}
