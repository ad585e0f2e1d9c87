using System.Collections.Immutable;

namespace GateSplit.Core;

/// <summary>Small helps for rules.</summary>
internal static class Misfits
{
    /// <summary>Something that is there only if a rule does not hold.</summary>
    public static IEnumerable<Misfit> Unless(bool holds, string place, string sentence) => holds ? [] : [new Misfit(place, sentence)];

    /// <summary>The first of them; null if all is well.</summary>
    public static Misfit? First(IEnumerable<Misfit> misfits) => misfits.Select(m => (Misfit?)m).FirstOrDefault();

    /// <summary>A list that is there, has no gaps, and is not too long.</summary>
    public static IEnumerable<Misfit> OfList<T>(ImmutableArray<T> list, string place, int most)
    {
        if (list.IsDefault)
        {
            yield return new Misfit(place, "A list is needed here, if an empty one.");
            yield break;
        }

        if (list.Length > most)
        {
            yield return new Misfit(place, $"{list.Length} are too many: {most} are the most.");
        }

        for (var i = 0; i < list.Length; i++)
        {
            if (list[i] is null)
            {
                yield return new Misfit($"{place}[{i}]", "There is nothing where something belongs.");
            }
        }
    }

    /// <summary>No key twice.</summary>
    public static IEnumerable<Misfit> Twice<T, TKey>(ImmutableArray<T> list, Func<T, TKey> key, Func<int, string> place, Func<TKey, string> sentence)
    {
        var seen = new HashSet<TKey>();
        for (var i = 0; i < list.Length; i++)
        {
            if (!seen.Add(key(list[i])))
            {
                yield return new Misfit(place(i), sentence(key(list[i])));
            }
        }
    }
}
