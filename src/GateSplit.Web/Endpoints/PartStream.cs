namespace GateSplit.Web.Endpoints;

/// <summary>Lets through one stretch of all that is written to it.</summary>
/// <param name="to">Where that goes.</param>
/// <param name="from">Bytes that are left out before it.</param>
/// <param name="count">Its length.</param>
/// <param name="complete">Called once it has gone out.</param>
internal sealed class PartStream(Stream to, long from, long count, Action complete) : Stream
{
    private long _at;

    /// <summary>True once the stretch has gone out.</summary>
    public bool IsComplete => _at >= from + count;

    /// <inheritdoc/>
    public override bool CanRead => false;

    /// <inheritdoc/>
    public override bool CanSeek => false;

    /// <inheritdoc/>
    public override bool CanWrite => true;

    /// <inheritdoc/>
    public override long Length => throw new NotSupportedException();

    /// <inheritdoc/>
    public override long Position
    {
        get => throw new NotSupportedException();
        set => throw new NotSupportedException();
    }

    /// <inheritdoc/>
    public override void Write(ReadOnlySpan<byte> buffer)
    {
        var (start, length) = Within(buffer.Length);
        if (length > 0)
        {
            to.Write(buffer.Slice(start, length));
        }

        Passed(buffer.Length);
    }

    /// <inheritdoc/>
    public override void Write(byte[] buffer, int offset, int count) => Write(buffer.AsSpan(offset, count));

    /// <inheritdoc/>
    public override async ValueTask WriteAsync(ReadOnlyMemory<byte> buffer, CancellationToken cancellationToken = default)
    {
        var (start, length) = Within(buffer.Length);
        if (length > 0)
        {
            await to.WriteAsync(buffer.Slice(start, length), cancellationToken);
        }

        Passed(buffer.Length);
    }

    /// <inheritdoc/>
    public override Task WriteAsync(byte[] buffer, int offset, int count, CancellationToken cancellationToken) => WriteAsync(buffer.AsMemory(offset, count), cancellationToken).AsTask();

    /// <inheritdoc/>
    public override void Flush() => to.Flush();

    /// <inheritdoc/>
    public override Task FlushAsync(CancellationToken cancellationToken) => to.FlushAsync(cancellationToken);

    /// <inheritdoc/>
    public override int Read(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    /// <inheritdoc/>
    public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

    /// <inheritdoc/>
    public override void SetLength(long value) => throw new NotSupportedException();

    private (int Start, int Length) Within(int length)
    {
        var start = Math.Clamp(from - _at, 0, length);
        return ((int)start, (int)Math.Clamp(from + count - _at - start, 0, length - start));
    }

    private void Passed(int length)
    {
        var before = IsComplete;
        _at += length;
        if (!before && IsComplete)
        {
            complete();
        }
    }
}
