using System.Text.Json;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Data;

namespace GateSplit.Jobs;

/// <summary>
/// A file on its way here that may arrive in pieces: what has come is on the disk, and how much of it is the file's
/// length, so a lost connection or a killed program costs nothing of it.
/// </summary>
public sealed class ResumableUpload
{
    /// <summary>How the names of their folders begin.</summary>
    public const string Prefix = "arriving-";

    /// <summary>Stands for the session of what is to become one.</summary>
    public const long NewSession = 0;

    private readonly string _path;
    private readonly About _about;

    private ResumableUpload(string key, string path, About about)
    {
        Key = key;
        _path = path;
        _about = about;
    }

    /// <summary>Names it in addresses.</summary>
    public string Key { get; }

    /// <summary>The session it is for; <see cref="NewSession"/> for what is to become one.</summary>
    public long SessionId => _about.SessionId;

    /// <summary>The file's name where it comes from.</summary>
    public string FileName => _about.FileName;

    /// <summary>Bytes it will have.</summary>
    public Bytes Length => _about.Length;

    /// <summary>Bytes that have come.</summary>
    public Bytes Offset => new(new FileInfo(DataPath).Length);

    /// <summary>The folder it lies in, as the store names it.</summary>
    public string Staging => Prefix + Key;

    /// <summary>Where what has come lies.</summary>
    public string DataPath => Path.Combine(_path, "data");

    /// <summary>Begins one.</summary>
    public static ResumableUpload Begin(IAudioStore store, long sessionId, string fileName, Bytes length)
    {
        var key = Guid.NewGuid().ToString("N");
        var path = store.Staging(Prefix + key);
        var about = new About(sessionId, fileName, length);
        File.WriteAllBytes(Path.Combine(path, "data"), []);
        File.WriteAllText(Path.Combine(path, "about.json"), JsonSerializer.Serialize(about, SplitJson.Options));
        return new ResumableUpload(key, path, about);
    }

    /// <summary>Finds one; null if there is none.</summary>
    public static ResumableUpload? Find(IAudioStore store, string key)
    {
        var name = Prefix + key;
        return store.StagingNames().Contains(name) ? Named(store, name) : null;
    }

    /// <summary>The upload in a folder that is there; null if it holds none.</summary>
    public static ResumableUpload? Named(IAudioStore store, string name)
    {
        if (!name.StartsWith(Prefix, StringComparison.Ordinal) || !Guid.TryParseExact(name[Prefix.Length..], "N", out _))
        {
            return null;
        }

        var path = store.Staging(name);
        var about = Path.Combine(path, "about.json");
        return File.Exists(about) ? new ResumableUpload(name[Prefix.Length..], path, JsonSerializer.Deserialize<About>(File.ReadAllText(about), SplitJson.Options)!) : null;
    }

    /// <summary>Appends what comes, and keeps what came even if it breaks off.</summary>
    /// <param name="offset">Where the sender believes to be.</param>
    /// <param name="from">What comes.</param>
    /// <param name="cancel">Set when the connection is gone.</param>
    /// <returns>False if the sender is somewhere else, or more comes than was said.</returns>
    /// <exception cref="IOException">The disk refuses, or somebody else is sending the same file.</exception>
    public async Task<bool> Append(Bytes offset, Stream from, CancellationToken cancel)
    {
        await using var file = new FileStream(DataPath, FileMode.Append, FileAccess.Write, FileShare.Read, 1 << 18);
        if (file.Length != offset.Count)
        {
            return false;
        }

        var buffer = new byte[1 << 18];
        int got;
        while ((got = await from.ReadAsync(buffer, cancel)) > 0)
        {
            if (file.Length + got > Length.Count)
            {
                return false;
            }

            await file.WriteAsync(buffer.AsMemory(0, got), CancellationToken.None);
            await file.FlushAsync(CancellationToken.None);
        }

        return true;
    }

    /// <summary>Throws it away.</summary>
    public void Discard(IAudioStore store) => store.Discard(Staging);

    private sealed record About(long SessionId, string FileName, Bytes Length);
}
