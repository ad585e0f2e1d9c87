using System.IO.Compression;
using System.IO.Pipelines;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Nodes;
using GateSplit.Core.Charts;
using GateSplit.Core.Demo;
using GateSplit.Core.Handoff;
using GateSplit.Core.Notes;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Tests.Shared;

/// <summary>A small whole session with everything that travels: two takes of two tracks, mends, a choice, a named state, a roll call, a chart.</summary>
public static class TravellingSession
{
    /// <summary>Seconds of its recordings.</summary>
    public const double Seconds = 0.05;

    private static readonly DateTime Made = new(2026, 11, 28, 10, 20, 30, DateTimeKind.Utc);

    /// <summary>The chart of its own that it brings along.</summary>
    public static Chart OwnChart { get; } = TansyGrid.Chart with { Id = new ChartId("tansy-at-home"), Name = "Tansy at home" };

    /// <summary>Its split.</summary>
    public static Split Split { get; } = Stairwell.Session.Split;

    /// <summary>Makes it, with recordings by sox in a folder.</summary>
    public static BundleWriter Make(string folder)
    {
        Directory.CreateDirectory(folder);
        var (first, second) = (Split.Tracks[0].Id, Split.Tracks[1].Id);
        var song = MidiWriter.Write(Stairwell.Session.Song);
        var audio = new List<BundledAudio>();
        BundledTrack Track(int take, int position, TrackId id, int channels)
        {
            var path = Path.Combine(folder, $"{take}-{position}.wav");
            Programs.Run("sox", ["-n", "-r", "48000", "-b", "24", "-c", $"{channels}", path, "synth", $"{Seconds}", "sine", $"{110 * (take + position)}", "gain", "-6"]);
            audio.Add(new BundledAudio($"takes/{take}/{position:00} Line.wav", path, new(new FileInfo(path).Length)));
            return new(position, 1, id, $"Line {position}", position == 1 ? Family.Lead : null, "Siskin lead", "Siskin Mono port 1", position == 1 ? "Ärger, “noisy”" : "", audio[^1].Path);
        }

        var session = new SessionBundle(
            "Stairs, whole",
            7,
            [new(7, 4, 3, "Third thing", "", Made, "session.json"), new(4, null, 4, "First thing", "before the takes", Made.AddHours(-2), "revisions/4.json")],
            [
                new(1, true, 4, "stopped early", Made.AddHours(-1), "takes/1/notes.mid", [Track(1, 1, first, 1), Track(1, 3, second, 2)], [new MoveTake(0.01, 0), new TurnPolarity(first)], [new ChangeGain([second], new(-3))], 1, [new("late:t1", "it is the player")]),
                new(3, false, 7, "", Made, null, [Track(3, 1, first, 1), Track(3, 2, second, 2)], [], [], 0, []),
            ],
            [new(second, 1)],
            [new(1, Made, true, ["room.wav"], RollCall())],
            ["charts/own.json"]);
        return new BundleWriter(
            session,
            [
                new("session.json", SessionFile.Of("Stairs, whole", song, Split).ToJson()),
                new("revisions/4.json", SessionFile.Of("Stairs, whole", song, Split with { Pass = Split.Pass with { SettleLoops = 2 } }).ToJson()),
                new("takes/1/notes.mid", song),
                new("charts/own.json", Encoding.UTF8.GetBytes(ChartJson.Write(OwnChart))),
            ],
            audio);
    }

    /// <summary>Writes it as it leaves.</summary>
    public static void Write(BundleWriter bundle, string path)
    {
        using var file = File.Create(path);
        using var sent = PipeWriter.Create(file).AsStream(); // cannot be sought in, as what goes to a browser
        var zip = ZipTarget.Begin(sent, bundle.Made, CancellationToken.None).GetAwaiter().GetResult();
        bundle.WriteTo(stored => stored, zip, CancellationToken.None).GetAwaiter().GetResult();
        zip.DisposeAsync().AsTask().GetAwaiter().GetResult();
    }

    /// <summary>Packs it anew with other content, packed tightly, with the right sums unless they are changed too.</summary>
    /// <param name="whole">The zip as it left.</param>
    /// <param name="path">The zip with other content.</param>
    /// <param name="change">Changes the files, by path.</param>
    /// <param name="sums">Changes the lines of the sums.</param>
    public static void Repack(string whole, string path, Action<SortedDictionary<string, byte[]>> change, Func<string, string>? sums = null)
    {
        var files = new SortedDictionary<string, byte[]>(StringComparer.Ordinal);
        using (var from = ZipFile.OpenRead(whole))
        {
            foreach (var entry in from.Entries.Where(e => e.FullName != "SHA256SUMS"))
            {
                using var bytes = new MemoryStream();
                using (var stream = entry.Open())
                {
                    stream.CopyTo(bytes);
                }

                files[entry.FullName] = bytes.ToArray();
            }
        }

        change(files);
        var list = string.Concat(files.Select(f => $"{Convert.ToHexStringLower(SHA256.HashData(f.Value))}  {f.Key}\n"));
        files["SHA256SUMS"] = Encoding.UTF8.GetBytes(sums?.Invoke(list) ?? list);
        File.Delete(path);
        using var to = ZipFile.Open(path, ZipArchiveMode.Create);
        foreach (var (name, bytes) in files)
        {
            using var stream = to.CreateEntry(name, CompressionLevel.Fastest).Open();
            stream.Write(bytes);
        }
    }

    /// <summary>Puts another value into bundle.json.</summary>
    /// <param name="files">The files.</param>
    /// <param name="place">Where: "takes.0.number".</param>
    /// <param name="value">As JSON.</param>
    public static void Put(SortedDictionary<string, byte[]> files, string place, string value)
    {
        var root = JsonNode.Parse(files["bundle.json"])!;
        var (node, steps) = (root["session"], place.Split('.'));
        foreach (var step in steps[..^1])
        {
            node = int.TryParse(step, out var index) ? node![index] : node![step];
        }

        if (int.TryParse(steps[^1], out var last))
        {
            node![last] = JsonNode.Parse(value);
        }
        else
        {
            node![steps[^1]] = JsonNode.Parse(value);
        }

        files["bundle.json"] = Encoding.UTF8.GetBytes(root.ToJsonString());
    }

    /// <summary>Opens it and takes out all that is in it.</summary>
    /// <returns>What is wrong with it; null if nothing is.</returns>
    public static string? Trouble(string path, string recording)
    {
        var opened = BundleReader.Open(path);
        if (!opened.Ok)
        {
            return opened.Trouble;
        }

        using var bundle = opened.Value;
        return bundle.Tracks.Select(t => bundle.TakeOut(t.Track, recording, CancellationToken.None)).FirstOrDefault(t => t is not null);
    }

    private static RollCallReading RollCall()
    {
        var call = Core.Proofing.RollCall.Of(SplitView.Of(Split, Song.Of(Stairwell.Session.Song)), 1);
        return new(
            call,
            0.5,
            12,
            [.. call.Turns.Select(t => new TurnHeard(t, 1, [new(1, new(-12), new(-6), 0, 1, false)], null, [0.5, 0.5]))],
            [.. Enumerable.Repeat(new Decibels(-80), call.Inputs.Length)]);
    }
}
