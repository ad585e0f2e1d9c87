using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>A recording whose levels are measured while somebody reads it once from its start to its end.</summary>
/// <param name="from">The recording.</param>
public sealed class MeasuredRecording(IRecording from) : IRecording
{
    private readonly ChannelMeter[] _meters = [.. Enumerable.Range(0, from.Format.Channels).Select(_ => new ChannelMeter())];
    private float[] _samples = [];

    /// <inheritdoc/>
    public AudioFormat Format => from.Format;

    /// <inheritdoc/>
    public Frames Frames => from.Frames;

    /// <inheritdoc/>
    public int Read(Frames startFrame, Span<byte> into)
    {
        var frames = from.Read(startFrame, into);
        Array.Resize(ref _samples, Math.Max(_samples.Length, frames));
        for (var channel = 0; channel < _meters.Length; channel++)
        {
            SampleCodec.Decode(into, Format, channel, _samples.AsSpan(0, frames));
            _meters[channel].Add(_samples.AsSpan(0, frames));
        }

        return frames;
    }

    /// <summary>The levels of what was read, one a channel.</summary>
    public ImmutableArray<ChannelLevels> Levels() => [.. _meters.Select(m => m.Result())];
}
