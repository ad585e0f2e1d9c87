using System.Text.Json.Serialization;

namespace GateSplit.Core.Proofing;

/// <summary>One correction of a take that changes no printed file.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "mend")]
[JsonDerivedType(typeof(MoveTake), "moveTake")]
[JsonDerivedType(typeof(MoveTrack), "moveTrack")]
[JsonDerivedType(typeof(TurnPolarity), "turnPolarity")]
[JsonDerivedType(typeof(ExchangeNames), "exchangeNames")]
[JsonDerivedType(typeof(ExchangeSides), "exchangeSides")]
[JsonDerivedType(typeof(MakeMono), "makeMono")]
[JsonDerivedType(typeof(ChangeGain), "changeGain")]
[JsonDerivedType(typeof(RemoveDc), "removeDc")]
[JsonDerivedType(typeof(Trim), "trim")]
public abstract record Mend
{
    /// <summary>What it does, in words.</summary>
    /// <param name="take">The take before it.</param>
    public abstract string Name(MendedTake take);

    /// <summary>Does it.</summary>
    /// <param name="take">The take before it.</param>
    /// <returns>The take after it, or why it cannot be done.</returns>
    public abstract Result<MendedTake> Apply(MendedTake take);
}
