namespace GateSplit.Core.Sound;

/// <summary>
/// Writes one WAVE file of a length known beforehand, beside its final name (".part"); only <see cref="TakeName"/>
/// gives it its name, and a writer that is disposed before leaves nothing behind.
/// </summary>
public sealed class WaveWriter : IDisposable
{
    private readonly string _path;
    private readonly FileStream _stream;
    private readonly BroadcastInfo? _broadcast;
    private readonly int _headerBytes;
    private readonly long _dataBytes;
    private long _written;
    private bool _complete;

    /// <summary>Creates the part file and writes its header.</summary>
    /// <param name="path">The final name; its folder exists.</param>
    /// <param name="format">The shape of the samples.</param>
    /// <param name="frames">Frames that will be written.</param>
    /// <param name="broadcast">The bext chunk, or null.</param>
    /// <exception cref="IOException">The disk refuses.</exception>
    public WaveWriter(string path, AudioFormat format, long frames, BroadcastInfo? broadcast)
    {
        _path = path;
        Format = format;
        _dataBytes = frames * format.BytesPerFrame;
        var header = WaveHeader.Build(format, frames, broadcast);
        _broadcast = broadcast;
        _headerBytes = header.Length;
        _stream = new FileStream(NewFile.Begin(PartPath, header.Length + _dataBytes), FileAccess.Write, bufferSize: 0);
        _stream.Write(header);
    }

    /// <summary>The shape of the samples.</summary>
    public AudioFormat Format { get; }

    private string PartPath => _path + ".part";

    /// <summary>Appends whole interleaved frames.</summary>
    public void Write(ReadOnlySpan<byte> frames)
    {
        _stream.Write(frames);
        _written += frames.Length;
    }

    /// <summary>Writes out and closes the file; it has its final name only after <see cref="TakeName"/>.</summary>
    /// <exception cref="InvalidOperationException">Not as many frames were written as promised.</exception>
    /// <exception cref="IOException">The disk refuses the last bytes.</exception>
    public void Finish()
    {
        if (_written != _dataBytes)
        {
            throw new InvalidOperationException($"{_written} bytes of samples were written where {_dataBytes} were promised.");
        }

        if ((_dataBytes & 1) == 1)
        {
            _stream.WriteByte(0);
        }

        _stream.Dispose();
    }

    /// <summary>Like <see cref="Finish"/>, for a recording that was stopped early: the file is as long as what was written.</summary>
    /// <exception cref="IOException">The disk refuses the last bytes.</exception>
    public void FinishEarly()
    {
        var frames = _written / Format.BytesPerFrame;
        var header = WaveHeader.Build(Format, frames, _broadcast);
        if (header.Length != _headerBytes)
        {
            header = WaveHeader.Build(Format, frames, _broadcast, large: true);
        }

        if ((_written & 1) == 1)
        {
            _stream.WriteByte(0);
        }

        _stream.SetLength(_headerBytes + _written + (_written & 1));
        _stream.Position = 0;
        _stream.Write(header);
        _stream.Dispose();
    }

    /// <summary>Gives the finished file its final name.</summary>
    public void TakeName()
    {
        File.Move(PartPath, _path, overwrite: true);
        _complete = true;
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        if (!_complete)
        {
            try
            {
                _stream.Dispose();
            }
            catch (IOException)
            {
                // A full disk refuses the last buffered bytes; the part file goes all the same.
            }

            File.Delete(PartPath);
            _complete = true;
        }
    }
}
