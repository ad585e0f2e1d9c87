using GateSplit.Core.Quantities;

namespace GateSplit.Data;

/// <summary>What a pass printed, or what was brought in.</summary>
/// <param name="Id">The take.</param>
/// <param name="SessionId">Its session.</param>
/// <param name="Number">Counted from 1 within the session.</param>
/// <param name="Kind">Print or bring-in.</param>
/// <param name="Revision">The revision of the split it was made with.</param>
/// <param name="Note">A remark.</param>
/// <param name="CreatedAt">When.</param>
/// <param name="Tracks">Its tracks in order.</param>
public sealed record Take(
    long Id, long SessionId, int Number, string Kind, int Revision, string Note, DateTime CreatedAt, IReadOnlyList<TakeTrack> Tracks)
{
    /// <summary>Of all its files together.</summary>
    public Bytes Size => new(Tracks.Sum(t => t.Bytes.Count));
}
