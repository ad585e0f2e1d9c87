using System.Collections.Immutable;
using System.Globalization;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Proofing;

/// <summary>What a roll call says beside what the split says: a sentence for each turn, and the edits that let tracks listen where elements really arrive.</summary>
public static class RollCallFindings
{
    private static readonly Decibels TooHot = new(-1);
    private static readonly Decibels TooLow = new(-40);
    private const double LateBeside = 0.001; // s
    private const double OtherTime = 0.0001; // s

    /// <summary>One sentence for a turn.</summary>
    /// <param name="split">The split.</param>
    /// <param name="reading">The roll call.</param>
    /// <param name="heard">The turn.</param>
    public static string Sentence(Split split, RollCallReading reading, TurnHeard heard)
    {
        var name = heard.Turn.Name;
        if (heard.Arrivals.IsEmpty)
        {
            return heard.Turn.Planned.Any(p => p.Direct)
                ? $"{name} is heard nowhere; it should be on {Inputs(split, reading, heard.Turn.Planned.Where(p => p.Direct).Select(p => p.Channel))}. Is a cable missing, or its output not set?"
                : $"{name} is heard nowhere, and by the split no input takes it.";
        }

        var loudest = heard.Arrivals[0];
        return string.Join(' ', [Where(split, reading, heard), .. IsPutRight(split, reading, heard) ? ["Its track listens there by now."] : Array.Empty<string>(), .. Sides(split, reading, heard), .. Levels(heard, loudest), .. Times(reading, heard)]);
    }

    /// <summary>Everything of a source that arrives on one pair: its outputs are not separate, whatever else is told of each.</summary>
    /// <param name="split">The split.</param>
    /// <param name="reading">The roll call.</param>
    /// <returns>A sentence for each such source, with the setting to make.</returns>
    public static IEnumerable<string> Causes(Split split, RollCallReading reading) => Caused(split, reading).Select(c => c.Sentence);

    private static IEnumerable<(UnitId Unit, string Sentence)> Caused(Split split, RollCallReading reading)
    {
        foreach (var unit in split.Units)
        {
            var turns = reading.Turns.Where(t => t.Turn.Elements[0].UnitId == unit.Id).ToList();
            var heard = turns.Where(t => !t.Arrivals.IsEmpty).ToList();
            var places = heard.Select(t => string.Join(',', t.Main.Select(a => a.Channel).Order())).Distinct().ToList();
            var wrong = heard.Count(t => !t.AsPlanned);
            if (heard.Count > 1 && places.Count == 1 && wrong > heard.Count / 2)
            {
                var settings = unit.Chart.Settings.Where(s => s.Effect is SettingEffect.MainOnly or SettingEffect.AllInMain).Select(s => s.What).ToList();
                var toDo = settings.Count > 0 ? $"Make the setting: {string.Join("; ", settings)}" : unit.NeedsRestart ? "Restart it, so that its mode counts." : $"Set its mode to {unit.Mode.Name}.";
                yield return (unit.Id, $"Everything of {unit.Name} arrives on {Inputs(split, reading, heard[0].Main.Select(a => a.Channel))}: its outputs are not separate. {toDo}");
            }
            else if (turns.Count > 1 && heard.Count == 0)
            {
                yield return (unit.Id, $"Nothing of {unit.Name} is heard: is it on, connected, and does it take the notes?");
            }
        }
    }

    /// <summary>The edit that lets the tracks of one turn listen where it is heard.</summary>
    /// <param name="split">The split.</param>
    /// <param name="reading">The roll call.</param>
    /// <param name="heard">The turn.</param>
    /// <returns>Null where it is as planned, or where no edit helps.</returns>
    public static Edit? Fix(Split split, RollCallReading reading, TurnHeard heard) =>
        Moves(split, reading, heard) switch
        {
            [] => null,
            [var only] => only,
            var several => new Several($"Listen to {heard.Turn.Name} where it is heard", [.. several]),
        };

    /// <summary>One edit for all that can be put right without touching a cable.</summary>
    /// <param name="split">The split.</param>
    /// <param name="reading">The roll call.</param>
    /// <returns>Null where there is nothing of the kind.</returns>
    public static Edit? FixAll(Split split, RollCallReading reading)
    {
        // Where a whole source is not set, its tracks listen in the right places already.
        var caused = Caused(split, reading).Select(c => c.Unit).ToHashSet();
        var moves = reading.Turns.Where(t => !caused.Contains(t.Turn.Elements[0].UnitId)).SelectMany(t => Moves(split, reading, t)).DistinctBy(m => m.TrackId).ToImmutableArray();
        return moves.IsEmpty ? null : new Several("Listen where the roll call heard them", [.. moves]);
    }

    /// <summary>A recording's channels as the recorder names its inputs.</summary>
    public static string Inputs(Split split, RollCallReading reading, IEnumerable<int> channels) =>
        Words.List([.. channels.Order().Select(c => InputName(split, reading, c))]);

    private static string InputName(Split split, RollCallReading reading, int channel) =>
        channel <= reading.Call.Inputs.Length && reading.Call.Inputs[channel - 1] is { } input && split.Bank(input.BankId) is { } bank ? bank.InputName(input.Channel, Width.Mono) : $"channel {channel}";

    /// <summary>True of a turn that is heard elsewhere than the split says, but whose tracks listen there by now.</summary>
    /// <param name="split">The split.</param>
    /// <param name="reading">The roll call.</param>
    /// <param name="heard">The turn.</param>
    public static bool IsPutRight(Split split, RollCallReading reading, TurnHeard heard)
    {
        var extra = heard.Extra.ToHashSet();
        return !heard.AsPlanned && extra.Count > 0 && MeantTracks(split, reading, heard).ToList() is { Count: > 0 } tracks && tracks.TrueForAll(t => ChannelsOf(reading, t).TrueForAll(extra.Contains));
    }

    private static ImmutableArray<SetTrackInput> Moves(Split split, RollCallReading reading, TurnHeard heard)
    {
        if (heard.AsPlanned || heard.Arrivals.IsEmpty || IsPutRight(split, reading, heard))
        {
            return [];
        }

        // What arrives in its place beside, as in a main mix, is no reason to move a track.
        var missing = heard.Missing.Order().ToList();
        var extra = heard.Extra.Order().Where(c => c <= reading.Call.Inputs.Length).ToList();
        var moves = ImmutableArray.CreateBuilder<SetTrackInput>();
        foreach (var track in MeantTracks(split, reading, heard))
        {
            var channels = ChannelsOf(reading, track);
            if (channels.SequenceEqual(missing) && extra.Count == channels.Count && extra[^1] - extra[0] == extra.Count - 1
                && new SetTrackInput(track.Id, reading.Call.Inputs[extra[0] - 1]) is var move && move.Apply(split).Ok)
            {
                moves.Add(move);
            }
        }

        return moves.ToImmutable();
    }

    /// <summary>The armed tracks that are meant for a turn; where none is meant for it alone, those that listen where it should be.</summary>
    private static IEnumerable<Track> MeantTracks(Split split, RollCallReading reading, TurnHeard heard)
    {
        var armed = split.Tracks.Where(t => t.Armed && t.Input is not null && t.Pass == reading.Call.Pass).ToList();
        var meant = armed.Where(t => t.MeantFor.Any(m => m.Element is { } element && heard.Turn.Elements.Contains(element))).ToList();
        var missing = heard.Missing.Order().ToList();
        return meant.Count > 0 ? meant : armed.Where(t => t.MeantFor.All(m => m.Element is null) && ChannelsOf(reading, t).SequenceEqual(missing));
    }

    private static List<int> ChannelsOf(RollCallReading reading, Track track) =>
        [.. Enumerable.Range(track.Input!.Channel, (int)track.Width).Select(c => reading.Call.Inputs.IndexOf(track.Input with { Channel = c }) + 1)];

    private static string Where(Split split, RollCallReading reading, TurnHeard heard)
    {
        var name = heard.Turn.Name;
        var main = heard.Main.Select(a => a.Channel).Order().ToList();
        var (missing, extra) = (heard.Missing.ToList(), heard.Extra.ToList());
        string On(IEnumerable<int> channels) => Inputs(split, reading, channels);
        if (missing.Count == 0 && extra.Count == 0)
        {
            return $"{name} arrives on {On(main.Where(c => heard.Turn.Planned.Any(p => p.Direct && p.Channel == c)).DefaultIfEmpty(main[0]))}, as planned.";
        }

        if (missing.Count == 0)
        {
            return heard.Turn.Planned.IsEmpty ? $"{name} arrives on {On(main)}, where no one asked for it." : $"{name} arrives on {On(extra)} as well as on {On(heard.Turn.Planned.Where(p => p.Direct).Select(p => p.Channel))}.";
        }

        if (extra.Count == 0)
        {
            return $"{name} is missing on {On(missing)}: one side of it does not arrive.";
        }

        return reading.Turns.FirstOrDefault(o => o != heard && o.Extra.Intersect(missing).Any() && o.Missing.Intersect(extra).Any()) is { } other
            ? $"{name} arrives on {On(extra)} instead of {On(missing)}, in the place of {other.Turn.Name}: two cables or inputs are exchanged."
            : $"{name} arrives on {On(extra)} instead of {On(missing)}.";
    }

    private static IEnumerable<string> Sides(Split split, RollCallReading reading, TurnHeard heard)
    {
        foreach (var arrival in heard.Main.Skip(1).Where(a => a.Polarity < 0 && heard.Turn.Planned.Any(p => p.Direct && p.Channel == a.Channel)))
        {
            yield return $"On {Inputs(split, reading, [arrival.Channel])} it is upside down against {Inputs(split, reading, [heard.Arrivals[0].Channel])}.";
        }

        if (heard.AsPlanned && heard.Turn.Planned.Where(p => p.Direct).ToList() is [var left, var right] && Math.Abs((left.Gain - right.Gain).Value) > 6
            && heard.Arrivals.FirstOrDefault(a => a.Channel == left.Channel) is { } one && heard.Arrivals.FirstOrDefault(a => a.Channel == right.Channel) is { } two
            && Math.Sign((left.Gain - right.Gain).Value) != Math.Sign((one.Level - two.Level).Value))
        {
            yield return "Its sides are exchanged.";
        }
    }

    private static IEnumerable<string> Levels(TurnHeard heard, Arrival loudest)
    {
        if (heard.Arrivals.Any(a => a.Clips))
        {
            yield return "It clips: turn it down before the converter.";
        }
        else if (heard.Arrivals.Max(a => a.Peak) > TooHot)
        {
            yield return $"It is too hot: {Dbfs(heard.Arrivals.Max(a => a.Peak))} at full strength.";
        }
        else if (loudest.Peak < TooLow)
        {
            yield return $"It is low: {Dbfs(loudest.Peak)} at full strength.";
        }
    }

    private static IEnumerable<string> Times(RollCallReading reading, TurnHeard heard)
    {
        if (heard.BesideSeconds is { } beside && Math.Abs(beside) >= LateBeside && reading.StartSeconds is not null)
        {
            yield return string.Create(CultureInfo.InvariantCulture, $"It comes {Math.Abs(beside) * 1000:0.0} ms {(beside > 0 ? "later" : "earlier")} than the others.");
        }

        foreach (var arrival in heard.Main.Skip(1).Where(a => Math.Abs(a.LatencySeconds ?? 0) >= OtherTime && heard.Turn.Planned.Any(p => p.Direct && p.Channel == a.Channel) && heard.Turn.Elements.Length == 1))
        {
            yield return string.Create(CultureInfo.InvariantCulture, $"Channel {arrival.Channel} of it is {Math.Abs(arrival.LatencySeconds!.Value) * 1000:0.0} ms {(arrival.LatencySeconds > 0 ? "later" : "earlier")}.");
        }
    }

    private static string Dbfs(Decibels level) => level.ToString().Replace("dB", "dBFS", StringComparison.Ordinal);
}
