using System.Globalization;
using GateSplit.Core.Checks;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;
using GateSplit.Tests.Shared;

namespace GateSplit.Bench;

/// <summary>Many random sessions with planted faults: whether each is named first, and mended by the fix that is offered.</summary>
internal static class TruthBench
{
    /// <summary>Looks, and prints a table.</summary>
    /// <param name="sessions">How many sessions.</param>
    /// <param name="first">The seed of the first.</param>
    public static void Run(int sessions, int first)
    {
        Console.WriteLine($"  {sessions} random sessions from seed {first} on");
        var spoken = Enumerable.Range(first, sessions).Count(seed => new FaultPlanter(seed).LeftOver.Count > 0);
        Console.WriteLine($"  {"clean splits of which something was said",-42}{spoken,8}");
        Console.WriteLine($"  {"fault",-42}{"planted",8}{"first",8}{"alone",8}{"mended",8}");
        foreach (var kind in FaultPlanter.Kinds)
        {
            var (planted, named, alone, mended) = (0, 0, 0, 0);
            for (var seed = first; seed < first + sessions; seed++)
            {
                var session = new FaultPlanter(seed);
                if (session.Plant(kind, session.Clean) is not var (faulty, check))
                {
                    continue;
                }

                planted++;
                var findings = AllChecks.Look(SplitView.Of(faulty, session.Song));
                var isFirst = findings.FirstOrDefault()?.Check == check;
                named += isFirst ? 1 : 0;
                alone += findings.Count(f => f.ToMend) == 1 ? 1 : 0;
                var back = FaultPlanter.MendAll(faulty, session.Song).Split;
                var right = FaultPlanter.ComesBackOtherwise(kind) ? !AllChecks.Look(SplitView.Of(back, session.Song)).Any(f => f.ToMend) : SplitJson.Same(back, session.Clean);
                mended += right ? 1 : 0;
                if (!isFirst || !right)
                {
                    Console.Error.WriteLine($"  seed {seed}, {kind}: {string.Join(" / ", findings.Where(f => f.ToMend).Select(f => $"[{f.Check}] {f.Sentence} <{f.FixLabel}>"))}");
                }
            }

            Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  {kind,-42}{planted,8}{named,8}{alone,8}{mended,8}"));
        }

        var (several, all, returned) = (0, 0, 0);
        for (var seed = first; seed < first + sessions; seed++)
        {
            var session = new FaultPlanter(seed);
            var (faulty, checks) = session.PlantSeveral(2 + seed % 2);
            var (mended, told) = FaultPlanter.MendAll(faulty, session.Song);
            var allNamed = checks.All(told.Select(f => f.Check).Contains);
            var same = FaultPlanter.Files(session.Clean, session.Song).SequenceEqual(FaultPlanter.Files(mended, session.Song));
            (several, all, returned) = (several + 1, all + (allNamed ? 1 : 0), returned + (same ? 1 : 0));
            if (!allNamed || !same)
            {
                Console.Error.WriteLine($"  seed {seed}, {string.Join(", ", checks)}: {string.Join(" / ", told.Select(f => $"[{f.Check}] {f.Sentence} <{f.FixLabel}>"))}");
            }
        }

        Console.WriteLine($"  {"two or three at once",-42}{several,8}{all,8}{"",8}{returned,8}");
    }
}
