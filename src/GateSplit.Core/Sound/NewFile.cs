using GateSplit.Core.Quantities;
using Microsoft.Win32.SafeHandles;

namespace GateSplit.Core.Sound;

/// <summary>Begins files whose length is known.</summary>
internal static class NewFile
{
    /// <summary>
    /// Begins a file in place of one that may lie there. Its space is taken at once, so that a disk that is too small is
    /// told before the first byte. The file is new, not emptied: a file system may write an emptied one out when it is closed.
    /// </summary>
    /// <param name="path">Where.</param>
    /// <param name="bytes">How long it will be.</param>
    /// <exception cref="IOException">The disk is full (its HResult is that of the system), or refuses otherwise.</exception>
    public static SafeFileHandle Begin(string path, Bytes bytes)
    {
        File.Delete(path);
        try
        {
            return File.OpenHandle(path, FileMode.CreateNew, FileAccess.Write, FileShare.None, FileOptions.None, bytes.Count);
        }
        catch (IOException e) when (e.Message.Contains("disk was full", StringComparison.OrdinalIgnoreCase))
        {
            File.Delete(path);
            throw new IOException($"No space left on the disk for {Path.GetFileName(path)}: it needs {bytes}.", FullDisk.NoSpace);
        }
    }
}
