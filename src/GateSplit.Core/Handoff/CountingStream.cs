namespace GateSplit.Core.Handoff;

/// <summary>Counts what is written to it and keeps nothing.</summary>
internal sealed class CountingStream : Stream
{
    private long _length;

    /// <inheritdoc/>
    public override bool CanRead => false;

    /// <inheritdoc/>
    public override bool CanSeek => false;

    /// <inheritdoc/>
    public override bool CanWrite => true;

    /// <inheritdoc/>
    public override long Length => _length;

    /// <inheritdoc/>
    public override long Position
    {
        get => _length;
        set => throw new NotSupportedException();
    }

    /// <inheritdoc/>
    public override void Write(ReadOnlySpan<byte> buffer) => _length += buffer.Length;

    /// <inheritdoc/>
    public override void Write(byte[] buffer, int offset, int count) => _length += count;

    /// <inheritdoc/>
    public override ValueTask WriteAsync(ReadOnlyMemory<byte> buffer, CancellationToken cancellationToken = default)
    {
        _length += buffer.Length;
        return ValueTask.CompletedTask;
    }

    /// <inheritdoc/>
    public override void Flush()
    {
        // Nothing is kept.
    }

    /// <inheritdoc/>
    public override int Read(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    /// <inheritdoc/>
    public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

    /// <inheritdoc/>
    public override void SetLength(long value) => throw new NotSupportedException();
}
