using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Changes what a row of inputs is: its label, its size, which tracks may listen, how it is heard.</summary>
/// <param name="Bank">The bank as it shall be; what belongs to a unit keeps its size.</param>
public sealed record SetBank(Bank Bank) : BankEdit(Bank.Id)
{
    /// <summary>The longest delay of a looped-back pair, in samples.</summary>
    public const int LongestDelaySamples = 48_000;

    /// <inheritdoc/>
    protected override string Name(Bank bank) => bank.Connected == Bank.Connected
        ? $"Change the inputs {bank.Label}"
        : Bank.Connected ? $"Connect {bank.Label}" : $"Disconnect {bank.Label}";

    /// <inheritdoc/>
    protected override Result<Bank> Change(Split split, Bank bank)
    {
        if (split.Cables.FirstOrDefault(c => c.Input.BankId == bank.Id && c.Input.Channel > Bank.Count) is { } cable)
        {
            return new Refusal($"A cable is plugged into {bank.Label} {cable.Input.Channel}: pull it first.");
        }

        if (split.Tracks.FirstOrDefault(t => t.Input?.BankId == bank.Id && t.Input.Channel + (int)t.Width - 1 > Bank.Count) is { } track)
        {
            return new Refusal($"{track.Title} listens to {split.InputName(track)}: move it first.");
        }

        return Bank with { Id = bank.Id, Kind = bank.Kind, UnitId = bank.UnitId, Label = Bank.Label.Trim() };
    }
}
