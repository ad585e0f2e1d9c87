namespace GateSplit.Core.Tests;

/// <summary>A folder for one test.</summary>
internal sealed class TempFolder : IDisposable
{
    private readonly DirectoryInfo _folder = Directory.CreateTempSubdirectory("gate-split-test-");

    /// <summary>Where it is.</summary>
    public string Path => _folder.FullName;

    public string this[string name] => System.IO.Path.Combine(_folder.FullName, name);

    public string Root => _folder.FullName;

    public string[] Names => [.. _folder.GetFiles("*", SearchOption.AllDirectories).Select(f => f.Name).Order()];

    public string Write(string name, ReadOnlySpan<byte> bytes)
    {
        File.WriteAllBytes(this[name], bytes);
        return this[name];
    }

    public void Dispose() => _folder.Delete(recursive: true);
}
