namespace GateSplit.Data;

/// <summary>Where a take came from.</summary>
public static class TakeKind
{
    /// <summary>Printed here.</summary>
    public const string Print = "print";

    /// <summary>Recorded elsewhere and brought in.</summary>
    public const string BringIn = "bring-in";
}
