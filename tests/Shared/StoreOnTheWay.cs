using GateSplit.Core.Quantities;
using GateSplit.Data;

namespace GateSplit.Tests.Shared;

/// <summary>An audio store that is looked into on the way: it may have less room than the disk, and be held up before it removes a file.</summary>
/// <param name="inner">The store.</param>
public sealed class StoreOnTheWay(IAudioStore inner) : IAudioStore
{
    /// <summary>The room it says it has; null for that of the disk.</summary>
    public Bytes? Free { get; set; }

    /// <summary>Called before a file is removed.</summary>
    public Action<string> Removing { get; set; } = _ => { };

    /// <inheritdoc/>
    public Bytes FreeBytes => Free ?? inner.FreeBytes;

    /// <inheritdoc/>
    public string Staging(string name) => inner.Staging(name);

    /// <inheritdoc/>
    public void Discard(string name) => inner.Discard(name);

    /// <inheritdoc/>
    public IReadOnlyList<string> StagingNames() => inner.StagingNames();

    /// <inheritdoc/>
    public DateTime StagedAt(string name) => inner.StagedAt(name);

    /// <inheritdoc/>
    public void Link(string path, string second) => inner.Link(path, second);

    /// <inheritdoc/>
    public Task<string> NameOf(string path, CancellationToken cancel = default) => inner.NameOf(path, cancel);

    /// <inheritdoc/>
    public void Adopt(string path, string hash) => inner.Adopt(path, hash);

    /// <inheritdoc/>
    public IEnumerable<string> Files(DateTime before) => inner.Files(before);

    /// <inheritdoc/>
    public string? Find(string hash) => inner.Find(hash);

    /// <inheritdoc/>
    public void Remove(string hash)
    {
        Removing(hash);
        inner.Remove(hash);
    }
}
