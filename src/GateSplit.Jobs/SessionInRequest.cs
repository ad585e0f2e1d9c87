namespace GateSplit.Jobs;

/// <summary>A session that waits to be brought in.</summary>
/// <param name="Staging">The folder of the upload that it came by.</param>
public sealed record SessionInRequest(string Staging);
