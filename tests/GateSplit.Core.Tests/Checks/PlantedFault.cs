using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Checks;

/// <summary>A fault planted into a laid split: silence before it, a sentence about it, and a fix that mends it.</summary>
internal static class PlantedFault
{
    public static void Look(
        string check, string chart, Edit[] right, Edit[] wrong, string words, bool hasFix)
    {
        var (split, song) = Sessions.Laid(Shelf.Find(new ChartId(chart))!);
        Look(split, song, check, right, wrong, words, hasFix);
    }

    public static void Look(Split split, Song song, string check, Edit[] right, Edit[] wrong, string words, bool hasFix)
    {
        split = Sessions.After(split, right);
        if (wrong.Length > 0)
        {
            Assert.DoesNotContain(AllChecks.Look(Sessions.View(split, song)), f => f.Check == check);
        }

        split = Sessions.After(split, wrong);
        var before = AllChecks.Look(Sessions.View(split, song));
        var finding = Assert.Single(before, f => f.Check == check && f.Sentence.Contains(words));
        Assert.Equal(hasFix, finding.Fix is not null);
        if (finding.Fix is { } fix)
        {
            Mends(before, finding, AllChecks.Look(Sessions.View(Sessions.After(split, fix), song)));
        }
    }

    /// <summary>
    /// A fix removes its finding and brings no other of its weight; only that a line that was set free or widened is there twice then may
    /// have to be told as well.
    /// </summary>
    public static void Mends(IReadOnlyList<Finding> before, Finding finding, IReadOnlyList<Finding> after)
    {
        Assert.DoesNotContain(after, f => f.Key == finding.Key);
        Assert.DoesNotContain(after, f => f.Severity >= finding.Severity && f.Check != "Doubled" && before.All(b => b.Key != f.Key));
    }
}
