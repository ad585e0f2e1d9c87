using System.IO.Hashing;
using System.Runtime.InteropServices;
using System.Security.Cryptography;
using GateSplit.Core.Quantities;

namespace GateSplit.Data;

/// <summary>The audio store as a folder: files/ab/ab12… and staging/….</summary>
/// <remarks>
/// A file is named by the XXH3 hash of 128 bits, which takes a twentieth of the time of SHA-256, more than printing itself takes. Nobody
/// is kept from making two files with the same one on purpose, so that is looked for, and the second is named by SHA-256.
/// </remarks>
public sealed partial class FolderAudioStore : IAudioStore
{
    private const int BufferBytes = 1 << 20;
    private readonly string _files;
    private readonly string _staging;

    /// <summary>Opens the store; its folders are made if missing.</summary>
    /// <param name="root">Its folder.</param>
    public FolderAudioStore(string root)
    {
        _files = Path.Combine(root, "files");
        _staging = Path.Combine(root, "staging");
        Directory.CreateDirectory(_files);
        Directory.CreateDirectory(_staging);
    }

    /// <inheritdoc/>
    public Bytes FreeBytes => new(new DriveInfo(_files).AvailableFreeSpace);

    /// <inheritdoc/>
    public string Staging(string name) => Directory.CreateDirectory(Path.Combine(_staging, name)).FullName;

    /// <inheritdoc/>
    public void Discard(string name)
    {
        var folder = Path.Combine(_staging, name);
        if (Directory.Exists(folder))
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    /// <inheritdoc/>
    public IReadOnlyList<string> StagingNames() => [.. Directory.EnumerateDirectories(_staging).Select(d => Path.GetFileName(d)!)];

    /// <inheritdoc/>
    public DateTime StagedAt(string name) => Directory.GetCreationTimeUtc(Path.Combine(_staging, name));

    /// <inheritdoc/>
    public void Link(string path, string second)
    {
        if (HardLink(path, second) != 0)
        {
            throw new IOException(Marshal.GetPInvokeErrorMessage(Marshal.GetLastPInvokeError()));
        }
    }

    /// <inheritdoc/>
    public async Task<string> NameOf(string path, CancellationToken cancel = default)
    {
        var name = Convert.ToHexStringLower(await Quick(path, cancel));
        if (File.Exists(PathOf(name)) && !await IsSame(path, PathOf(name), cancel))
        {
            await using var file = Open(path);
            name = Convert.ToHexStringLower(await SHA256.HashDataAsync(file, cancel));
        }

        return name;
    }

    /// <inheritdoc/>
    public void Adopt(string path, string hash)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(PathOf(hash))!);
        File.Move(path, PathOf(hash), overwrite: true);
    }

    /// <inheritdoc/>
    public IEnumerable<string> Files(DateTime before) =>
        from file in new DirectoryInfo(_files).EnumerateFiles("*", SearchOption.AllDirectories)
        where IsHash(file.Name) && file.LastWriteTimeUtc < before
        select file.Name;

    /// <inheritdoc/>
    public string? Find(string hash) => IsHash(hash) && File.Exists(PathOf(hash)) ? PathOf(hash) : null;

    /// <inheritdoc/>
    public void Remove(string hash)
    {
        if (IsHash(hash) && Directory.Exists(Path.GetDirectoryName(PathOf(hash))))
        {
            File.Delete(PathOf(hash));
        }
    }

    private static FileStream Open(string path) => new(path, FileMode.Open, FileAccess.Read, FileShare.Read, BufferBytes, FileOptions.SequentialScan);

    private static async Task<byte[]> Quick(string path, CancellationToken cancel)
    {
        var hash = new XxHash128();
        await using var file = Open(path);
        await hash.AppendAsync(file, cancel);
        return hash.GetCurrentHash();
    }

    private static async Task<bool> IsSame(string path, string other, CancellationToken cancel)
    {
        await using var file = Open(path);
        await using var otherFile = Open(other);
        if (file.Length != otherFile.Length)
        {
            return false;
        }

        var (bytes, otherBytes) = (new byte[BufferBytes], new byte[BufferBytes]);
        int count;
        while ((count = await file.ReadAtLeastAsync(bytes, BufferBytes, throwOnEndOfStream: false, cancel)) > 0)
        {
            var otherCount = await otherFile.ReadAtLeastAsync(otherBytes, BufferBytes, throwOnEndOfStream: false, cancel);
            if (!bytes.AsSpan(0, count).SequenceEqual(otherBytes.AsSpan(0, otherCount)))
            {
                return false;
            }
        }

        return true;
    }

    /// <summary>Only what we named ourselves is ever used as a path.</summary>
    private static bool IsHash(string hash) => hash.Length is 32 or 64 && hash.All(char.IsAsciiHexDigitLower);

    [LibraryImport("libc", EntryPoint = "link", StringMarshalling = StringMarshalling.Utf8, SetLastError = true)]
    private static partial int HardLink(string path, string second);

    private string PathOf(string hash) => Path.Combine(_files, hash[..2], hash);
}
