using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>A recording as the bytes of a WAVE file that is made while it is read, from any place. Reading only.</summary>
public sealed class WaveStream : Stream
{
    private readonly IRecording _from;
    private readonly byte[] _head;
    private readonly byte[] _foot;
    private readonly long _bodyBytes;
    private readonly IDisposable _owned;

    /// <summary>Begins at the first byte.</summary>
    /// <param name="from">The recording.</param>
    /// <param name="owned">Closed with the stream: what the recording reads from.</param>
    public WaveStream(IRecording from, IDisposable owned)
    {
        _from = from;
        _owned = owned;
        _head = WaveHeader.Build(from.Format, from.Frames, null);
        _foot = new byte[from.Format.Bytes(from.Frames).Count & 1];
        _bodyBytes = from.Format.Bytes(from.Frames).Count;
    }

    /// <summary>Where the first sample is.</summary>
    /// <param name="format">Of a recording of this shape</param>
    /// <param name="frames">and of this length.</param>
    public static Bytes DataOffset(AudioFormat format, Frames frames) => new(WaveHeader.Build(format, frames, null).Length);

    /// <inheritdoc/>
    public override bool CanRead => true;

    /// <inheritdoc/>
    public override bool CanSeek => true;

    /// <inheritdoc/>
    public override bool CanWrite => false;

    /// <inheritdoc/>
    public override long Length => _head.Length + _bodyBytes + _foot.Length;

    /// <inheritdoc/>
    public override long Position { get; set; }

    /// <inheritdoc/>
    public override int Read(Span<byte> buffer)
    {
        var read = Position < _head.Length ? Part(_head, Position, buffer)
            : Position < _head.Length + _bodyBytes ? Body(Position - _head.Length, buffer)
            : Part(_foot, Position - _head.Length - _bodyBytes, buffer);
        Position += read;
        return read;
    }

    /// <inheritdoc/>
    public override int Read(byte[] buffer, int offset, int count) => Read(buffer.AsSpan(offset, count));

    /// <inheritdoc/>
    public override long Seek(long offset, SeekOrigin origin) => Position = origin switch
    {
        SeekOrigin.Begin => offset,
        SeekOrigin.Current => Position + offset,
        _ => Length + offset,
    };

    /// <inheritdoc/>
    public override void Flush()
    {
        // Nothing is written.
    }

    /// <inheritdoc/>
    public override void SetLength(long value) => throw new NotSupportedException();

    /// <inheritdoc/>
    public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    /// <inheritdoc/>
    protected override void Dispose(bool disposing)
    {
        if (disposing)
        {
            _owned.Dispose();
        }

        base.Dispose(disposing);
    }

    private static int Part(byte[] of, long at, Span<byte> into)
    {
        var count = (int)Math.Min(into.Length, Math.Max(0, of.Length - at));
        of.AsSpan((int)Math.Min(at, of.Length), count).CopyTo(into);
        return count;
    }

    /// <summary>Bytes of the samples; they may begin and end within a frame.</summary>
    private int Body(long at, Span<byte> into)
    {
        var frame = _from.Format.BytesPerFrame;
        var (first, within) = (at / frame, (int)(at % frame));
        if (within == 0 && into.Length >= frame)
        {
            return _from.Read(new Frames(first), into[..(into.Length / frame * frame)]) * frame;
        }

        Span<byte> one = new byte[frame];
        _from.Read(new Frames(first), one);
        var count = Math.Min(into.Length, frame - within);
        one.Slice(within, count).CopyTo(into);
        return count;
    }
}
