using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Tests.StandIns;

/// <summary>A kit with a drum submaster, a sum that feeds it, and one level-only control over some of the same tracks.</summary>
public sealed class GroupPrintTests : IDisposable
{
    private readonly TempFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Fact]
    public void The_submaster_is_the_sum_of_its_tracks_at_the_levels_of_all_their_groups()
    {
        var (kit, song) = Sessions.Kit;
        var (drums, close, low) = (new TrackGroupId("g1"), new TrackGroupId("g2"), new TrackGroupId("g3"));
        var split = Sessions.After(
            kit,
            new AddTrackGroup("Drums", true),
            new AddTrackGroup("Close", true),
            new AddTrackGroup("Low", false),
            new SetPass(kit.Pass with { LengthBars = 2, CountInBars = 0, TailSeconds = 1, Format = SampleFormat.Float32 }),
            new SetTrackLevel(new("t3"), new Decibels(-2)),
            new SetTrackPan(new("t3"), new Pan(0.5)));
        split = Sessions.After(
            split,
            new SetTrackGroup(split.TrackGroup(drums)! with { LevelDb = new(-1) }),
            new SetTrackGroup(split.TrackGroup(close)! with { LevelDb = new(-4), ParentId = drums }),
            new SetTrackGroup(split.TrackGroup(low)! with { LevelDb = new(-6) }),
            Bulk.PutInGroup(split, [new("t1"), new("t2"), new("t3")], close),
            Bulk.PutInGroup(split, [new("t10"), new("t11")], drums),
            Bulk.PutInGroup(split, [new("t1"), new("t2"), new("t10")], low));

        var lines = Print(split, song, "lines");
        var stem = Assert.Single(Print(PrintPlan.For(SplitView.Of(split, song), PrintKind.Stems).Value!.Split, song, "stems"));
        Assert.Equal("Drums", stem.Track.Name);
        var levels = new Dictionary<string, double> { ["t1"] = -11, ["t2"] = -11, ["t3"] = -7, ["t10"] = -7, ["t11"] = -1 };
        var sum = new[] { new double[stem.Sides[0].Length], new double[stem.Sides[0].Length] };
        foreach (var (track, sides) in lines.Where(l => levels.ContainsKey(l.Track.Id.Value)))
        {
            var gain = Math.Pow(10, levels[track.Id.Value] / 20) * (track.Width == Width.Mono ? Gain2x2.Panned(track.Pan) : Gain2x2.Balanced(track.Pan));
            for (var i = 0; i < sum[0].Length; i++)
            {
                var (l, r) = (sides[0][i], sides.Length > 1 ? sides[1][i] : 0);
                sum[0][i] += gain.LL * l + gain.LR * r;
                sum[1][i] += gain.RL * l + gain.RR * r;
            }
        }

        Assert.Contains(sum[0], s => Math.Abs(s) > 0.05);
        for (var side = 0; side < 2; side++)
        {
            Assert.All(sum[side].Zip(stem.Sides[side]), p => Assert.Equal(p.First, p.Second, 2e-6));
        }
    }

    private List<(Track Track, float[][] Sides)> Print(Split split, Song song, string name) => PrintedLines.Of(_folder, name, split, song);
}
