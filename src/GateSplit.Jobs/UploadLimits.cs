using GateSplit.Core.Quantities;

namespace GateSplit.Jobs;

/// <summary>How much may come in and wait to be cut.</summary>
/// <param name="File">The most bytes of one file.</param>
/// <param name="Session">Of all files of a session together.</param>
/// <param name="InAll">Of all sessions together.</param>
public sealed record UploadLimits(Bytes File, Bytes Session, Bytes InAll)
{
    /// <summary>What holds where nothing else is said.</summary>
    public static UploadLimits Default { get; } = new(new(64L << 30), new(128L << 30), new(512L << 30));
}
