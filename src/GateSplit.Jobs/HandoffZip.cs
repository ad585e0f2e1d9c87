using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using GateSplit.Core;
using GateSplit.Core.Handoff;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Sound;
using GateSplit.Data;

namespace GateSplit.Jobs;

/// <summary>A handoff as one zip, streamed while it is made; nothing of it is kept here.</summary>
public sealed class HandoffZip
{
    private readonly OpenSession _session;
    private readonly Take _take;
    private readonly IAudioStore _store;
    private readonly HandoffFormat _format;

    private HandoffZip(OpenSession session, Take take, IAudioStore store, HandoffFormat format, IReadOnlyList<string> names)
    {
        _session = session;
        _take = take;
        _store = store;
        _format = format;
        Tracks = [.. take.Tracks.Select((t, i) => Describe(t, i + 1, names[i] + format.Container.Ending, format))];
    }

    /// <summary>The files it will hold.</summary>
    public IReadOnlyList<HandoffTrack> Tracks { get; }

    /// <summary>Plans a handoff, or tells why it cannot be made.</summary>
    public static Result<HandoffZip> Plan(OpenSession session, Take take, IAudioStore store, string pattern, HandoffFormat format)
    {
        var names = FileNames.For(pattern, [.. take.Tracks.Select(t => t.Name)], session.State.Name, session.Song.Tempos.StartTempo);
        if (!names.Ok)
        {
            return new Refusal(names.Trouble);
        }

        return take.Tracks.FirstOrDefault(t => store.Find(t.Hash) is null) is { } missing
            ? new Refusal($"The file of {missing.Name} is not in the audio store any more.")
            : new HandoffZip(session, take, store, format, names.Value);
    }

    /// <summary>Writes the zip: audio files, track sheet, notes, manifest.</summary>
    public async Task WriteTo(Stream to, DateTime made, CancellationToken cancel)
    {
        await using var zip = await ZipArchive.CreateAsync(to, ZipArchiveMode.Create, leaveOpen: true, Encoding.UTF8, cancel);
        var written = new List<HandoffTrack>();
        for (var i = 0; i < Tracks.Count; i++)
        {
            written.Add(Tracks[i] with { Sha256 = await WriteAudio(zip, Tracks[i], _take.Tracks[i], cancel) });
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
            written,
            others);
        await WriteBytes(zip, "manifest.json", Encoding.UTF8.GetBytes(manifest.ToJson()), cancel);
    }

    private static HandoffTrack Describe(TakeTrack track, int number, string file, HandoffFormat format) => new(
        number,
        file,
        track.Name,
        track.Elements,
        track.Source,
        format.Sample is { } sample ? track.Format with { Sample = sample } : track.Format,
        track.Frames,
        track.SamplePeakDbfs,
        track.RmsDbfs,
        track.ClippedRuns,
        track.FullScale,
        null);

    private static async Task<string> WriteBytes(ZipArchive zip, string name, byte[] bytes, CancellationToken cancel)
    {
        await using var entry = await zip.CreateEntry(name, CompressionLevel.Fastest).OpenAsync(cancel);
        await entry.WriteAsync(bytes, cancel);
        return Convert.ToHexStringLower(SHA256.HashData(bytes));
    }

    private async Task<string> WriteAudio(ZipArchive zip, HandoffTrack file, TakeTrack track, CancellationToken cancel)
    {
        // Audio does not compress.
        await using var entry = await zip.CreateEntry(file.File, CompressionLevel.NoCompression).OpenAsync(cancel);
        var path = _store.Find(track.Hash)!;
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        await foreach (var bytes in _format.Container == Containers.Wave && (_format.Sample ?? track.Format.Sample) == track.Format.Sample ? Stored(path, cancel) : Converted(path, file, cancel))
        {
            // The hash takes as long as the zip itself.
            await Task.WhenAll(Task.Run(() => hash.AppendData(bytes.Span), CancellationToken.None), entry.WriteAsync(bytes, cancel).AsTask());
        }

        return Convert.ToHexStringLower(hash.GetHashAndReset());
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
        string path, HandoffTrack file, [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel)
    {
        using var reader = WaveReader.Open(path).Value!;
        foreach (var bytes in FormatConverter.Convert(reader, _format.Container, file.Format, new BroadcastInfo(file.Track, File.GetLastWriteTime(path))))
        {
            cancel.ThrowIfCancellationRequested();
            yield return bytes;
            await Task.Yield();
        }
    }
}
