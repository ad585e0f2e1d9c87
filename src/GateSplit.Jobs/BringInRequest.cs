namespace GateSplit.Jobs;

/// <summary>A recording that waits to be cut.</summary>
/// <param name="Staging">The staging folder it lies in.</param>
/// <param name="FileName">Its name where it came from, for words only.</param>
/// <param name="BankId">The row of inputs its channels are.</param>
public sealed record BringInRequest(string Staging, string FileName, string BankId)
{
    /// <summary>The name of the recording in its staging folder.</summary>
    public const string RecordingName = "recording.wav";
}
