namespace GateSplit.Cli;

/// <summary>The recordings of a folder, opened together, with one that they are compared with.</summary>
internal sealed class Recordings : IDisposable
{
    private readonly List<(FileInfo File, string Name, Recording Recording)> _files = [];

    /// <summary>The files in the order of their names, each with its name less its ending.</summary>
    public IReadOnlyList<(FileInfo File, string Name, Recording Recording)> Files => _files;

    /// <summary>What they are compared with; null for none.</summary>
    public Recording? Reference { get; private set; }

    /// <summary>Files that could not be read and damage that was read around, with the names of the files.</summary>
    public List<(string File, string Remark)> Remarks { get; } = [];

    /// <summary>Why nothing can be done; null if something can.</summary>
    public string? Trouble { get; private set; }

    /// <summary>Opens them. A file of the folder that is no recording is left out and told.</summary>
    /// <param name="folder">The folder.</param>
    /// <param name="reference">What they are compared with, inside the folder or not; may be null.</param>
    /// <param name="cancel">Stops it.</param>
    public static Recordings Of(DirectoryInfo folder, FileInfo? reference, CancellationToken cancel)
    {
        var all = new Recordings();
        if (reference is not null)
        {
            var opened = Recording.Open(reference, Path.GetTempPath(), cancel);
            all.Reference = opened.Value;
            all.Trouble = opened.Ok ? null : $"{reference.Name}: {opened.Trouble}";
        }

        foreach (var file in folder.EnumerateFiles().Where(f => f.Name[0] != '.' && f.FullName != reference?.FullName).OrderBy(f => f.Name, StringComparer.OrdinalIgnoreCase))
        {
            var opened = Recording.Open(file, Path.GetTempPath(), cancel);
            if (!opened.Ok)
            {
                all.Remarks.Add((file.Name, opened.Trouble));
                continue;
            }

            all._files.Add((file, Path.GetFileNameWithoutExtension(file.Name), opened.Value));
            all.Remarks.AddRange(opened.Value.Remarks.Select(r => (file.Name, r)));
        }

        all.Trouble ??= all._files.Count == 0 ? $"There are no recordings in {folder.Name}." : null;
        return all;
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        Reference?.Dispose();
        _files.ForEach(f => f.Recording.Dispose());
    }
}
