using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using Microsoft.Win32.SafeHandles;

namespace GateSplit.Core.Sound;

/// <summary>
/// Cuts a many-channel recording into one file a line. Samples are copied as they are stored and never go through
/// numbers, so every file is bit-exact; memory is a few blocks, whatever the length.
/// </summary>
public static class ChannelCutter
{
    private const int BlockBytes = 1 << 21;

    /// <summary>So much of a block is picked apart for all lines at a time that it stays in the first-level cache.</summary>
    private const int TileBytes = 1 << 14;

    /// <summary>Three-byte samples are copied four bytes at a time; the last one may touch one byte more.</summary>
    private const int Slack = 4;

    /// <summary>Cuts. Files get their names only when all of them are complete; otherwise nothing is left behind.</summary>
    /// <param name="recording">The open recording.</param>
    /// <param name="lines">What goes where.</param>
    /// <param name="broadcast">Makes the bext chunk of a line's file, or gives null for none.</param>
    /// <param name="threads">Threads to cut with.</param>
    /// <param name="progress">Told the share done, 0 to 1; may be null.</param>
    /// <param name="cancel">Stops and leaves nothing behind.</param>
    /// <returns>A sentence if a line asks for a channel that is not there; otherwise null.</returns>
    /// <exception cref="IOException">The disk refuses.</exception>
    public static string? Cut(
        WaveReader recording,
        IReadOnlyList<CutLine> lines,
        Func<CutLine, BroadcastInfo?> broadcast,
        int threads = 2,
        IProgress<double>? progress = null,
        CancellationToken cancel = default)
    {
        var format = recording.Format;
        foreach (var line in lines)
        {
            foreach (var channel in line.Channels.Where(c => c < 1 || c > format.Channels))
            {
                return $"{line.Track} asks for channel {channel}, but the recording has {Words.Count(format.Channels, "channel")}.";
            }
        }

        var outs = new List<Out>();
        try
        {
            foreach (var line in lines)
            {
                outs.Add(new Out(line, format, recording.Frames, broadcast(line)));
            }

            CopyBlocks(recording, outs, threads, progress, cancel);
            foreach (var file in outs)
            {
                file.Complete();
            }

            foreach (var file in outs)
            {
                file.TakeName();
            }
        }
        finally
        {
            foreach (var file in outs)
            {
                file.Dispose();
            }
        }

        return null;
    }

    private static void CopyBlocks(
        WaveReader recording, List<Out> outs, int threads, IProgress<double>? progress, CancellationToken cancel)
    {
        var blockFrames = Math.Max(1, BlockBytes / recording.Format.BytesPerFrame);
        var tileFrames = Math.Max(1, TileBytes / recording.Format.BytesPerFrame);
        var blocks = (recording.Frames + blockFrames - 1) / blockFrames;
        long next = -1;
        long done = 0;
        var workers = new ParallelOptions { MaxDegreeOfParallelism = threads, CancellationToken = cancel };
        Parallel.For(0, threads, workers, _ =>
        {
            var source = new byte[blockFrames * recording.Format.BytesPerFrame + Slack];
            var picked = outs.Select(o => new byte[blockFrames * o.BytesPerFrame + Slack]).ToArray();
            long block;
            while ((block = Interlocked.Increment(ref next)) < blocks)
            {
                cancel.ThrowIfCancellationRequested();
                var start = block * blockFrames;
                var frames = recording.Read(start, source.AsSpan(0, source.Length - Slack));
                if (frames < Math.Min(blockFrames, recording.Frames - start))
                {
                    throw new EndOfStreamException("The recording became shorter while it was being cut.");
                }

                for (var tile = 0; tile < frames; tile += tileFrames)
                {
                    for (var i = 0; i < outs.Count; i++)
                    {
                        outs[i].Pick(source, picked[i], tile, Math.Min(tileFrames, frames - tile));
                    }
                }

                // Neighbouring blocks begin with different files, so that two threads seldom wait for the same one.
                for (var i = 0; i < outs.Count; i++)
                {
                    var turn = (int)((i + block % 2 * (outs.Count / 2)) % outs.Count);
                    outs[turn].Write(picked[turn], frames, start);
                }

                progress?.Report((double)Interlocked.Increment(ref done) / blocks);
            }
        });
    }

    /// <summary>Copies one channel's samples from interleaved frames to interleaved frames.</summary>
    private static void Pick(
        ReadOnlySpan<byte> from, int fromStep, Span<byte> to, int toStep, int frames, int width)
    {
        ref var source = ref MemoryMarshal.GetReference(@from);
        ref var target = ref MemoryMarshal.GetReference(to);
        nint read = 0, write = 0;
        switch (width)
        {
            case 1:
                for (var i = 0; i < frames; i++, read += fromStep, write += toStep)
                {
                    Unsafe.Add(ref target, write) = Unsafe.Add(ref source, read);
                }

                break;
            case 2:
                for (var i = 0; i < frames; i++, read += fromStep, write += toStep)
                {
                    Copy<ushort>(ref source, read, ref target, write);
                }

                break;
            case 3 when toStep == 3:
                // The fourth byte belongs to the next sample, which is written after it.
                for (var i = 0; i < frames; i++, read += fromStep, write += 3)
                {
                    Copy<uint>(ref source, read, ref target, write);
                }

                break;
            case 3:
                for (var i = 0; i < frames; i++, read += fromStep, write += toStep)
                {
                    Copy<ushort>(ref source, read, ref target, write);
                    Unsafe.Add(ref target, write + 2) = Unsafe.Add(ref source, read + 2);
                }

                break;
            case 4:
                for (var i = 0; i < frames; i++, read += fromStep, write += toStep)
                {
                    Copy<uint>(ref source, read, ref target, write);
                }

                break;
            default:
                for (var i = 0; i < frames; i++, read += fromStep, write += toStep)
                {
                    Copy<ulong>(ref source, read, ref target, write);
                }

                break;
        }
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static void Copy<T>(ref byte source, nint read, ref byte target, nint write)
        where T : unmanaged =>
        Unsafe.WriteUnaligned(ref Unsafe.Add(ref target, write), Unsafe.ReadUnaligned<T>(ref Unsafe.Add(ref source, read)));

    /// <summary>One file being written, by several threads at known places.</summary>
    private sealed class Out : IDisposable
    {
        private readonly CutLine _line;
        private readonly AudioFormat _from;
        private readonly AudioFormat _to;
        private readonly SafeFileHandle _file;
        private readonly int _headerBytes;
        private readonly long _frames;
        private bool _named;

        public Out(CutLine line, AudioFormat recorded, long frames, BroadcastInfo? broadcast)
        {
            _line = line;
            _from = recorded;
            _to = recorded with { Channels = line.Channels.Length };
            _frames = frames;
            _file = File.OpenHandle(PartPath, FileMode.Create, FileAccess.Write, FileShare.None);
            var header = WaveHeader.Build(_to, frames, broadcast);
            _headerBytes = header.Length;
            RandomAccess.Write(_file, header, 0);
        }

        private string PartPath => _line.Path + ".part";

        public int BytesPerFrame => _to.BytesPerFrame;

        /// <summary>Picks this line's samples out of some frames of a block.</summary>
        public void Pick(byte[] source, byte[] picked, int firstFrame, int frames)
        {
            var width = _from.BytesPerSample;
            for (var i = 0; i < _line.Channels.Length; i++)
            {
                ChannelCutter.Pick(
                    source.AsSpan(firstFrame * _from.BytesPerFrame + (_line.Channels[i] - 1) * width),
                    _from.BytesPerFrame,
                    picked.AsSpan(firstFrame * _to.BytesPerFrame + i * width),
                    _to.BytesPerFrame,
                    frames,
                    width);
            }
        }

        /// <summary>Writes what was picked out of a block to its place in the file.</summary>
        public void Write(byte[] picked, int frames, long startFrame) =>
            RandomAccess.Write(_file, picked.AsSpan(0, frames * _to.BytesPerFrame), _headerBytes + startFrame * _to.BytesPerFrame);

        public void Complete()
        {
            var dataBytes = _frames * _to.BytesPerFrame;
            if ((dataBytes & 1) == 1)
            {
                RandomAccess.Write(_file, [0], _headerBytes + dataBytes);
            }

            _file.Dispose();
        }

        public void TakeName()
        {
            File.Move(PartPath, _line.Path, overwrite: true);
            _named = true;
        }

        public void Dispose()
        {
            _file.Dispose();
            if (!_named)
            {
                File.Delete(PartPath);
            }
        }
    }
}
