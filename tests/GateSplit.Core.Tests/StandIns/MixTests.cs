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

/// <summary>Lines and returns, played together as their tracks stand, are the mix that the source would have made.</summary>
public sealed class MixTests : IDisposable
{
    private readonly TempFolder _folder = new();

    public static TheoryData<string> Charts => [.. Shelf.Charts.Where(c => c.Master is null).Select(c => c.Id.Value)];

    public void Dispose() => _folder.Dispose();

    [Theory]
    [MemberData(nameof(Charts))]
    public void Lines_and_returns_add_up_to_the_mix(string chart)
    {
        var (split, song) = Laid(Shelf.Find(new ChartId(chart))!, new Random(5), new LayWish(HardPan: false) { Unity = true });
        AddUp(split, song, chart);
    }

    /// <summary>Charts, pans, faders, sends and the way to lay at random.</summary>
    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void Twenty_five_random_splits_add_up_as_well(int part)
    {
        Chart[] charts = [.. Charts.Select(c => Shelf.Find(new ChartId(c.Data))!).Where(c => c.Elements.Length < 40)];
        for (var seed = 25 * part; seed < 25 * (part + 1); seed++)
        {
            var random = new Random(seed);
            var (split, song) = Laid(charts[random.Next(charts.Length)], random, new LayWish(HardPan: random.Next(2) == 0) { Unity = false });
            foreach (var element in split.Units[0].Elements.Where(_ => random.Next(3) == 0))
            {
                var chart = split.Units[0].Chart.Element(element.ElementId)!;
                split = chart.SendDb is null ? split : Sessions.After(split, new SetSend(new ElementRef(split.Units[0].Id, chart.Id), new Decibels(-random.Next(3, 30)), null));
            }

            if (split.Passes == 1)
            {
                AddUp(split, song, $"seed {seed}, {split.Units[0].Chart.Name}");
            }
        }
    }

    private void AddUp(Split split, Song song, string which)
    {
        var lines = Print(split, song, "lines");
        var view = SplitView.Of(split, song);
        var mix = Print(PrintPlan.For(view, PrintKind.Mix).Value!.Split, song, "mix").Single();
        var (left, right) = (new double[mix.Sides[0].Length], new double[mix.Sides[0].Length]);
        foreach (var (track, sides) in lines)
        {
            var gain = track.LevelDb.Ratio * (track.Width == Width.Mono ? Gain2x2.Panned(track.Pan) : Gain2x2.Balanced(track.Pan));
            for (var i = 0; i < left.Length; i++)
            {
                var (l, r) = (sides[0][i], sides.Length > 1 ? sides[1][i] : 0);
                left[i] += gain.LL * l + gain.LR * r;
                right[i] += gain.RL * l + gain.RR * r;
            }
        }

        double Energy(IEnumerable<double> samples) => samples.Sum(s => s * s);
        var rest = Energy(left.Zip(mix.Sides[0], (a, b) => a - b)) + Energy(right.Zip(mix.Sides[^1], (a, b) => a - b));
        var whole = Energy(mix.Sides[0].Select(s => (double)s)) + Energy(mix.Sides[^1].Select(s => (double)s));
        Assert.True(whole > 0, which);
        Assert.True(10 * Math.Log10(rest / whole) <= -100, $"{which}: {10 * Math.Log10(rest / whole):0.0} dB are left");
    }

    /// <summary>Panned and sent here and there, laid in one pass.</summary>
    private static (Split Split, Song Song) Laid(Chart chart, Random random, LayWish wish)
    {
        var song = Song.Of(CheckPattern.Of([chart], Tempo.Default));
        var split = StartingSplit.Of([chart], (int)song.Bars, 48000);
        foreach (var unit in split.Units.Where(u => u.Chart.DeclaresPorts))
        {
            split = Sessions.After(split, new DeclarePorts(unit.Id, unit.Chart.Elements.Length + 1, Width.Stereo, "Out", 1), new MarkRestarted(unit.Id));
        }

        foreach (var element in split.Units[0].Elements)
        {
            split = Sessions.After(split, new SetPan(new ElementRef(split.Units[0].Id, element.ElementId), new Pan(Math.Round(random.NextDouble() * 2 - 1, 1))));
            split = wish.Unity ? split : Sessions.After(split, new SetFader(new ElementRef(split.Units[0].Id, element.ElementId), new Decibels(-random.Next(12))));
        }

        split = Layer.Propose(SplitView.Of(split, song), wish).After;
        foreach (var unit in split.Units.Where(u => u.NeedsRestart))
        {
            split = Sessions.After(split, new MarkRestarted(unit.Id));
        }

        return (Sessions.After(split, new SetPass(split.Pass with { Format = SampleFormat.Float32, CountInBars = 0, TailSeconds = 4 })), song);
    }

    private List<(Track Track, float[][] Sides)> Print(Split split, Song song, string name) => PrintedLines.Of(_folder, name, split, song);
}
