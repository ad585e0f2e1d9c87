using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;
using System.Runtime.Intrinsics.X86;
using GateSplit.Core.Quantities;
using Microsoft.Win32.SafeHandles;

namespace GateSplit.Core.Sound;

/// <summary>
/// Cuts a many-channel recording into one file a line. Samples are copied as they are stored and never go through
/// numbers, so every file is bit-exact; memory is a few blocks, whatever the length.
/// </summary>
public static class ChannelCutter
{
    /// <summary>So much is picked apart before it is written, in one stretch a line.</summary>
    private const int BlockBytes = 1 << 21;

    /// <summary>So much is read at a time that it is still in the second-level cache when it is picked apart.</summary>
    private const int ReadBytes = 1 << 18;

    /// <summary>So much of a block is picked apart for all lines at a time that most of it stays in the first-level cache.</summary>
    private const int TileBytes = 1 << 14;

    /// <summary>Three-byte samples are copied in fours; the last copy may touch some bytes more.</summary>
    private const int Slack = 16;

    /// <summary>Cuts. Files get their names only when all of them are complete; otherwise nothing is left behind.</summary>
    /// <param name="recording">The open recording.</param>
    /// <param name="lines">What goes where.</param>
    /// <param name="label">What the file says of itself; null for nothing.</param>
    /// <param name="threads">Threads to cut with.</param>
    /// <param name="progress">Told the share done, 0 to 1; may be null.</param>
    /// <param name="cancel">Stops and leaves nothing behind.</param>
    /// <returns>A sentence if a line asks for a channel that is not there; otherwise null.</returns>
    /// <exception cref="IOException">The disk refuses.</exception>
    public static string? Cut(
        WaveReader recording,
        IReadOnlyList<CutLine> lines,
        Func<CutLine, FileLabel?> label,
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
                outs.Add(new Out(line, format, recording.Frames, label(line)));
            }

            CopyBlocks(recording, [.. outs], threads, progress, cancel);
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
        WaveReader recording, Out[] outs, int threads, IProgress<double>? progress, CancellationToken cancel)
    {
        // Whole tiles of whole fours, so that only the last one of the recording is picked apart frame by frame.
        var tileFrames = Math.Max(4, (TileBytes / recording.Format.BytesPerFrame) & ~3);
        var readFrames = tileFrames * Math.Max(1, ReadBytes / (tileFrames * recording.Format.BytesPerFrame));
        var blockFrames = readFrames * Math.Max(1, BlockBytes / (readFrames * recording.Format.BytesPerFrame));
        var neighbours = Enumerable.Range(0, outs.Length).Select(i => AreNeighbours([.. outs.Skip(i).Take(4)])).ToArray();
        var blocks = (recording.Frames.Count + blockFrames - 1) / blockFrames;
        long next = -1;
        long done = 0;
        var workers = new ParallelOptions { MaxDegreeOfParallelism = threads, CancellationToken = cancel };
        Parallel.For(0, threads, workers, _ =>
        {
            var source = new byte[readFrames * recording.Format.BytesPerFrame + Slack];
            var picked = outs.Select(o => new byte[blockFrames * o.BytesPerFrame + Slack]).ToArray();
            long block;
            while ((block = Interlocked.Increment(ref next)) < blocks)
            {
                cancel.ThrowIfCancellationRequested();
                var start = new Frames(block * blockFrames);
                var frames = (int)Frames.Min(blockFrames, recording.Frames - start).Count;
                for (var at = 0; at < frames; at += readFrames)
                {
                    var wanted = Math.Min(readFrames, frames - at);
                    if (recording.Read(start + at, source.AsSpan(0, wanted * recording.Format.BytesPerFrame)) < wanted)
                    {
                        throw new EndOfStreamException("The recording became shorter while it was being cut.");
                    }

                    for (var tile = 0; tile < wanted; tile += tileFrames)
                    {
                        PickTile(outs, neighbours, source, tile, picked, at + tile, Math.Min(tileFrames, wanted - tile));
                    }
                }

                // Neighbouring blocks begin with different files, so that two threads seldom wait for the same one.
                for (var i = 0; i < outs.Length; i++)
                {
                    var turn = (int)((i + block % 2 * (outs.Length / 2)) % outs.Length);
                    outs[turn].Write(picked[turn], frames, start);
                }

                progress?.Report((double)Interlocked.Increment(ref done) / blocks);
            }
        });
    }

    /// <summary>Picks a tile apart for all lines.</summary>
    /// <remarks>Compiled to the end at once: a short cut would be over before the compiler came back to it.</remarks>
    [MethodImpl(MethodImplOptions.AggressiveOptimization)]
    private static void PickTile(Out[] outs, bool[] neighbours, byte[] source, int sourceFrame, byte[][] picked, int pickedFrame, int frames)
    {
        for (var i = 0; i < outs.Length;)
        {
            if (neighbours[i])
            {
                outs[i].PickFour(source, sourceFrame, picked.AsSpan(i, 4), pickedFrame, frames);
                i += 4;
            }
            else
            {
                outs[i].Pick(source, sourceFrame, picked[i], pickedFrame, frames);
                i++;
            }
        }
    }

    /// <summary>True of four lines of one channel each that lie side by side, with samples of three bytes.</summary>
    private static bool AreNeighbours(Out[] lines) =>
        Ssse3.IsSupported && lines.Length == 4 && lines.All(l => l.BytesPerFrame == 3)
        && Enumerable.Range(1, 3).All(i => lines[i].FirstChannel == lines[0].FirstChannel + i);

    /// <summary>
    /// Four frames of four neighbouring channels at a time: sixteen samples of three bytes are turned like a matrix,
    /// by rows and then by columns.
    /// </summary>
    [MethodImpl(MethodImplOptions.AggressiveOptimization)]
    private static void PickFour(ReadOnlySpan<byte> from, int fromStep, Span<byte> to0, Span<byte> to1, Span<byte> to2, Span<byte> to3, int frames)
    {
        const byte none = 255;
        var spread = Vector128.Create(0, 1, 2, none, 3, 4, 5, none, 6, 7, 8, none, 9, 10, 11, none);
        var pack = Vector128.Create(0, 1, 2, 4, 5, 6, 8, 9, 10, 12, 13, 14, none, none, none, none);
        ref var source = ref MemoryMarshal.GetReference(@from);
        nint read = 0;
        var write = 0;
        for (var i = 0; i < frames; i += 4, read += 4 * fromStep, write += 12)
        {
            var frame0 = Spread(ref source, read, spread);
            var frame1 = Spread(ref source, read + fromStep, spread);
            var frame2 = Spread(ref source, read + 2 * fromStep, spread);
            var frame3 = Spread(ref source, read + 3 * fromStep, spread);
            var low01 = Sse2.UnpackLow(frame0, frame1).AsUInt64();
            var low23 = Sse2.UnpackLow(frame2, frame3).AsUInt64();
            var high01 = Sse2.UnpackHigh(frame0, frame1).AsUInt64();
            var high23 = Sse2.UnpackHigh(frame2, frame3).AsUInt64();
            Ssse3.Shuffle(Sse2.UnpackLow(low01, low23).AsByte(), pack).CopyTo(to0[write..]);
            Ssse3.Shuffle(Sse2.UnpackHigh(low01, low23).AsByte(), pack).CopyTo(to1[write..]);
            Ssse3.Shuffle(Sse2.UnpackLow(high01, high23).AsByte(), pack).CopyTo(to2[write..]);
            Ssse3.Shuffle(Sse2.UnpackHigh(high01, high23).AsByte(), pack).CopyTo(to3[write..]);
        }
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static Vector128<uint> Spread(ref byte source, nint at, Vector128<byte> order) =>
        Ssse3.Shuffle(Vector128.LoadUnsafe(ref source, (nuint)at), order).AsUInt32();

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
                var i4 = 0;
                for (; i4 + 3 < frames; i4 += 4, read += 4 * fromStep, write += 12)
                {
                    Copy<uint>(ref source, read, ref target, write);
                    Copy<uint>(ref source, read + fromStep, ref target, write + 3);
                    Copy<uint>(ref source, read + 2 * fromStep, ref target, write + 6);
                    Copy<uint>(ref source, read + 3 * fromStep, ref target, write + 9);
                }

                for (; i4 < frames; i4++, read += fromStep, write += 3)
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
        private readonly Bytes _headerBytes;
        private readonly Frames _frames;
        private bool _named;

        public Out(CutLine line, AudioFormat recorded, Frames frames, FileLabel? label)
        {
            _line = line;
            _from = recorded;
            _to = recorded with { Channels = line.Channels.Length };
            _frames = frames;
            var header = WaveHeader.Build(_to, frames, label);
            _file = NewFile.Begin(PartPath, header.Length + _to.Bytes(frames));
            _headerBytes = header.Length;
            RandomAccess.Write(_file, header, 0);
        }

        private string PartPath => _line.Path + ".part";

        public int BytesPerFrame => _to.BytesPerFrame;

        public int FirstChannel => _line.Channels[0];

        /// <summary>Picks this line's samples out of some frames.</summary>
        public void Pick(byte[] source, int sourceFrame, byte[] picked, int pickedFrame, int frames)
        {
            var width = _from.BytesPerSample;
            for (var i = 0; i < _line.Channels.Length; i++)
            {
                ChannelCutter.Pick(
                    source.AsSpan(sourceFrame * _from.BytesPerFrame + (_line.Channels[i] - 1) * width),
                    _from.BytesPerFrame,
                    picked.AsSpan(pickedFrame * _to.BytesPerFrame + i * width),
                    _to.BytesPerFrame,
                    frames,
                    width);
            }
        }

        /// <summary>Picks this line's samples and those of the three after it.</summary>
        [MethodImpl(MethodImplOptions.AggressiveOptimization)]
        public void PickFour(byte[] source, int sourceFrame, Span<byte[]> picked, int pickedFrame, int frames)
        {
            var whole = frames & ~3;
            ChannelCutter.PickFour(
                source.AsSpan(sourceFrame * _from.BytesPerFrame + (FirstChannel - 1) * 3),
                _from.BytesPerFrame,
                picked[0].AsSpan(pickedFrame * 3),
                picked[1].AsSpan(pickedFrame * 3),
                picked[2].AsSpan(pickedFrame * 3),
                picked[3].AsSpan(pickedFrame * 3),
                whole);
            for (var i = 0; i < 4 && whole < frames; i++)
            {
                ChannelCutter.Pick(
                    source.AsSpan((sourceFrame + whole) * _from.BytesPerFrame + (FirstChannel - 1 + i) * 3),
                    _from.BytesPerFrame,
                    picked[i].AsSpan((pickedFrame + whole) * 3),
                    3,
                    frames - whole,
                    3);
            }
        }

        /// <summary>Writes what was picked out of a block to its place in the file.</summary>
        public void Write(byte[] picked, int frames, Frames startFrame) =>
            RandomAccess.Write(_file, picked.AsSpan(0, frames * _to.BytesPerFrame), (_headerBytes + _to.Bytes(startFrame)).Count);

        public void Complete()
        {
            var dataBytes = _to.Bytes(_frames);
            if ((dataBytes.Count & 1) == 1)
            {
                RandomAccess.Write(_file, [0], (_headerBytes + dataBytes).Count);
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
