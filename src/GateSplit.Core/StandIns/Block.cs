using GateSplit.Core.Quantities;

namespace GateSplit.Core.StandIns;

/// <summary>A stretch of a pass. Blocks follow each other without a gap, and each is rendered once.</summary>
/// <param name="Number">0-based.</param>
/// <param name="Start">First frame.</param>
/// <param name="Frames">Its length.</param>
public readonly record struct Block(long Number, Frames Start, int Frames)
{
    /// <summary>
    /// Which of two buffers it lies in: while one block is handed on to the next stage, the one after it is rendered.
    /// </summary>
    internal int Side => (int)(Number & 1);
}
