using System.Collections.Concurrent;
using GateSplit.Tests.Shared;

namespace GateSplit.Bench;

/// <summary>Many random takes with planted faults, judged with one setting.</summary>
internal static class ProofBench
{
    /// <summary>Judges them and prints a table.</summary>
    /// <param name="takes">How many.</param>
    /// <param name="first">The seed of the first.</param>
    /// <param name="rate">Their sample rate, in Hz.</param>
    /// <param name="folder">Where they are written.</param>
    public static void Run(int takes, int first, int rate, string folder)
    {
        Console.WriteLine($"  {takes} random takes from seed {first} on, at {rate} Hz");
        Judge(takes, first, folder, (seed, within) => new PlantedTake(seed, within, rate: rate) is { Count: > 0 } take && take.Proof() is var proof ? s => s.Add(seed, take, proof) : null);
    }

    /// <summary>Reads roll calls of random rooms and prints a table.</summary>
    /// <param name="rooms">How many.</param>
    /// <param name="first">The seed of the first.</param>
    /// <param name="rate">Their sample rate, in Hz.</param>
    /// <param name="folder">Where they are written.</param>
    public static void RunRooms(int rooms, int first, int rate, string folder)
    {
        Console.WriteLine($"  {rooms} roll calls in random rooms from seed {first} on, at {rate} Hz");
        Judge(rooms, first, folder, (seed, within) => new PlantedRoom(seed, within, rate) is { Any: true } room && room.Read().Value is var reading ? s => s.Add(seed, room, reading) : null);
    }

    // One on each core; what they come to is counted in the order of their seeds.
    private static void Judge(int count, int first, string folder, Func<int, string, Action<ProofScore>?> judge)
    {
        var score = new ProofScore();
        foreach (var add in Partitioner.Create(Enumerable.Range(first, count), EnumerablePartitionerOptions.NoBuffering).AsParallel().AsOrdered().WithMergeOptions(ParallelMergeOptions.NotBuffered).Select(seed =>
        {
            var within = Directory.CreateDirectory(Path.Combine(folder, $"{seed}"));
            var add = judge(seed, within.FullName);
            within.Delete(recursive: true);
            return add;
        }))
        {
            // What is wrong is told at once: a whole table takes half an hour.
            var told = score.Wrong.Count;
            add?.Invoke(score);
            foreach (var wrong in score.Wrong.Skip(told))
            {
                Console.Error.WriteLine($"  {wrong}");
            }
        }

        foreach (var line in score.Table())
        {
            Console.WriteLine(line);
        }
    }
}
