namespace GateSplit.Core;

/// <summary>Small helps for writing sentences.</summary>
public static class Words
{
    /// <summary>"1 track", "3 tracks".</summary>
    public static string Count(long number, string one, string? many = null) =>
        number == 1 ? $"1 {one}" : $"{number} {many ?? one + "s"}";

    /// <summary>"Kick", "Kick and Snare", "Kick, Snare and Hat"; after <paramref name="most"/> names "and 4 more".</summary>
    public static string List(IReadOnlyList<string> names, int most = 6)
    {
        if (names.Count > most)
        {
            return string.Join(", ", names.Take(most)) + $" and {names.Count - most} more";
        }

        return names.Count switch
        {
            0 => "nothing",
            1 => names[0],
            _ => string.Join(", ", names.Take(names.Count - 1)) + " and " + names[^1],
        };
    }

    /// <summary>Numbers in runs: "2-5, 8".</summary>
    /// <param name="numbers">In rising order.</param>
    public static string Runs(IReadOnlyList<int> numbers)
    {
        var runs = new List<string>();
        for (var i = 0; i < numbers.Count;)
        {
            var last = i;
            while (last + 1 < numbers.Count && numbers[last + 1] == numbers[last] + 1)
            {
                last++;
            }

            runs.Add(last == i ? $"{numbers[i]}" : $"{numbers[i]}-{numbers[last]}");
            i = last + 1;
        }

        return string.Join(", ", runs);
    }

    /// <summary>A length to the millisecond: "0:31.250".</summary>
    public static string ClockToMillisecond(double seconds)
    {
        var whole = (long)Math.Round(seconds * 1000, MidpointRounding.AwayFromZero);
        return $"{whole / 60_000}:{whole / 1000 % 60:00}.{whole % 1000:000}";
    }

    /// <summary>A length as minutes and seconds: "0:31", "12:04".</summary>
    public static string Clock(double seconds)
    {
        var whole = (long)Math.Round(seconds, MidpointRounding.AwayFromZero);
        return $"{whole / 60}:{whole % 60:00}";
    }
}
