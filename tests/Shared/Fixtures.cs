using System.IO.Compression;
using System.Runtime.CompilerServices;

namespace GateSplit.Tests.Shared;

/// <summary>What earlier versions of the program kept, in tests/fixtures.</summary>
public static class Fixtures
{
    /// <summary>Versions there are fixtures of.</summary>
    public static IReadOnlyList<int> Versions => [.. Directory.GetDirectories(Folder()).Select(d => int.Parse(Path.GetFileName(d)[1..])).Order()];

    /// <summary>The files of a version whose names end so.</summary>
    public static IReadOnlyList<string> Files(int version, string ending) => [.. Directory.GetFiles(Path.Combine(Folder(), $"v{version}"), "*" + ending).Order(StringComparer.Ordinal)];

    /// <summary>The statements that make a database of a version.</summary>
    public static string Database(int version)
    {
        using var file = File.OpenRead(Assert.Single(Files(version, "database.sql.gz")));
        using var text = new StreamReader(new GZipStream(file, CompressionMode.Decompress));
        return text.ReadToEnd();
    }

    private static string Folder([CallerFilePath] string here = "") => Path.GetFullPath(Path.Combine(Path.GetDirectoryName(here)!, "../fixtures"));
}
