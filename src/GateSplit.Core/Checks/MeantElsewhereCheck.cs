using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>
/// A track that hears something else than what it is meant for: exchanged lines, lines that are off by the same step, the wrong side of a
/// pair, a neighbour's row of inputs. Judged by what arrives, never by names.
/// </summary>
public sealed class MeantElsewhereCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        bool Matters(Track track) => track.Armed || track.Heard || !track.MeantFor.IsEmpty || view.IsMissed(track);
        var all = view.Split.Tracks.Where(Matters).Select(t => WantedLine.Of(view, t)).OfType<WantedLine>().OrderBy(l => l.Wanted.Channel).ToList();
        var wrong = all.Where(l => !l.IsRight).ToList();
        foreach (var (there, back) in ExchangedRows([.. InStep(wrong)]).Where(r => r.There.TrueForAll(wrong.Contains) && r.Back.TrueForAll(wrong.Contains)))
        {
            yield return RowsExchanged(view, there, back);
            wrong = [.. wrong.Except(there).Except(back)];
        }

        foreach (var circle in Circles(wrong))
        {
            yield return Exchanged(view, circle);
            wrong = [.. wrong.Except(circle)];
        }

        foreach (var run in InStep(wrong).ToList())
        {
            yield return OffByStep(view, run, [.. all.Where(l => l.Unit.Id == run[0].Unit.Id)]);
            wrong = [.. wrong.Except(run)];
        }

        foreach (var line in wrong)
        {
            yield return Alone(view, line);
        }
    }

    /// <summary>Lines that listen to each other's inputs and to no other's.</summary>
    private static IEnumerable<List<WantedLine>> Circles(List<WantedLine> wrong)
    {
        var byWanted = wrong.GroupBy(l => l.Wanted).Where(g => g.Count() == 1).ToDictionary(g => g.Key, g => g.First());
        var seen = new HashSet<WantedLine>();
        foreach (var first in wrong)
        {
            var circle = new List<WantedLine>();
            for (var line = first; line?.Track.Input is { } input && seen.Add(line); line = byWanted.GetValueOrDefault(input))
            {
                circle.Add(line);
            }

            if (circle.Count > 1 && circle[^1].Track.Input == first.Wanted)
            {
                yield return circle;
            }
        }
    }

    /// <summary>Lines of a source that are all off by the same step, on one row of inputs.</summary>
    private static IEnumerable<List<WantedLine>> InStep(List<WantedLine> wrong) => wrong
        .Where(l => l.Track.Input is not null)
        .GroupBy(l => (l.Unit.Id, l.Track.Input!.BankId, l.Wanted.BankId, l.Step))
        .Where(g => g.Count() > 1)
        .Select(g => g.ToList());

    /// <summary>Runs of two sources of which each listens to the row of the other.</summary>
    private static IEnumerable<(List<WantedLine> There, List<WantedLine> Back)> ExchangedRows(List<List<WantedLine>> runs) =>
        from there in runs
        from back in runs.Skip(runs.IndexOf(there) + 1)
        where there[0].Unit.Id != back[0].Unit.Id && there[0].Wanted.BankId != back[0].Wanted.BankId
            && there[0].Track.Input!.BankId == back[0].Wanted.BankId && back[0].Track.Input!.BankId == there[0].Wanted.BankId
        select (there, back);

    private static Finding RowsExchanged(SplitView view, List<WantedLine> there, List<WantedLine> back)
    {
        var lines = there.Concat(back).ToList();
        var (one, other) = (there[0], back[0]);
        var (label, fix) = Fix(view, lines);
        return Finding.Warning(
                Place.Of(one.Unit),
                $"The rows of {one.Unit.Name} and {other.Unit.Name} are exchanged: {Words.Count(there.Count, "line")} of {one.Unit.Name} listen to {Row(view, one.Track.Input!)} and {Words.Count(back.Count, "line")} of {other.Unit.Name} to {Row(view, other.Track.Input!)}. Each file would hold the other source.")
            .Naming(lines.Select(l => l.Track.Title))
            .WithFix(label, fix)
            .AndAbout(lines.Select(l => Place.Of(l.Track)));
    }

    private static string Row(SplitView view, InputRef input) => view.Split.Bank(input.BankId)!.Label;

    private static Finding Exchanged(SplitView view, List<WantedLine> circle)
    {
        var titles = circle.Select(l => l.Track.Title).ToList();
        var sentence = circle is [var one, var other]
            ? $"{titles[0]} listens to {one.Listens(view)}, where {other.What(view)} arrives, and {titles[1]} to {other.Listens(view)}, where {one.What(view)} arrives: each file would hold the other."
            : $"{Words.List(titles)} listen to each other's inputs: {titles[0]} hears {Heard(view, circle[0])}, and so on. Each file would hold another.";
        var (label, fix) = Fix(view, circle);
        return Finding.Warning(Place.Of(circle[0].Track), sentence).Naming(titles).WithFix(label, fix).AndAbout(circle.Skip(1).Select(l => Place.Of(l.Track)));
    }

    private static Finding OffByStep(SplitView view, List<WantedLine> run, List<WantedLine> all)
    {
        var (first, unit, count, step) = (run[0], run[0].Unit, Words.Count(run.Count, "line"), run[0].Step);
        var isOneRun = all.IndexOf(run[^1]) - all.IndexOf(first) == run.Count - 1;
        var which = run.Count == all.Count ? $"All {count} of {unit.Name}"
            : isOneRun && run[^1] == all[^1] ? $"From {first.Track.Title} on, {count} of {unit.Name}"
            : isOneRun ? $"{first.Track.Title} to {run[^1].Track.Title}, {count} of {unit.Name},"
            : $"{Words.List([.. run.Select(l => l.Track.Title)])} of {unit.Name}";
        var elsewhere = first.Track.Input!.BankId != first.Wanted.BankId;
        var off = elsewhere ? $"listen to {Row(view, first.Track.Input)}"
            : $"sit {Words.Count(Math.Abs(step), "input")} too {(step > 0 ? "high" : "low")}";
        var why = elsewhere ? $"{unit.Name} arrives on {Row(view, first.Wanted)}."
            : run.Count == all.Count ? $"The main mix was perhaps counted {(step > 0 ? "twice" : "as the first of them")}."
            : "A number was perhaps skipped, or counted twice.";
        var (label, fix) = Fix(view, run);
        return Finding.Warning(
                Place.Of(unit),
                $"{which} {off}: {first.Track.Title} listens to {first.Listens(view)}{first.But(view)} arrives on {first.Arrives(view)}. {why}")
            .Naming(run.Select(l => l.Track.Title))
            .WithFix(label, fix)
            .AndAbout(run.Select(l => Place.Of(l.Track)));
    }

    private static Finding Alone(SplitView view, WantedLine line)
    {
        var (title, what) = (line.Track.Title, line.What(view));
        var sentence = line.Track.Input is null
            ? $"{title} has no input: {what} arrives on {line.Arrives(view)}."
            : line.IsOnOtherSide
                ? $"{title} listens to {line.Listens(view)}, but {what} leaves by the {(line.Side == 0 ? "left" : "right")} side of port {line.Port.Number}, which arrives on {line.Arrives(view)}."
                : $"{title} listens to {line.Listens(view)}, where {Heard(view, line)} arrives: {what} arrives on {line.Arrives(view)}.";
        var (label, fix) = Fix(view, [line]);
        return Finding.Warning(Place.Of(line.Track), sentence).WithFix(label, fix);
    }

    private static string Heard(SplitView view, WantedLine line) => Words.List([.. view.SoundingIn(line.Track).Select(view.Split.NameOf)], most: 3);

    /// <summary>Inputs are moved, or ports where that leaves the split in better order and merges nothing: fewer lines out of turn, fewer gaps.</summary>
    private static (string Label, Edit Fix) Fix(SplitView view, List<WantedLine> lines)
    {
        var inputs = new Several("Put lines on the inputs where they arrive", [.. lines.Select(l => new SetTrackInput(l.Track.Id, l.Wanted))]);
        var byInputs = (Label(lines, l => $"Put {l.Track.Title} on {l.Arrives(view)}", "inputs"), (Edit)inputs);
        var ports = lines.Select(l => (Line: l, Port: l.PortThatArrives(view))).ToList();
        if (ports.Any(p => p.Port is null))
        {
            return byInputs;
        }

        var assigned = new Several("Give elements the ports that arrive where their tracks listen", [.. ports.Select(p => new AssignPort(p.Line.Element, p.Port!.Number))]);
        return inputs.Apply(view.Split) is { Ok: true, Value: var moved } && assigned.Apply(view.Split) is { Ok: true, Value: var sent }
            && Disorder.Of(sent) < Disorder.Of(moved) && !Merges(view.On(sent)).Except(Merges(view)).Any()
            ? (Label(lines, l => $"Send {view.Split.NameOf(l.Element)} to port {ports[0].Port!.Number}", "ports"), assigned)
            : byInputs;
    }

    private static IEnumerable<string> Merges(SplitView view) => new MergedCheck().Look(view).Concat(new DoubledCheck().Look(view)).Select(f => f.Sentence);

    private static string Label(List<WantedLine> lines, Func<WantedLine, string> one, string what) => lines.Count switch
    {
        1 => one(lines[0]),
        2 when lines[0].Track.Input == lines[1].Wanted && lines[1].Track.Input == lines[0].Wanted => $"Exchange their {what}",
        var count => $"Put the {what} of {count} lines right",
    };
}
