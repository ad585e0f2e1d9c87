using System.Buffers.Binary;
using System.Collections.Immutable;
using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Handoff;

/// <summary>
/// A whole session in a zip, opened. Nothing in it is believed: every file is read only as far as it says it is long and has to have its sum, paths
/// within it name entries and never files of this machine, and all documents pass the gate that an edit passes.
/// </summary>
public sealed class BundleReader : IDisposable
{
    private const int MostDirectoryBytes = 16 << 20;
    private const int MostDocumentBytes = 64 << 20;
    private const long MostDocumentsBytes = 512L << 20;
    private const int BlockBytes = 1 << 20;

    private readonly ZipArchive _zip;
    private readonly ImmutableDictionary<string, ZipArchiveEntry> _entries;
    private long _documents;
    private ImmutableDictionary<string, string> _sums = ImmutableDictionary<string, string>.Empty;

    private BundleReader(ZipArchive zip, ImmutableDictionary<string, ZipArchiveEntry> entries)
    {
        _zip = zip;
        _entries = entries;
    }

    /// <summary>What is in it.</summary>
    public SessionBundle Session { get; private set; } = null!;

    /// <summary>Its splits with their songs, by revision.</summary>
    public ImmutableDictionary<int, SessionFile.Opened> Revisions { get; private set; } = ImmutableDictionary<int, SessionFile.Opened>.Empty;

    /// <summary>The notes that sounded in takes, as MIDI files, by the number of the take.</summary>
    public ImmutableDictionary<int, byte[]> Notes { get; private set; } = ImmutableDictionary<int, byte[]>.Empty;

    /// <summary>The charts that came with it.</summary>
    public ImmutableArray<Chart> Charts { get; private set; } = [];

    /// <summary>All recordings, in the order of takes and tracks.</summary>
    public ImmutableArray<(BundledTake Take, BundledTrack Track)> Tracks { get; private set; } = [];

    /// <summary>The room that all recordings take once they are taken out.</summary>
    public Bytes AudioBytes { get; private set; }

    /// <summary>The split as it is now, with its song.</summary>
    public SessionFile.Opened Now => Revisions[Session.Revision];

    /// <summary>True of a file that begins as a zip does.</summary>
    public static bool IsZip(string path)
    {
        using var file = File.OpenRead(path);
        Span<byte> head = stackalloc byte[4];
        return file.ReadAtLeast(head, head.Length, throwOnEndOfStream: false) == head.Length && BinaryPrimitives.ReadUInt32LittleEndian(head) == 0x04034B50;
    }

    /// <summary>Opens one and reads everything but the recordings.</summary>
    /// <param name="path">The zip.</param>
    /// <returns>Or a sentence that tells what is wrong with it.</returns>
    /// <exception cref="IOException">The disk refuses.</exception>
    public static Result<BundleReader> Open(string path)
    {
        BundleReader? reader = null;
        try
        {
            var opened = Archive(path);
            if (!opened.Ok)
            {
                return new Refusal(opened.Trouble);
            }

            reader = opened.Value;
            if (reader.ReadAll() is { } trouble)
            {
                reader.Dispose();
                return new Refusal(trouble);
            }

            return reader;
        }
        catch (Exception e) when (IsDamage(e))
        {
            reader?.Dispose();
            return new Refusal($"This zip is damaged: {e.Message}");
        }
        catch
        {
            reader?.Dispose();
            throw;
        }
    }

    /// <summary>Takes the recording of a track out.</summary>
    /// <param name="track">The track.</param>
    /// <param name="path">Where it goes.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>What is wrong with it; null if it is whole.</returns>
    /// <exception cref="IOException">There is no room.</exception>
    public string? TakeOut(BundledTrack track, string path, CancellationToken cancel)
    {
        using (var to = new FileStream(path, FileMode.Create, FileAccess.Write, FileShare.None, BlockBytes))
        {
            try
            {
                if (Copy(track.File, to, _entries[track.File].Length, cancel) is { } trouble)
                {
                    return trouble;
                }
            }
            catch (Exception e) when (IsDamage(e))
            {
                return $"{track.File} is damaged: {e.Message}";
            }
        }

        if (!SoundFile.IsWave(path))
        {
            return $"{track.File} is no WAVE file.";
        }

        var wave = WaveReader.Open(path);
        wave.Value?.Dispose();
        return wave.Ok ? null : $"{track.File}: {wave.Trouble}";
    }

    /// <inheritdoc/>
    public void Dispose() => _zip.Dispose();

    private static Result<BundleReader> Archive(string path)
    {
        var file = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.Read, BlockBytes);
        ZipArchive? zip = null;
        try
        {
            if (DirectoryBytes(file) > MostDirectoryBytes)
            {
                file.Dispose();
                return new Refusal("This zip lists more files than any session has.");
            }

            zip = new ZipArchive(file, ZipArchiveMode.Read, leaveOpen: false, Encoding.UTF8);
            var entries = ImmutableDictionary.CreateBuilder<string, ZipArchiveEntry>(StringComparer.Ordinal);
            foreach (var entry in zip.Entries.Where(e => !e.FullName.EndsWith('/')))
            {
                var wrong = !BundleRules.IsPath(entry.FullName) ? "holds a file whose name leads out of its folder, or that no system takes"
                    : !entries.TryAdd(entry.FullName, entry) ? $"holds {entry.FullName} twice"
                    : null;
                if (wrong is not null)
                {
                    zip.Dispose();
                    return new Refusal($"This zip {wrong}.");
                }
            }

            return new BundleReader(zip, entries.ToImmutable());
        }
        catch
        {
            zip?.Dispose();
            file.Dispose();
            throw;
        }
    }

    /// <summary>How much of a zip its directory fills at most, by its end (APPNOTE.TXT 6.3.10, 4.3.14 to 4.3.16): what begins where it says reaches to the end of the file.</summary>
    private static long DirectoryBytes(FileStream file)
    {
        const int end = 22, longestComment = 65535, locator = 20;
        var tail = new byte[Math.Min(file.Length, end + longestComment + locator)];
        file.Seek(-tail.Length, SeekOrigin.End);
        file.ReadExactly(tail);
        file.Seek(0, SeekOrigin.Begin);
        var at = tail.AsSpan().LastIndexOf("PK\x05\x06"u8);
        if (at < 0 || at + end > tail.Length)
        {
            return 0;
        }

        long start = BinaryPrimitives.ReadUInt32LittleEndian(tail.AsSpan(at + 16));
        if (start == uint.MaxValue && at >= locator && tail.AsSpan(at - locator, 4).SequenceEqual("PK\x06\x07"u8))
        {
            var place = BinaryPrimitives.ReadInt64LittleEndian(tail.AsSpan(at - locator + 8));
            var large = new byte[56];
            if (place < 0 || place > file.Length - large.Length)
            {
                return 0;
            }

            file.Seek(place, SeekOrigin.Begin);
            file.ReadExactly(large);
            file.Seek(0, SeekOrigin.Begin);
            start = BinaryPrimitives.ReadInt64LittleEndian(large.AsSpan(48));
        }

        return start < 0 || start > file.Length ? 0 : file.Length - start;
    }

    /// <summary>What reading a damaged zip throws.</summary>
    private static bool IsDamage(Exception e) =>
        e is InvalidDataException or EndOfStreamException or NotSupportedException or OverflowException or ArgumentException;

    private string? ReadAll()
    {
        if (_entries.ContainsKey("manifest.json") && !_entries.ContainsKey(SessionBundle.FileName))
        {
            return "This is a handoff, not a session with its takes. A session is exported at Handoff, “With its takes”.";
        }

        if (!_entries.ContainsKey(SessionBundle.FileName) || !_entries.ContainsKey(HashList.FileName))
        {
            return "This zip is no session with its takes: what it is made of is not listed in it.";
        }

        if (Document(HashList.FileName, null) is not { Ok: true } list)
        {
            return $"{HashList.FileName} cannot be read.";
        }

        if (HashList.Read(Encoding.UTF8.GetString(list.Value)) is not { } sums)
        {
            return $"{HashList.FileName} is no list of SHA-256 sums.";
        }

        _sums = sums;
        var document = Document(SessionBundle.FileName);
        if (!document.Ok)
        {
            return document.Trouble;
        }

        var session = SessionBundle.Read(document.Value);
        if ((session.Ok ? BundleRules.FirstMisfit(session.Value)?.ToString() : session.Trouble) is { } trouble)
        {
            return $"{SessionBundle.FileName}: {trouble}";
        }

        Session = session.Value!;
        Tracks = [.. Session.Takes.SelectMany(t => t.Tracks.Select(l => (t, l)))];
        return ReadRevisions() ?? ReadNotes() ?? ReadCharts() ?? LookForAudio();
    }

    private string? ReadRevisions()
    {
        var revisions = ImmutableDictionary.CreateBuilder<int, SessionFile.Opened>();
        foreach (var revision in Session.Revisions)
        {
            var json = Document(revision.File);
            if (!json.Ok)
            {
                return json.Trouble;
            }

            var opened = SessionFile.Read(json.Value);
            if (!opened.Ok)
            {
                return $"{revision.File}: {opened.Trouble}";
            }

            revisions[revision.Number] = opened.Value;
        }

        Revisions = revisions.ToImmutable();
        return null;
    }

    private string? ReadNotes()
    {
        var notes = ImmutableDictionary.CreateBuilder<int, byte[]>();
        foreach (var take in Session.Takes.Where(t => t.Notes is not null))
        {
            var midi = Document(take.Notes!);
            if (!midi.Ok)
            {
                return midi.Trouble;
            }

            if (MidiReader.Read(midi.Value) is { Ok: false } refused)
            {
                return $"{take.Notes}: {refused.Trouble}";
            }

            notes[take.Number] = midi.Value;
        }

        Notes = notes.ToImmutable();
        return null;
    }

    private string? ReadCharts()
    {
        var charts = ImmutableArray.CreateBuilder<Chart>();
        foreach (var path in Session.Charts)
        {
            var json = Document(path);
            if (!json.Ok)
            {
                return json.Trouble;
            }

            var chart = ChartJson.Read(Encoding.UTF8.GetString(json.Value));
            if (!chart.Ok)
            {
                return $"{path}: {chart.Trouble}";
            }

            charts.Add(chart.Value);
        }

        Charts = charts.ToImmutable();
        return null;
    }

    private string? LookForAudio()
    {
        decimal all = 0;
        foreach (var (take, track) in Tracks)
        {
            if (!_entries.TryGetValue(track.File, out var entry) || !_sums.ContainsKey(track.File))
            {
                return $"{track.File}, the recording of {track.Name} in take {take.Number}, is missing.";
            }

            all += entry.Length;
        }

        if (all > long.MaxValue / 4)
        {
            return "It says that it holds more than any disk does.";
        }

        AudioBytes = new((long)all);
        return null;
    }

    private Result<byte[]> Document(string path)
    {
        if (!_sums.ContainsKey(path))
        {
            return new Refusal($"{path} is not among the sums of {HashList.FileName}.");
        }

        return Document(path, _sums[path]);
    }

    /// <summary>A small file of it.</summary>
    private Result<byte[]> Document(string path, string? sum)
    {
        if (!_entries.TryGetValue(path, out var entry))
        {
            return new Refusal($"{path} is missing.");
        }

        if (entry.Length > MostDocumentBytes)
        {
            return new Refusal($"{path} says that it has {new Bytes(entry.Length)}; {new Bytes(MostDocumentBytes)} are the most that are read.");
        }

        _documents += entry.Length;
        if (_documents > MostDocumentsBytes)
        {
            return new Refusal($"Its documents say that they have more than {new Bytes(MostDocumentsBytes)} together, which are the most that are read.");
        }

        using var bytes = new MemoryStream();
        return Copy(path, bytes, entry.Length, CancellationToken.None, check: sum is not null) is { } trouble ? new Refusal(trouble) : bytes.ToArray();
    }

    private string? Copy(string path, Stream to, long length, CancellationToken cancel, bool check = true)
    {
        using var from = _entries[path].Open();
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        var block = new byte[BlockBytes];
        long copied = 0;
        int count;
        while ((count = from.Read(block)) > 0)
        {
            cancel.ThrowIfCancellationRequested();
            copied += count;
            if (copied > length)
            {
                return $"{path} is longer than it says.";
            }

            hash.AppendData(block.AsSpan(0, count));
            to.Write(block.AsSpan(0, count));
        }

        return copied < length ? $"{path} is cut off."
            : check && Convert.ToHexStringLower(hash.GetHashAndReset()) != _sums[path] ? $"{path} is damaged: its SHA-256 sum is not the one in {HashList.FileName}."
            : null;
    }
}
