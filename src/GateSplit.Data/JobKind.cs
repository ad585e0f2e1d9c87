namespace GateSplit.Data;

/// <summary>Kinds of jobs that make no take; those that do are called as in <see cref="TakeKind"/>.</summary>
public static class JobKind
{
    /// <summary>Says what a take really holds.</summary>
    public const string Proof = "proof";

    /// <summary>Reads a roll call.</summary>
    public const string RollCall = "roll-call";

    /// <summary>Makes the record of a handoff.</summary>
    public const string Handoff = "handoff";

    /// <summary>Brings a whole session in.</summary>
    public const string SessionIn = "session-in";
}
