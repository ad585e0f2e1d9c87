namespace GateSplit.Data;

/// <summary>A template that was kept.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Version">The number of the version that was made.</param>
public sealed record KeptTemplate(long Id, int Version);
