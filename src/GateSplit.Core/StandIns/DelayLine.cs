namespace GateSplit.Core.StandIns;

/// <summary>One channel that arrives some samples late.</summary>
internal sealed class DelayLine
{
    private readonly int _delay;
    private readonly float[] _samples;
    private int _blockFrames;

    /// <summary>Makes one.</summary>
    /// <param name="delay">Samples.</param>
    /// <param name="mostFrames">The longest block.</param>
    public DelayLine(int delay, int mostFrames)
    {
        _delay = delay;
        _samples = new float[delay + mostFrames];
    }

    /// <summary>What comes out while a block goes in; readable until the next one.</summary>
    public ReadOnlyMemory<float> Process(ReadOnlySpan<float> block)
    {
        _samples.AsSpan(_blockFrames, _delay).CopyTo(_samples);
        block.CopyTo(_samples.AsSpan(_delay));
        _blockFrames = block.Length;
        return _samples.AsMemory(0, block.Length);
    }
}
