using System.Collections.Immutable;
using GateSplit.Core.Charts;
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
    public static Split Of(IReadOnlyList<Chart> charts, int lengthBars, int sampleRate)
    {
        var units = charts.Select((c, i) => Unit.FromChart($"u{i + 1}", Named(c, charts, i))).ToImmutableArray();
        return new Split(
            units,
            [
                .. units.Select(u => new Bank($"b-{u.Id}", Label(u, units), KindFor(u.Chart.Kind), u.Chart.Channels, u.Id)),
                new Bank("buses", "Bus", BankKind.Buses, Buses, null),
            ],
            [],
            new PassSettings(lengthBars, 1, null, sampleRate, SampleFormat.Pcm24));
    }

    private static BankKind KindFor(SourceKind source) => source switch
    {
        SourceKind.PlugIn => BankKind.PlugInReturns,
        SourceKind.Tablet => BankKind.AppToApp,
        SourceKind.Recorder => BankKind.StemBuses,
        _ => BankKind.Usb,
    };

    private static Chart Named(Chart chart, IReadOnlyList<Chart> charts, int index)
    {
        var before = charts.Take(index).Count(c => c.Id == chart.Id);
        return before == 0 ? chart : chart with { Name = $"{chart.Name} {before + 1}" };
    }

    /// <summary>"USB" or "Return" where there is only one such row, with the unit's first word where there are more.</summary>
    private static string Label(Unit unit, ImmutableArray<Unit> units)
    {
        var word = unit.Chart.Kind switch
        {
            SourceKind.PlugIn => "Return",
            SourceKind.Tablet => "App",
            SourceKind.Recorder => "Stem",
            _ => "USB",
        };
        return units.Count(u => u.Chart.Kind == unit.Chart.Kind) == 1 ? word : $"{unit.Name.Split(' ')[0]} {word}";
    }
}
