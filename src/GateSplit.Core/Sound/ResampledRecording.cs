using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>A recording at another sample rate, made while it is read, as 32 bit float. Not for several threads.</summary>
public sealed class ResampledRecording : IRecording
{
    /// <summary>Always the same frames are reckoned together, so that rounding is the same from wherever they are read.</summary>
    private const int BlockFrames = 8192;

    private readonly IRecording _from;
    private readonly Resampler _resampler;
    private readonly float[] _made = new float[BlockFrames];
    private readonly byte[] _block;
    private byte[] _bytes = [];
    private float[] _input = [];
    private long _held = -1;

    /// <summary>Begins with nothing read.</summary>
    /// <param name="from">The recording.</param>
    /// <param name="sampleRate">Its frames a second from now on.</param>
    public ResampledRecording(IRecording from, SampleRate sampleRate)
    {
        _from = from;
        _resampler = new Resampler(from.Format.SampleRate, sampleRate);
        Format = new AudioFormat(from.Format.Channels, sampleRate, SampleFormat.Float32);
        Frames = _resampler.FramesOf(from.Frames);
        _block = new byte[BlockFrames * Format.BytesPerFrame];
    }

    /// <inheritdoc/>
    public AudioFormat Format { get; }

    /// <inheritdoc/>
    public Frames Frames { get; }

    /// <inheritdoc/>
    public int Read(Frames startFrame, Span<byte> into)
    {
        var size = Format.BytesPerFrame;
        var count = (int)Math.Clamp((Frames - startFrame).Count, 0, into.Length / size);
        for (var done = 0; done < count;)
        {
            var (block, within) = (startFrame + done).In(BlockFrames);
            if (block != _held)
            {
                Make(new Frames(block * BlockFrames));
                _held = block;
            }

            var frames = Math.Min(count - done, BlockFrames - within);
            _block.AsSpan(within * size, frames * size).CopyTo(into[(done * size)..]);
            done += frames;
        }

        return count;
    }

    private void Make(Frames at)
    {
        var frames = (int)Frames.Min(BlockFrames, Frames - at).Count;
        var (start, needed) = _resampler.Needed(at, frames);
        Array.Resize(ref _input, Math.Max(_input.Length, needed));
        Array.Resize(ref _bytes, Math.Max(_bytes.Length, needed * _from.Format.BytesPerFrame));
        var before = (int)Math.Clamp(-start.Count, 0, needed);
        var read = _from.Read(start + before, _bytes.AsSpan(0, (needed - before) * _from.Format.BytesPerFrame));
        for (var channel = 0; channel < Format.Channels; channel++)
        {
            _input.AsSpan(0, needed).Clear();
            SampleCodec.Decode(_bytes.AsSpan(0, read * _from.Format.BytesPerFrame), _from.Format, channel, _input.AsSpan(before, read));
            _resampler.Fill(at, _input.AsSpan(0, needed), _made.AsSpan(0, frames));
            SampleCodec.Encode(_made.AsSpan(0, frames), Format, channel, _block);
        }
    }
}
