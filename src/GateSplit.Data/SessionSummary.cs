using GateSplit.Core.Quantities;

namespace GateSplit.Data;

/// <summary>A row of the list of sessions.</summary>
/// <param name="Id">The session.</param>
/// <param name="Name">Its name.</param>
/// <param name="Revision">The revision its split is at.</param>
/// <param name="UpdatedAt">When it last changed.</param>
/// <param name="Takes">How many takes it has.</param>
/// <param name="AudioBytes">The size of the audio in them.</param>
public sealed record SessionSummary(long Id, string Name, int Revision, DateTime UpdatedAt, long Takes, Bytes AudioBytes);
