namespace GateSplit.Cli;

/// <summary>What the commands return to the shell.</summary>
internal static class ExitCodes
{
    /// <summary>All went well, nothing found.</summary>
    public const int Good = 0;

    /// <summary>Findings, or input that cannot be used.</summary>
    public const int Bad = 1;

    /// <summary>The command was called wrongly.</summary>
    public const int Usage = 2;
}
