namespace GateSplit.Core.Splits;

/// <summary>A cable, or a routing inside the computer, from one channel of a source's gate to one input.</summary>
/// <param name="UnitId">The source.</param>
/// <param name="Channel">Channel of its gate, from 1.</param>
/// <param name="Input">Where it is plugged in.</param>
/// <param name="Pass">The only pass in which it is plugged in; null for all.</param>
public sealed record Cable(UnitId UnitId, int Channel, InputRef Input, int? Pass = null)
{
    /// <summary>Its end at the recorder as forms have it: "in1:3", or "in1:3 2" for one of pass 2 alone.</summary>
    public string Plug => Pass is { } pass ? $"{Input} {pass}" : $"{Input}";

    /// <summary>Reads what <see cref="Plug"/> writes; null for anything else.</summary>
    public static (InputRef Input, int? Pass)? ReadPlug(string text) => text.Split(' ') switch
    {
        [var input] when InputRef.Read(input) is { } at => (at, null),
        [var input, var pass] when InputRef.Read(input) is { } at && int.TryParse(pass, out var only) => (at, only),
        _ => null,
    };

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(Split split, string place)
    {
        if (Input is null || split.Unit(UnitId) is not { } unit || split.Bank(Input.BankId) is not { } bank)
        {
            yield return new Misfit(place, $"A cable leads from {UnitId} {Channel} to {Input?.BankId} {Input?.Channel}, and one of them is not there.");
            yield break;
        }

        if (!bank.TakesCables)
        {
            yield return new Misfit(place, $"No cable fits into {bank.Label}: choose sockets or a looped-back pair.");
        }

        if (Channel < 1 || Channel > unit.Chart.Channels)
        {
            yield return new Misfit(place, $"A cable leads from {UnitId} {Channel}: {unit.Name} has the channels 1 to {unit.Chart.Channels}.");
        }

        if (!split.HasInput(Input))
        {
            yield return new Misfit(place, $"{bank.Label} has the inputs 1 to {bank.Count}.");
        }

        if (Pass is < 1 or > SplitRules.MostPasses)
        {
            yield return new Misfit(place, $"A pass is 1 to {SplitRules.MostPasses}.");
        }
    }
}
