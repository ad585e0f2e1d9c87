namespace GateSplit.Data;

/// <summary>How the proof of a session's newest take stands.</summary>
/// <param name="Made">True if there is one.</param>
/// <param name="Running">True if it waits or runs.</param>
/// <param name="ToMend">What it finds that should be mended and is not meant so.</param>
/// <param name="OnTrial">True if a mend is on trial: it is neither kept nor taken back.</param>
public sealed record ProofState(bool Made, bool Running, long ToMend, bool OnTrial);
