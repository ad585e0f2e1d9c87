using System.Globalization;
using GateSplit.Core.Demo;
using GateSplit.Core.Handoff;
using GateSplit.Core.Notes;
using GateSplit.Core.Proofing;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Bench;

/// <summary>Recordings handed off into a folder, and as one zip.</summary>
internal static class HandoffBench
{
    /// <summary>Hands off all recordings of a folder, and prints how many seconds it took in a program that runs already, as a server does.</summary>
    /// <param name="folder">The recordings.</param>
    /// <param name="to">A folder, or a file that ends in .zip.</param>
    /// <param name="format">How they are stored.</param>
    public static async Task Run(string folder, string to, string format)
    {
        var session = LampLit.Session;
        var song = Song.Of(session.Song);
        var take = new HandoffTake(1, true, DateTime.UnixEpoch.AddYears(50), "", SplitView.Of(session.Split, song), song, MidiWriter.Write(session.Song));
        var lines = Directory.GetFiles(folder, "*.wav").Order(StringComparer.Ordinal).Select((path, i) =>
        {
            using var wave = WaveReader.Open(path).Value!;
            return new HandoffLine(new TrackId(i + 1), $"Line {i + 1}", take, "a socket", path, wave.Format, wave.Frames, RenderPlan.AsItIs(wave.Format.Channels, wave.Frames), false);
        });
        var material = new HandoffMaterial(session.Name, session.Split, [.. lines], []);
        var plan = HandoffPlan.Of(material, new HandoffWish { Format = format, Files = [.. material.Lines.Select(l => l.Key)] }, take.Made).Value!;
        var staging = Directory.CreateTempSubdirectory("gate-split-staging-").FullName;
        try
        {
            var maker = new HandoffMaker(stored => stored, staging);
            var files = plan.Files;

            // A running server has done it before.
            await maker.WriteAll([.. files.Take(2)], new NowhereTarget(), null, CancellationToken.None);
            var started = TimeProvider.System.GetTimestamp();
            if (!to.EndsWith(".zip", StringComparison.Ordinal))
            {
                await maker.WriteAll(files, new FolderTarget(to), null, CancellationToken.None);
            }
            else
            {
                // A zip is streamed from the record that was made of it, which knows the bytes.
                var record = new HandoffRecord(session.Name, take.Made, new HandoffWish(), await maker.WriteAll(files, new NowhereTarget(), null, CancellationToken.None), []);
                started = TimeProvider.System.GetTimestamp();
                await using var file = File.Create(to);
                await using var zip = await ZipTarget.Begin(file, take.Made, CancellationToken.None);
                await record.WriteTo(maker, zip, CancellationToken.None);
            }

            Console.WriteLine(TimeProvider.System.GetElapsedTime(started).TotalSeconds.ToString("0.00", CultureInfo.InvariantCulture));
        }
        finally
        {
            Directory.Delete(staging, recursive: true);
        }
    }
}
