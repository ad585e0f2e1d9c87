using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;

namespace GateSplit.Data;

/// <summary>A take that is complete and waits to be kept.</summary>
/// <param name="SessionId">The session.</param>
/// <param name="Kind">Print or bring-in.</param>
/// <param name="Revision">The revision of the split it was made with.</param>
/// <param name="Note">A remark.</param>
/// <param name="Tracks">Its tracks in order.</param>
public sealed record NewTake(long SessionId, string Kind, int Revision, string Note, IReadOnlyList<NewTake.Track> Tracks)
{
    /// <summary>The print that a pass belongs to: all passes of one make one take. Null for what is whole by itself.</summary>
    public long? PrintId { get; init; }

    /// <summary>The notes that sounded, as a MIDI file; null if nobody knows.</summary>
    public byte[]? Notes { get; init; }

    /// <summary>One track of it.</summary>
    /// <param name="TrackId">The track of the split.</param>
    /// <param name="Name">Its name then.</param>
    /// <param name="Family">The family of what it carries; null if mixed or nothing.</param>
    /// <param name="Elements">The elements it carries, in words.</param>
    /// <param name="Source">Where it came from, in words.</param>
    /// <param name="Hash">Its file in the audio store.</param>
    /// <param name="Bytes">The size of that file.</param>
    /// <param name="OverviewHash">Its overview in the audio store.</param>
    /// <param name="Measure">What it holds.</param>
    public sealed record Track(
        TrackId TrackId, string Name, string? Family, string Elements, string Source, string Hash, Bytes Bytes, string OverviewHash, FileMeasure Measure)
    {
        /// <summary>Its place in the take, from 1.</summary>
        public int Position { get; init; }

        /// <summary>The pass it was recorded in, from 1.</summary>
        public int Pass { get; init; } = 1;

        /// <summary>A remark, such as that it was stopped early.</summary>
        public string Remark { get; init; } = "";
    }
}
