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
        if (string.IsNullOrWhiteSpace(Bank.Label) || Bank.Label.Length > 40)
        {
            return new Refusal("A row of inputs needs a name of at most 40 letters.");
        }

        if (Bank.Count is < 1 or > Bank.Most || (bank.UnitId is not null && Bank.Count != bank.Count))
        {
            return new Refusal(bank.UnitId is null ? $"A row has 1 to {Bank.Most} inputs." : "This row has as many inputs as its source has channels.");
        }

        if (split.Cables.FirstOrDefault(c => c.Input.BankId == bank.Id && c.Input.Channel > Bank.Count) is { } cable)
        {
            return new Refusal($"A cable is plugged into {bank.Label} {cable.Input.Channel}: pull it first.");
        }

        if (split.Tracks.FirstOrDefault(t => t.Input?.BankId == bank.Id && t.Input.Channel + (int)t.Width - 1 > Bank.Count) is { } track)
        {
            return new Refusal($"{track.Title} listens to {split.InputName(track)}: move it first.");
        }

        if (Bank is not { OutboardDb: >= -60 and <= 30, OutboardDrive: >= 0 and <= 10 } || (bank.Kind != BankKind.Loopback && Bank is not { OutboardDb: 0, OutboardDrive: 0 }))
        {
            return new Refusal("Outboard stands on a looped-back pair, at -60 to +30 dB and with a drive of 0 to 10.");
        }

        if (Bank.OutboardNoiseDb is { } noise && (bank.Kind != BankKind.Loopback || noise is not (>= -140 and <= -30)))
        {
            return new Refusal("The noise of outboard, on a looped-back pair, is -140 to -30 dBFS, or none.");
        }

        return Bank.DelaySamples is >= 0 and <= LongestDelaySamples
            ? Bank with { Id = bank.Id, Kind = bank.Kind, UnitId = bank.UnitId, Label = Bank.Label.Trim(), Off = [.. Bank.Off.Where(i => i <= Bank.Count)] }
            : new Refusal($"The delay of a looped-back pair is 0 to {LongestDelaySamples} samples.");
    }
}
