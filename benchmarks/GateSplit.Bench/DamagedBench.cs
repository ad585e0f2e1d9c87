using System.Diagnostics;
using GateSplit.Tests.Shared;

namespace GateSplit.Bench;

/// <summary>Damaged files of every kind through the readers: how long the slowest takes, and how much memory the hungriest.</summary>
internal static class DamagedBench
{
    public static void Run(int count)
    {
        var folder = Directory.CreateTempSubdirectory("gate-split-damaged-").FullName;
        try
        {
            var seed = Random.Shared.Next();
            var random = new Random(seed);
            var files = new DamagedFiles(folder);
            var slowest = (Seconds: 0.0, Name: "");
            var hungriest = (Bytes: 0L, Name: "");
            for (var i = 0; i < count; i++)
            {
                var (name, whole, read) = files.Kinds[i % files.Kinds.Count];
                var bytes = DamagedFiles.Damage(random, whole);
                var (before, started) = (GC.GetAllocatedBytesForCurrentThread(), Stopwatch.StartNew());
                read(bytes);
                var (took, seconds) = (GC.GetAllocatedBytesForCurrentThread() - before, started.Elapsed.TotalSeconds);
                File.Delete(Path.Combine(files.Output, "x.wav"));
                slowest = i >= files.Kinds.Count && seconds > slowest.Seconds ? (seconds, name) : slowest;
                hungriest = took > hungriest.Bytes ? (took, name) : hungriest;
            }

            Console.WriteLine($"  {count:#,0} damaged files, seed {seed}: no exception; the slowest {slowest.Seconds * 1000:0} ms ({slowest.Name}), the hungriest {hungriest.Bytes / 1e6:0.0} MB ({hungriest.Name})");
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }
}
