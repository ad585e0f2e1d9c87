using GateSplit.Core.Quantities;

namespace GateSplit.Data;

/// <summary>A row of the list of sessions.</summary>
/// <param name="Id">The session.</param>
/// <param name="Name">Its name.</param>
/// <param name="Revision">The revision its split is at.</param>
/// <param name="UpdatedAt">When it last changed.</param>
/// <param name="Sources">Its sources in words.</param>
/// <param name="Tracks">How many tracks its split has.</param>
/// <param name="ToMend">How many findings should be mended.</param>
/// <param name="IsKnown">False if nobody has looked at this revision with today's checks; the three before it mean nothing then.</param>
/// <param name="Takes">How many takes it has.</param>
/// <param name="AudioBytes">The size of the audio in them.</param>
public sealed record SessionSummary(
    long Id, string Name, int Revision, DateTime UpdatedAt, string Sources, int Tracks, int ToMend, bool IsKnown, long Takes, Bytes AudioBytes)
{
    /// <summary>The same with what somebody saw who looked at the split.</summary>
    public SessionSummary With(SplitSummary seen) => this with { Sources = seen.Sources, Tracks = seen.Tracks, ToMend = seen.ToMend, IsKnown = true };
}
