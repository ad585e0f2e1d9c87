using GateSplit.Core.Signal;

namespace GateSplit.Core.StandIns;

/// <summary>One way by which sound arrives on a track: late over a looped-back pair, and bent by the outboard on it.</summary>
/// <param name="left">The left side of a block where it comes from.</param>
/// <param name="right">The right side; the same as the left of a mono port or track.</param>
/// <param name="gain">From those two to the two sides of the track.</param>
/// <param name="delaySamples">Samples by which it arrives late.</param>
/// <param name="drive">How hard outboard bends it; 0 for not at all.</param>
/// <param name="mostFrames">The longest stretch.</param>
internal sealed class DeskFeed(
    Func<Block, ReadOnlyMemory<float>> left, Func<Block, ReadOnlyMemory<float>> right, Gain2x2 gain, int delaySamples, double drive, int mostFrames)
{
    private readonly DelayLine[] _late = delaySamples == 0 ? [] : [new(delaySamples, mostFrames), new(delaySamples, mostFrames)];

    /// <summary>What arrives in a stretch of a block, and at which gain it is to be mixed. Readable until the next stretch.</summary>
    /// <param name="block">The block.</param>
    /// <param name="from">Where in it the stretch begins; it follows the one before.</param>
    /// <param name="frames">Its length.</param>
    public (ReadOnlyMemory<float> Left, ReadOnlyMemory<float> Right, Gain2x2 Gain) Next(Block block, int from, int frames)
    {
        var (fromLeft, fromRight) = (left(block).Slice(from, frames), right(block).Slice(from, frames));
        if (_late.Length > 0)
        {
            (fromLeft, fromRight) = (_late[0].Process(fromLeft.Span), _late[1].Process(fromRight.Span));
        }

        // Outboard bends what it gets, at the level at which it gives it back.
        return drive == 0
            ? (fromLeft, fromRight, gain)
            : (Driven(fromLeft.Span, gain.Largest), Driven(fromRight.Span, gain.Largest), 1 / gain.Largest * gain);
    }

    private float[] Driven(ReadOnlySpan<float> samples, double level)
    {
        float[] driven = [.. samples];
        foreach (ref var sample in driven.AsSpan())
        {
            sample *= (float)level;
        }

        Drive.Apply(driven, (float)drive);
        return driven;
    }
}
