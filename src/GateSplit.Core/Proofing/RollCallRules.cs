namespace GateSplit.Core.Proofing;

/// <summary>What a roll call that comes from outside has to be.</summary>
public static class RollCallRules
{
    private const int MostTurns = 10_000;
    private const int MostInputs = 4096;

    /// <summary>True of one that the reader could have made: everything that was called was listened for, on channels that there are.</summary>
    public static bool Hold(RollCallReading reading)
    {
        var call = reading.Call;
        return call.Pass >= 1
            && call.Turns.Length <= MostTurns
            && call.Inputs is { Length: > 0 and <= MostInputs }
            && call.Inputs.All(i => i is { Channel: >= 1 } && i.BankId.Value is not null)
            && call.NotCalled.All(n => Names.FitSentence(n))
            && call.Turns.All(t => Holds(t, call.Inputs.Length))
            && reading.Floors.Length == call.Inputs.Length
            && reading.Turns.Length == call.Turns.Length
            && reading.Turns.Zip(call.Turns).All(both => both.First is { } heard && Same(heard.Turn, both.Second) && Holds(heard, call.Inputs.Length));
    }

    private static bool Holds(Turn? turn, int inputs) => turn is not null
        && !turn.Elements.IsDefaultOrEmpty
        && turn.Elements.All(e => Names.FitId(e.UnitId.Value) && Names.FitId(e.ElementId.Value))
        && Names.FitSentence(turn.Name)
        && turn is { Channel: >= 1 and <= 16, Key: >= 0 and <= 127 }
        && !turn.Hits.IsDefaultOrEmpty
        && turn.Planned.All(p => p is not null && IsInput(p.Channel, inputs));

    private static bool Holds(TurnHeard heard, int inputs) =>
        heard.Arrivals.All(a => a is not null && IsInput(a.Channel, inputs) && a.Polarity is null or 1 or -1)
        && !heard.Signature.IsDefault
        && heard.Signature.All(s => s is >= 0 and <= 1);

    private static bool IsInput(int channel, int inputs) => channel >= 1 && channel <= inputs;

    private static bool Same(Turn? one, Turn other) => one is not null
        && one.Elements.SequenceEqual(other.Elements)
        && one.Planned.SequenceEqual(other.Planned)
        && one.Hits.SequenceEqual(other.Hits)
        && (one.Name, one.Channel, one.Key, one.Held, one.End) == (other.Name, other.Channel, other.Key, other.Held, other.End);
}
