using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Core.Views;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Checks;

/// <summary>What is told of random sessions with planted faults, held against the files that they print: silent, one-sided, clipped, doubled and lost.</summary>
public sealed class PrintedTruthTests : IDisposable
{
    private const float Silence = 1e-4f; // below what bleeds into a microphone at all
    private readonly TempFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    public static TheoryData<string> Kinds => ["clean", .. FaultPlanter.Kinds.Where(k => k is not "restart forgotten")];

    [Theory]
    [MemberData(nameof(Kinds))]
    public void Files_are_as_they_are_told_to_be(string kind)
    {
        var printed = 0;
        for (var seed = 100; seed < 160 && printed < 3; seed++)
        {
            var session = new FaultPlanter(seed);
            var split = kind == "clean" ? session.Clean : session.Plant(kind, session.Clean)?.Split;
            if (split is null || split.Passes > 1 || split.Units.Any(u => u.NeedsRestart) || split.Tracks.Length > 24)
            {
                continue;
            }

            printed++;
            split = FaultPlanter.After(split, new SetPass(split.Pass with { CountInBars = 0, TailSeconds = 1 }), new SetSimulatedInterface(split.Interface with { Clips = true }));
            Compare(split, session.Song, $"{kind}, seed {seed}");
        }

        Assert.True(printed > 0, kind);
    }

    private void Compare(Split split, Song song, string which)
    {
        var view = SplitView.Of(split, song);
        var findings = AllChecks.Look(view);
        var files = Printed(split, song);
        string Names(IEnumerable<TrackId> ids) => string.Join(", ", ids.OrderBy(i => i.Number));
        HashSet<TrackId> Told(params string[] checks) => [.. from f in findings where checks.Contains(f.Check) from p in f.Places from t in split.Tracks where Place.Of(t) == p select t.Id];

        // Silent: told of just these, as empty, as waiting on an input that is off, or as made for a source that is gone.
        var silent = files.Where(f => f.Value.All(s => s.All(x => Math.Abs(x) < Silence))).Select(f => f.Key).ToHashSet();
        var empty = Told("EmptyTrack", "GoneSource", "UnfedBus", "InputOff");
        Assert.True(silent.SetEquals(empty), $"{which}: silent {Names(silent)}, told {Names(empty)}: {string.Join(" / ", findings.Select(f => f.Sentence))}");

        // One-sided: a stereo file of which one side holds nothing is told of, and what is told to have a silent side has one.
        bool Touches(Finding finding, Track track) => finding.Places.Contains(Place.Of(track)) || finding.Names.Contains(track.Title)
            || view.MeaningOf(track).Elements.Any(e => finding.Places.Contains(Place.Of(e)) || finding.Place == Place.Of(e.UnitId));
        var oneSided = files.Where(f => f.Value.Length == 2 && f.Value.Count(s => s.All(x => Math.Abs(x) < Silence)) == 1).Select(f => split.Track(f.Key)!).ToList();
        foreach (var track in oneSided)
        {
            Assert.True(findings.Any(f => f.Check is "SilentSide" or "MeantElsewhere" or "Width" or "InputOff" or "LostSide" && Touches(f, track)), $"{which}: one-sided {track.Title}: {string.Join(" / ", findings.Select(f => f.Sentence))}");
        }

        foreach (var told in findings.Where(f => f.Check == "SilentSide"))
        {
            Assert.True(oneSided.Exists(t => Touches(told, t)), $"{which}: {told.Sentence}");
        }

        // Clipped: a file with full scale was told of; what was told may stay just below.
        var clipped = files.Where(f => f.Value.Any(s => s.Any(x => Math.Abs(x) >= 1 - 1.0f / (1 << 22)))).Select(f => f.Key).ToHashSet();
        Assert.True(clipped.IsSubsetOf(Told("Level")) || findings.Any(f => f.Check == "Fader"), $"{which}: clipped {Names(clipped)}");

        // Doubled: two files with the same samples are told of; two kinds of source may well have the same sound.
        string ChartOf(TrackId track) => string.Join(' ', view.MeaningOf(split.Track(track)!).Elements.Select(e => view.ElementOf(e).Unit.Chart.Id).Distinct());
        var same = from a in files from b in files where a.Key.Number < b.Key.Number && !silent.Contains(a.Key) && a.Value[0].AsSpan().SequenceEqual(b.Value[0]) && a.Value.Length == b.Value.Length && ChartOf(a.Key) == ChartOf(b.Key) select (a.Key, b.Key);
        foreach (var (a, b) in same)
        {
            Assert.True(
                findings.Any(f => f.Check is "Doubled" or "InputTakenTwice" or "MeantElsewhere" or "OldCopy" && (Touches(f, split.Track(a)!) || Touches(f, split.Track(b)!))),
                $"{which}: {split.Track(a)!.Title} and {split.Track(b)!.Title} hold the same: {string.Join(" / ", findings.Select(f => f.Sentence))}");
        }

        // Lost: what can be muted without any file changing is in none of them, and that is told of it by name.
        foreach (var element in view.SoundingElements.Where(e => e.Chart.Kind != ElementKind.Return && !e.Set.Muted))
        {
            var without = Printed(FaultPlanter.After(split, new SetMuted(element.Ref, true)), song);
            var isLost = files.All(f => f.Value.Zip(without[f.Key]).All(p => p.First.AsSpan().SequenceEqual(p.Second)));
            var tracks = split.Tracks.Where(t => view.MeaningOf(t).Elements.Contains(element.Ref)).ToList();
            var isTold = findings.Any(f => f.ToMend && (f.Places.Contains(Place.Of(element.Ref)) || f.Names.Contains(element.Chart.Name) || f.Sentence.Contains(element.Chart.Name, StringComparison.Ordinal) || f.Place == Place.Of(element.Unit) || tracks.Exists(t => Touches(f, t))));
            Assert.True(!isLost || isTold, $"{which}: {element.Chart.Name} is lost: {string.Join(" / ", findings.Select(f => f.Sentence))}");
            Assert.True(isLost || !view.InNoFile.Contains(element.Ref) || !SplitSignal.SendGain(element.Unit, element.Chart).IsZero, $"{which}: {element.Chart.Name} is in a file");
        }
    }

    private Dictionary<TrackId, float[][]> Printed(Split split, Song song) =>
        new StandInRecorder(SplitView.Of(split, song), song).Print(t => Path.Combine(_folder.Root, $"{t.Id}.wav"), new DateTime(2026, 1, 2, 3, 4, 5))
            .ToDictionary(p => p.Track.Id, p => Recorded.Sides(p.Path));
}
