using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>Says in a sentence what a walked line does otherwise than the split says.</summary>
public static class WalkVerdict
{
    /// <summary>The sentence; null for a line that is as the split says.</summary>
    /// <param name="split">The split.</param>
    /// <param name="line">The line.</param>
    /// <param name="all">All lines that were walked, to find two in each other's place.</param>
    public static string? Of(Split split, WalkedLine line, IEnumerable<WalkedLine> all)
    {
        if (line.Agrees)
        {
            return null;
        }

        var name = split.NameOf(line.Element);
        var missing = Names(split, line, t => t.Meant && !t.Arrived);
        var extra = Names(split, line, t => t.Arrived && !t.Meant);
        if (missing.Count > 0 && extra.Count > 0)
        {
            return all.FirstOrDefault(o => o != line && o.Pass == line.Pass && Names(split, o, t => t.Arrived && !t.Meant).Intersect(missing).Any()
                    && Names(split, o, t => t.Meant && !t.Arrived).Intersect(extra).Any()) is { } other
                ? $"{name} and {split.NameOf(other.Element)} are in each other's place: {name} arrives on {Words.List(extra)}. Two cables or two inputs are swapped."
                : $"{name} arrives on {Words.List(extra)} instead of {Words.List(missing)}.";
        }

        if (missing.Count > 0)
        {
            return $"{name} does not arrive on {Words.List(missing)}: {Where(split, line)}";
        }

        var meant = Names(split, line, t => t.Meant);
        if (extra.Count > 0 && all.FirstOrDefault(o => o != line && o.Pass == line.Pass && Names(split, o, t => t.Meant).Intersect(extra).Any()
                && Names(split, o, t => t.Arrived && !t.Meant).Intersect(meant).Any()) is { } mixed)
        {
            return $"{name} and {split.NameOf(mixed.Element)} each arrive on the other's track as well: one side of each is in the other's place.";
        }

        if (extra.Count > 0)
        {
            return $"{name} arrives on {Words.List(extra)} as well, of which the split says nothing.";
        }

        var off = line.Tracks.First(t => !t.Agrees);
        var by = off.Measured.Value - off.Predicted.Value;
        return $"{name} arrives on {split.Track(off.TrackId)!.Title} {Math.Abs(by):0.0} dB {(by > 0 ? "louder" : "quieter")} than the split says.";
    }

    private static List<string> Names(Split split, WalkedLine line, Func<WalkedTrack, bool> which) =>
        [.. line.Tracks.Where(which).Select(t => split.Track(t.TrackId)!.Title)];

    private static string Where(Split split, WalkedLine line)
    {
        var unit = split.Unit(line.Element.UnitId)!;
        return line.Ports switch
        {
            [] when line.Source <= WalkedTrack.Silent => $"{unit.Name} does not play it.",
            [] => $"nothing of it stands at any port of {unit.Name}.",
            [var only] when only.Port == unit.Chart.MainPort.Number => $"it leaves {unit.Name} by the main mix only.",
            var ports => $"it leaves {unit.Name} by {(ports.Length == 1 ? "port" : "ports")} {Words.List([.. ports.Select(p => $"{p.Port}")])}, and nobody takes it there.",
        };
    }
}
