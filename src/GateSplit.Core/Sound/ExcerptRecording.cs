using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>A stretch of a recording, bit by bit; silence where it reaches beyond its ends.</summary>
/// <param name="from">The recording.</param>
/// <param name="start">Its first frame in that; may lie before it.</param>
/// <param name="frames">Its length.</param>
public sealed class ExcerptRecording(IRecording from, Frames start, Frames frames) : IRecording
{
    private const byte MiddleOf8Bit = 0x80;

    /// <inheritdoc/>
    public AudioFormat Format => from.Format;

    /// <inheritdoc/>
    public Frames Frames => frames;

    /// <inheritdoc/>
    public int Read(Frames startFrame, Span<byte> into)
    {
        var size = Format.BytesPerFrame;
        var count = (int)Math.Clamp((frames - startFrame).Count, 0, into.Length / size);
        var wanted = into[..(count * size)];
        wanted.Fill(Format.Sample == SampleFormat.Pcm8 ? MiddleOf8Bit : (byte)0);
        var at = start + startFrame;
        var before = (int)Math.Clamp(-at.Count, 0, count);
        if (before < count && at + before < from.Frames)
        {
            from.Read(at + before, wanted[(before * size)..]);
        }

        return count;
    }
}
