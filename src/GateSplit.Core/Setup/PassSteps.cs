using System.Collections.Immutable;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;
using static GateSplit.Core.Setup.SetupWords;

namespace GateSplit.Core.Setup;

/// <summary>What is done in each pass, and what is put back at the end.</summary>
internal static class PassSteps
{
    /// <summary>The passes, one after the other.</summary>
    public static IEnumerable<SetupPart> Of(SplitView view)
    {
        var split = view.Split;
        var last = split.Tracks.Select(t => t.Pass).Concat(split.Cables.Select(c => c.Pass ?? 1)).Concat(split.Units.SelectMany(u => u.Elements).Select(e => e.Pass ?? 1)).DefaultIfEmpty(1).Max();
        var first = split.Tracks.Where(IsRecorded).Select(t => t.Pass).DefaultIfEmpty(1).Min();
        for (var pass = 1; pass <= last; pass++)
        {
            var plugs = ConnectionSteps.Plugs(split, pass).ToList();
            var armed = Arm(split, pass);
            yield return new SetupPart(last == 1 ? "Recording" : $"Pass {pass}",
            [
                .. plugs,
                .. Playing(split, pass),
                .. Kept(split, pass),
                .. armed,
                .. armed.IsEmpty ? [] : Recording(view, isFirst: pass == first),
                .. plugs.Count == 0 ? Array.Empty<SetupStep>() : [new SetupStep("Pull what was plugged for this pass.") { Actions = plugs.Sum(p => p.Actions), OneByOne = plugs.Sum(p => p.Actions) }],
            ]);
        }
    }

    /// <summary>What follows the last pass.</summary>
    public static SetupPart Afterwards(SplitView view)
    {
        var split = view.Split;
        return new SetupPart("Afterwards",
        [
            .. split.Tracks.IsEmpty ? Array.Empty<SetupStep>() : [new SetupStep("Switch the monitoring of all tracks off.") { OneByOne = split.Tracks.Length }],
            .. split.Units.Select(u => new SetupStep($"Silence {Quoted(u.Name)}.")),
            new SetupStep("Listen back to every track, and look at where it begins.") { Note = "With the sources silent it sounds as before." },
            new SetupStep("Bring the files in at the station Print: they are cut, named and proved there."),
            .. split.Units.Where(u => u.ModeId != u.Chart.Modes[0].Id).Select(u => new SetupStep($"Put {Quoted(u.Name)} back into the output mode {Quoted(u.Chart.Modes[0].Name)}.")),
        ]);
    }

    private static IEnumerable<SetupStep> Playing(Split split, int pass)
    {
        foreach (var unit in split.Units)
        {
            var told = SourceSteps.Told(unit);
            string[] playing = [.. Enumerable.Range(0, told.Length).Where(i => unit.Elements[i].Pass == pass).Select(i => told[i])];
            if (playing.Length > 0)
            {
                yield return new SetupStep($"On {Quoted(unit.Name)}, let play in this pass alone: {string.Join(", ", playing)}.")
                {
                    Note = "They are muted in the others.",
                    Actions = playing.Length,
                    OneByOne = playing.Length,
                };
            }
        }
    }

    /// <summary>Tracks that belong to a later pass without being recorded in it.</summary>
    private static IEnumerable<SetupStep> Kept(Split split, int pass)
    {
        int[] kept = [.. Enumerable.Range(0, split.Tracks.Length).Where(i => pass > 1 && split.Tracks[i].Pass == pass && !IsRecorded(split.Tracks[i])).Select(i => i + 1)];
        return kept.Length == 0 ? [] : [new SetupStep($"Listen to tracks {Core.Words.Runs(kept)} in this pass; they are not recorded.")];
    }

    private static bool IsRecorded(Track track) => track is { Armed: true, Live: false };

    private static ImmutableArray<SetupStep> Arm(Split split, int pass)
    {
        string Words(bool on) => on ? "Arm" : "Disarm";
        return Column<bool>(
            [.. split.Tracks.Select(_ => false)],
            [.. split.Tracks.Select(t => IsRecorded(t) && t.Pass == pass)],
            s => $"{Words(s.Value)} {SetupWords.Tracks(s)}.",
            "One by one",
            s => $"{(s.Value ? "arm" : "disarm")} {SetupWords.Tracks(s)}");
    }

    private static IEnumerable<SetupStep> Recording(SplitView view, bool isFirst)
    {
        var (split, pass) = (view.Split, view.Split.Pass);
        yield return new SetupStep("Record the roll call, and read it at the station Line check.") { Note = "It tells what really arrives on each track." };
        yield return new SetupStep($"Turn what comes in so that the loudest peaks stand at {Number(pass.TargetPeakDb.Value)} dBFS.");
        foreach (var step in isFirst ? Transport(pass) : [])
        {
            yield return step;
        }

        foreach (var step in Performed(split))
        {
            yield return step;
        }

        string[] byHand = [.. split.Units.Where(u => u.Chart.Clock.Any && u.Clock == ClockMode.Free).Select(u => u.Name)];
        yield return new SetupStep($"Go to bar 1 and record {Core.Words.Count(pass.LengthBars, "bar")}.") { Note = byHand.Length == 0 ? "" : $"Start {Core.Words.List(byHand)} by hand." };
        yield return new SetupStep(pass.TailSeconds is { } tail
            ? $"Stop the sources first, and the recorder {Number(tail)} seconds later."
            : "Stop the sources first, and the recorder when the last sound has gone.");
        yield return new SetupStep("Disarm all tracks.") { OneByOne = Math.Max(1, split.Tracks.Count(IsRecorded)) };
    }

    /// <summary>What is set once, and stays for all passes.</summary>
    private static IEnumerable<SetupStep> Transport(PassSettings pass)
    {
        if (pass.Looped)
        {
            yield return new SetupStep($"Let the sources go round and round from bar 1 to the end of bar {pass.LengthBars}.");
        }

        if (pass.SettleLoops > 0)
        {
            yield return new SetupStep($"Let them go round {Core.Words.Count(pass.SettleLoops, "time")} before recording.") { Note = "Gear that follows a clock locks to it meanwhile." };
        }

        if (pass.StartBar > 1)
        {
            yield return new SetupStep($"Start the sources only in bar {pass.StartBar}.");
        }

        if (pass.CountInBars > 0)
        {
            yield return new SetupStep($"Set a count-in of {Core.Words.Count(pass.CountInBars, "bar")}.");
        }
    }

    /// <summary>What hands do while it records.</summary>
    private static IEnumerable<SetupStep> Performed(Split split)
    {
        string Told(ElementRef element) => $"{SourceSteps.Told(split.Unit(element.UnitId)!)[split.Unit(element.UnitId)!.Elements.IndexOf(split.Unit(element.UnitId)!.Element(element.ElementId))]} of {Quoted(split.Unit(element.UnitId)!.Name)}";
        foreach (var ride in split.Rides)
        {
            yield return new SetupStep($"While it records, ride the {ride.Word} of {Told(ride.Element)}: {string.Join(", ", ride.Points.Select(p => $"bar {Number(p.Bar)} at {Number(p.Value)}"))}.");
        }

        foreach (var step in split.Steps)
        {
            yield return new SetupStep($"While it records, play on {Told(step.Element)}: {step.Words}.");
        }
    }
}
