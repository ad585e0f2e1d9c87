using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Edits;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Checks;

/// <summary>Whatever is done to a split, a fix removes its finding and brings none of more weight.</summary>
public sealed class FixPropertyTests
{
    public static TheoryData<string, int> Cases => new(
        from chart in new[] { "mudlark-nine", "ostler-kit-room", "brindle-six", "heron-ten" }
        from seed in Enumerable.Range(1, 12)
        select new TheoryDataRow<string, int>(chart, seed));

    [Theory]
    [MemberData(nameof(Cases))]
    public void A_fix_removes_its_finding_and_brings_none_of_more_weight(string chart, int seed)
    {
        var random = new Random(seed);
        var (split, song) = Sessions.Laid(Shelf.Find(new ChartId(chart))!);
        for (var i = 0; i < 4; i++)
        {
            split = Any(random, split).Apply(split) is { Ok: true } changed ? changed.Value : split;
        }

        var before = AllChecks.Look(Sessions.View(split, song));
        foreach (var finding in before.Where(f => f.Fix is not null))
        {
            var applied = finding.Fix!.Apply(split);
            Assert.True(applied.Ok, $"{finding.Key}: {applied.Trouble}");
            var after = AllChecks.Look(Sessions.View(applied.Value!, song));
            Assert.False(after.Any(f => f.Key == finding.Key && f.Sentence == finding.Sentence), $"{finding.Key} stays: {finding.Sentence}");
            // Of two tracks that double each other, the one that is told may change with the other gone; the rule had spoken.
            var brought = after.FirstOrDefault(f => f.Severity > finding.Severity && before.All(b => b.Check != f.Check));
            Assert.True(brought is null, $"{finding.Key} ({finding.FixLabel}) brings {brought?.Key}: {brought?.Sentence}");
        }
    }

    private static Edit Any(Random random, Split split)
    {
        var unit = split.Units[0];
        var element = new ElementRef(unit.Id, unit.Elements[random.Next(unit.Elements.Length)].ElementId);
        var track = split.Tracks[random.Next(split.Tracks.Length)].Id;
        return random.Next(10) switch
        {
            0 => new AssignPort(element, unit.Chart.Ports[random.Next(unit.Chart.Ports.Length)].Number),
            1 => new SetFader(element, new Decibels(random.Next(-20, 12))),
            2 => new SetPan(element, new Pan(random.Next(-1, 2))),
            3 => new SetMuted(element, true),
            4 => new SetArmed(track, false),
            5 => new MoveTrack(track, 1),
            6 => new RemoveTrack(track),
            7 => new RenameTrack(track, split.Tracks[random.Next(split.Tracks.Length)].Name),
            8 => new SetMonitor(track, MonitorMode.Never),
            _ => new SetTrackInput(track, new InputRef(split.Banks[0].Id, random.Next(1, split.Banks[0].Count))),
        };
    }
}
