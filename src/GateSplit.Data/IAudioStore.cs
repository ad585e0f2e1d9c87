using GateSplit.Core.Quantities;

namespace GateSplit.Data;

/// <summary>Keeps finished files by a hash of their bytes. A file is seen only when it is complete.</summary>
public interface IAudioStore
{
    /// <summary>A folder of its own for files in the making, on the same disk; made if missing.</summary>
    /// <param name="name">Names the work, such as "job-17".</param>
    string Staging(string name);

    /// <summary>Removes such a folder with all in it.</summary>
    void Discard(string name);

    /// <summary>The names of the folders that are there.</summary>
    IReadOnlyList<string> StagingNames();

    /// <summary>When such a folder was made, in UTC.</summary>
    DateTime StagedAt(string name);

    /// <summary>Gives a file a second name in another staging folder; it is there until both are gone.</summary>
    /// <exception cref="IOException">The disk refuses.</exception>
    void Link(string path, string second);

    /// <summary>Reads a finished file and says what it will be called.</summary>
    /// <param name="path">The file, in a staging folder.</param>
    /// <param name="cancel">Stops the reading.</param>
    /// <returns>Its hash in lower-case hexadecimal.</returns>
    Task<string> NameOf(string path, CancellationToken cancel = default);

    /// <summary>Takes a finished file in, which then is no longer where it was.</summary>
    /// <param name="path">The file, in a staging folder.</param>
    /// <param name="hash">What <see cref="NameOf"/> called it.</param>
    void Adopt(string path, string hash);

    /// <summary>The hashes of all files that were written before a time, in UTC.</summary>
    IEnumerable<string> Files(DateTime before);

    /// <summary>Where a file lies, for reading; null if there is none.</summary>
    string? Find(string hash);

    /// <summary>Removes a file; nothing happens if there is none.</summary>
    void Remove(string hash);

    /// <summary>Bytes free on the disk of the store.</summary>
    Bytes FreeBytes { get; }
}
