namespace GateSplit.Core.Splits;

/// <summary>A place in a bank: an input channel, or the first of a pair; "b-u1:3" in forms.</summary>
/// <param name="BankId">The bank.</param>
/// <param name="Channel">1-based.</param>
public sealed record InputRef(BankId BankId, int Channel)
{
    /// <summary>Reads what <see cref="ToString"/> writes; null for anything else.</summary>
    public static InputRef? Read(string? text) =>
        text?.Split(':') is [{ Length: > 0 } bank, var channel] && int.TryParse(channel, out var number) ? new InputRef(new BankId(bank), number) : null;

    /// <inheritdoc/>
    public override string ToString() => $"{BankId}:{Channel}";
}
