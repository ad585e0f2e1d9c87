using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Planning;

/// <summary>The split a session begins with.</summary>
public static class StartingSplit
{
    private const int Buses = 8;

    /// <summary>Units as they are when new, a bank for each, eight buses, and no tracks yet.</summary>
    /// <param name="charts">The sources, one unit each.</param>
    /// <param name="lengthBars">Bars of the body.</param>
    /// <param name="sampleRate">Frames a second.</param>
    public static Split Of(IReadOnlyList<Chart> charts, int lengthBars, SampleRate sampleRate)
    {
        var units = charts.Select((c, i) => Unit.FromChart(new UnitId($"u{i + 1}"), Named(c, charts, i))).ToImmutableArray();
        var banks = ImmutableArray.Create(new Bank(new BankId("buses"), "Bus", BankKind.Buses, Buses, null));
        foreach (var unit in units)
        {
            banks = banks.Insert(banks.Length - 1, BankFor(unit, units.Count(o => o.Chart.Kind == unit.Chart.Kind) > 1, banks));
        }

        return new Split(
            units,
            banks,
            [],
            new PassSettings(lengthBars, 1, null, sampleRate, SampleFormat.Pcm24));
    }

    private static Chart Named(Chart chart, IReadOnlyList<Chart> charts, int index)
    {
        var before = charts.Take(index).Count(c => c.Id == chart.Id);
        return before == 0 ? chart : chart with { Name = $"{chart.Name} {before + 1}" };
    }

    /// <summary>A row of inputs for a source.</summary>
    /// <param name="unit">The source.</param>
    /// <param name="ofMany">True if there are more rows of its kind, so that the label needs the source's first word.</param>
    /// <param name="others">The rows there are: no two bear the same label.</param>
    internal static Bank BankFor(Unit unit, bool ofMany, IEnumerable<Bank> others)
    {
        var (kind, word) = unit.Chart.Kind switch
        {
            SourceKind.PlugIn => (BankKind.PlugInReturns, "Return"),
            SourceKind.Tablet => (BankKind.AppToApp, "App"),
            SourceKind.Recorder => (BankKind.StemBuses, "Stem"),
            _ => (BankKind.Usb, "USB"),
        };
        var taken = others.Select(b => b.Label).ToHashSet(StringComparer.OrdinalIgnoreCase);
        return new Bank(new BankId($"b-{unit.Id}"), Labels(unit.Name, word, ofMany).First(l => l.Length <= Bank.LongestLabel && !taken.Contains(l)), kind, unit.Chart.Channels, unit.Id);
    }

    /// <summary>The labels that a source's row may bear, the shortest first: of copies of one source the number tells them apart.</summary>
    private static IEnumerable<string> Labels(string name, string word, bool ofMany)
    {
        var words = name.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        string[] labels = [word, $"{words[0]} {word}", $"{words[0]} {words[^1]} {word}", $"{name} {word}"];
        return labels.Skip(ofMany ? 1 : 0).Concat(Enumerable.Range(2, SplitRules.MostBanks).Select(n => $"Row {n} {word}"));
    }
}
