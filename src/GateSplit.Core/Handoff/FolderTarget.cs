namespace GateSplit.Core.Handoff;

/// <summary>A handoff in a folder of the disk.</summary>
/// <param name="folder">The folder; made if missing.</param>
public sealed class FolderTarget(string folder) : IHandoffTarget
{
    private const int BufferBytes = 1 << 17;

    /// <inheritdoc/>
    public async Task Write(string path, Func<Stream, Task> fill, CancellationToken cancel)
    {
        var name = Path.Combine([folder, .. path.Split('/')]);
        Directory.CreateDirectory(Path.GetDirectoryName(name)!);
        var part = name + ".part";
        try
        {
            await using (var file = new FileStream(part, FileMode.Create, FileAccess.Write, FileShare.None, BufferBytes, FileOptions.Asynchronous))
            {
                await fill(file);
            }

            File.Move(part, name, overwrite: true);
        }
        finally
        {
            File.Delete(part);
        }
    }
}
