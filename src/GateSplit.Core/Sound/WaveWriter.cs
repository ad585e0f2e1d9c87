using System.Buffers;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>
/// Writes one WAVE file of a length known beforehand, beside its final name (".part"); only <see cref="TakeName"/>
/// gives it its name, and a writer that is disposed before leaves nothing behind.
/// </summary>
public sealed class WaveWriter : IBufferWriter<byte>, IDisposable
{
    /// <summary>The file is written in pieces of this length: whole pages, which cost the system least.</summary>
    private const int PieceBytes = 1 << 17;

    private readonly string _path;
    private readonly FileStream _stream;
    private readonly FileLabel? _label;
    private readonly int _headerBytes;
    private readonly Bytes _dataBytes;
    private byte[] _bytes = new byte[PieceBytes]; // of the file, not yet written
    private int _waiting;
    private Bytes _appended; // samples
    private bool _complete;

    /// <summary>Creates the part file and writes its header.</summary>
    /// <param name="path">The final name; its folder exists.</param>
    /// <param name="format">The shape of the samples.</param>
    /// <param name="frames">Frames that will be written.</param>
    /// <param name="label">What the file says of itself; null for nothing.</param>
    /// <exception cref="IOException">The disk refuses.</exception>
    public WaveWriter(string path, AudioFormat format, Frames frames, FileLabel? label)
    {
        _path = path;
        Format = format;
        _dataBytes = format.Bytes(frames);
        var header = WaveHeader.Build(format, frames, label);
        _label = label;
        _headerBytes = header.Length;
        _stream = new FileStream(NewFile.Begin(PartPath, header.Length + _dataBytes), FileAccess.Write, bufferSize: 0);
        Put(header);
    }

    /// <summary>The shape of the samples.</summary>
    public AudioFormat Format { get; }

    private string PartPath => _path + ".part";

    /// <summary>Appends whole interleaved frames.</summary>
    /// <exception cref="IOException">The disk refuses.</exception>
    public void Write(ReadOnlySpan<byte> frames)
    {
        Put(frames);
        _appended += frames.Length;
    }

    /// <summary>Space for the interleaved frames that come next, at least so many bytes.</summary>
    public Span<byte> GetSpan(int sizeHint = 0) => GetMemory(sizeHint).Span;

    /// <inheritdoc cref="GetSpan"/>
    public Memory<byte> GetMemory(int sizeHint = 0)
    {
        var needed = _waiting + Math.Max(1, sizeHint);
        if (needed > _bytes.Length)
        {
            Array.Resize(ref _bytes, needed + PieceBytes);
        }

        return _bytes.AsMemory(_waiting);
    }

    /// <summary>Appends so many bytes of what stands in the space that was asked for last.</summary>
    /// <exception cref="IOException">The disk refuses.</exception>
    public void Advance(int count)
    {
        _waiting += count;
        _appended += count;
        WritePieces();
    }

    /// <summary>Writes out and closes the file; it has its final name only after <see cref="TakeName"/>.</summary>
    /// <exception cref="InvalidOperationException">Not as many frames were written as promised.</exception>
    /// <exception cref="IOException">The disk refuses the last bytes.</exception>
    public void Finish()
    {
        if (_appended != _dataBytes)
        {
            throw new InvalidOperationException($"{_appended.Count} bytes of samples were written where {_dataBytes.Count} were promised.");
        }

        WriteRest();
        _stream.Dispose();
    }

    /// <summary>Like <see cref="Finish"/>, for a recording that was stopped early: the file is as long as what was written.</summary>
    /// <exception cref="IOException">The disk refuses the last bytes.</exception>
    public void FinishEarly()
    {
        var frames = Format.Frames(_appended);
        var header = WaveHeader.Build(Format, frames, _label);
        if (header.Length != _headerBytes)
        {
            header = WaveHeader.Build(Format, frames, _label, large: true);
        }

        WriteRest();
        _stream.SetLength(_stream.Position);
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

    private void Put(ReadOnlySpan<byte> bytes)
    {
        bytes.CopyTo(GetSpan(bytes.Length));
        _waiting += bytes.Length;
        WritePieces();
    }

    private void WritePieces()
    {
        if (_waiting >= PieceBytes)
        {
            var whole = _waiting - _waiting % PieceBytes;
            _stream.Write(_bytes, 0, whole);
            _bytes.AsSpan(whole, _waiting - whole).CopyTo(_bytes);
            _waiting -= whole;
        }
    }

    /// <summary>Writes what is left, and the byte that makes the length of the samples even.</summary>
    private void WriteRest()
    {
        if ((_appended.Count & 1) == 1)
        {
            Put([0]);
        }

        _stream.Write(_bytes, 0, _waiting);
        _waiting = 0;
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
