using System.Security.Cryptography;

namespace GateSplit.Data;

/// <summary>The audio store as a folder: files/ab/ab12… and staging/….</summary>
public sealed class FolderAudioStore : IAudioStore
{
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
    public long FreeBytes => new DriveInfo(_files).AvailableFreeSpace;

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
    public async Task<string> Adopt(string path, CancellationToken cancel = default)
    {
        byte[] hash;
        await using (var file = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.Read, 1 << 20, FileOptions.SequentialScan))
        {
            hash = await SHA256.HashDataAsync(file, cancel);
        }

        var name = Convert.ToHexStringLower(hash);
        Directory.CreateDirectory(Path.GetDirectoryName(PathOf(name))!);
        File.Move(path, PathOf(name), overwrite: true);
        return name;
    }

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

    /// <summary>Only what we named ourselves is ever used as a path.</summary>
    private static bool IsHash(string hash) => hash.Length == 64 && hash.All(char.IsAsciiHexDigitLower);

    private string PathOf(string hash) => Path.Combine(_files, hash[..2], hash);
}
