using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using GateSplit.Core;
using GateSplit.Core.Handoff;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Proofing;
using GateSplit.Core.Sound;
using GateSplit.Data;

namespace GateSplit.Jobs;

/// <summary>A handoff as one zip, streamed while it is made; nothing of it is kept here.</summary>
public sealed class HandoffZip
{
    private readonly OpenSession _session;
    private readonly Take _take;
    private readonly MendedAudio _mended;
    private readonly IAudioStore _store;
    private readonly HandoffFormat _format;

    private HandoffZip(OpenSession session, Take take, MendedAudio mended, IAudioStore store, HandoffFormat format, IReadOnlyList<string> names)
    {
        _session = session;
        _take = take;
        _mended = mended;
        _store = store;
        _format = format;
        Tracks = [.. mended.Lines.Select((line, i) => Describe(line, i + 1, names[i] + format.Container.Ending, format))];
    }

    /// <summary>The files it will hold.</summary>
    public IReadOnlyList<HandoffTrack> Tracks { get; }

    /// <summary>What was mended, in words.</summary>
    public IReadOnlyList<string> Mends => _mended.Mends;

    /// <summary>Plans a handoff, or tells why it cannot be made.</summary>
    /// <param name="session">The session.</param>
    /// <param name="take">The take, or what stands for one.</param>
    /// <param name="mended">The same as its mends make it.</param>
    /// <param name="store">Where the printed files lie.</param>
    /// <param name="pattern">What the files are called.</param>
    /// <param name="format">How they are stored.</param>
    public static Result<HandoffZip> Plan(OpenSession session, Take take, MendedAudio mended, IAudioStore store, string pattern, HandoffFormat format)
    {
        var names = FileNames.For(pattern, [.. take.Tracks.Select(t => t.Name)], session.State.Name, session.Song.Tempos.StartTempo);
        if (!names.Ok)
        {
            return new Refusal(names.Trouble);
        }

        return mended.Lines.FirstOrDefault(l => store.Find(l.Printed.Hash) is null) is { } missing
            ? new Refusal($"The file of {missing.Track.Name} is not in the audio store any more.")
            : new HandoffZip(session, take, mended, store, format, names.Value);
    }

    /// <summary>Writes the zip: audio files, track sheet, notes, manifest.</summary>
    public async Task WriteTo(Stream to, DateTime made, CancellationToken cancel)
    {
        await using var zip = await ZipArchive.CreateAsync(to, ZipArchiveMode.Create, leaveOpen: true, Encoding.UTF8, cancel);
        var written = new List<HandoffTrack>();
        for (var i = 0; i < Tracks.Count; i++)
        {
            written.Add(await WriteAudio(zip, Tracks[i], _mended.Lines[i], cancel));
        }

        var others = new Dictionary<string, string>
        {
            ["tracks.csv"] = await WriteBytes(zip, "tracks.csv", Encoding.UTF8.GetBytes(TrackSheet.Write(written)), cancel),
            ["notes.mid"] = await WriteBytes(zip, "notes.mid", _session.State.Song, cancel),
        };
        if (MidiReader.Read(_session.State.Song) is { Ok: true } song)
        {
            others["note-tracks.mid"] = await WriteBytes(zip, "note-tracks.mid", MidiWriter.Write(NoteTracks.Of(song.Value, _session.Lines)), cancel);
        }

        var manifest = new Manifest(
            _session.State.Name,
            _take.Number,
            made.ToString("yyyy-MM-ddTHH:mm:ss"),
            Math.Round(_session.Song.Tempos.StartTempo, 3),
            _session.Song.Metres.First.ToString(),
            _mended.Mends,
            written,
            others);
        await WriteBytes(zip, "manifest.json", Encoding.UTF8.GetBytes(manifest.ToJson()), cancel);
    }

    /// <summary>A file before it is made. The levels of a mended one are known when it is.</summary>
    private static HandoffTrack Describe(MendedLine line, int number, string file, HandoffFormat format) => new(
        number,
        file,
        line.Track.Name,
        line.Track.Elements,
        line.Track.Source,
        format.Sample is { } sample ? line.Format with { Sample = sample } : line.Format,
        line.Frames,
        line.IsAsPrinted ? line.Printed.SamplePeakDbfs : null,
        line.IsAsPrinted ? line.Printed.RmsDbfs : null,
        line.IsAsPrinted ? line.Printed.ClippedRuns : 0,
        line.IsAsPrinted ? line.Printed.FullScale : null,
        !line.IsAsPrinted || line.Printed.TrackId != line.Track.TrackId,
        null);

    private static async Task<string> WriteBytes(ZipArchive zip, string name, byte[] bytes, CancellationToken cancel)
    {
        await using var entry = await zip.CreateEntry(name, CompressionLevel.Fastest).OpenAsync(cancel);
        await entry.WriteAsync(bytes, cancel);
        return Convert.ToHexStringLower(SHA256.HashData(bytes));
    }

    /// <returns>What was written, with its hash and, of a mended file, its levels.</returns>
    private async Task<HandoffTrack> WriteAudio(ZipArchive zip, HandoffTrack file, MendedLine line, CancellationToken cancel)
    {
        // Audio does not compress.
        await using var entry = await zip.CreateEntry(file.File, CompressionLevel.NoCompression).OpenAsync(cancel);
        var path = _store.Find(line.Printed.Hash)!;
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        using var reader = WaveReader.Open(path).Value!;
        var measured = line.IsAsPrinted ? null : new MeasuredRecording(new MendedRecording(reader, line.Plan));
        await foreach (var bytes in measured is null && _format.Container == Containers.Wave && (_format.Sample ?? line.Format.Sample) == line.Format.Sample
            ? Stored(path, cancel)
            : Converted(measured ?? (IRecording)reader, path, file, cancel))
        {
            // The hash takes as long as the zip itself.
            await Task.WhenAll(Task.Run(() => hash.AppendData(bytes.Span), CancellationToken.None), entry.WriteAsync(bytes, cancel).AsTask());
        }

        var sha256 = Convert.ToHexStringLower(hash.GetHashAndReset());
        return measured is null ? file with { Sha256 = sha256 } : file.With(measured.Levels()) with { Sha256 = sha256 };
    }

    private static async IAsyncEnumerable<ReadOnlyMemory<byte>> Stored(
        string path, [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel)
    {
        await using var file = File.OpenRead(path);
        var bytes = new byte[1 << 20];
        int count;
        while ((count = await file.ReadAsync(bytes, cancel)) > 0)
        {
            yield return bytes.AsMemory(0, count);
        }
    }

    private async IAsyncEnumerable<ReadOnlyMemory<byte>> Converted(
        IRecording from, string path, HandoffTrack file, [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel)
    {
        foreach (var bytes in FormatConverter.Convert(from, _format.Container, file.Format, new BroadcastInfo(file.Track, File.GetLastWriteTime(path))))
        {
            cancel.ThrowIfCancellationRequested();
            yield return bytes;
            await Task.Yield();
        }
    }
}
