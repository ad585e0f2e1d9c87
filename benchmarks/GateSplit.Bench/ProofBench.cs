using GateSplit.Tests.Shared;

namespace GateSplit.Bench;

/// <summary>Many random takes with planted faults, judged with one setting.</summary>
internal static class ProofBench
{
    /// <summary>Judges them and prints a table.</summary>
    /// <param name="takes">How many.</param>
    /// <param name="first">The seed of the first.</param>
    /// <param name="folder">Where they are written.</param>
    public static void Run(int takes, int first, string folder)
    {
        Console.WriteLine($"  {takes} random takes from seed {first} on");
        var score = new ProofScore();
        for (var seed = first; seed < first + takes; seed++)
        {
            var within = Directory.CreateDirectory(Path.Combine(folder, $"{seed}"));
            var take = new PlantedTake(seed, within.FullName);
            if (take.Count > 0)
            {
                score.Add(seed, take, take.Proof());
            }

            within.Delete(recursive: true);
        }

        Print(score);
    }

    /// <summary>Reads roll calls of random rooms and prints a table.</summary>
    /// <param name="rooms">How many.</param>
    /// <param name="first">The seed of the first.</param>
    /// <param name="folder">Where they are written.</param>
    public static void RunRooms(int rooms, int first, string folder)
    {
        Console.WriteLine($"  {rooms} roll calls in random rooms from seed {first} on");
        var score = new ProofScore();
        for (var seed = first; seed < first + rooms; seed++)
        {
            var within = Directory.CreateDirectory(Path.Combine(folder, $"{seed}"));
            var room = new PlantedRoom(seed, within.FullName);
            if (room.Any)
            {
                score.Add(seed, room, room.Read().Value);
            }

            within.Delete(recursive: true);
        }

        Print(score);
    }

    private static void Print(ProofScore score)
    {
        score.Wrong.ForEach(w => Console.Error.WriteLine($"  {w}"));
        foreach (var line in score.Table())
        {
            Console.WriteLine(line);
        }
    }
}
