using GateSplit.Core.Splits;

namespace GateSplit.Core.Planning;

/// <summary>What of the files that are brought in goes to a track.</summary>
/// <param name="TrackId">The track.</param>
/// <param name="File">Which file, counted from 0.</param>
/// <param name="Channel">Its first channel, from 1; a stereo track takes the next one too.</param>
/// <param name="Why">How it was found: "by its name", "by the channel's name", "by the input", "in order".</param>
public sealed record BroughtLine(TrackId TrackId, int File, int Channel, string Why);
