using System.Buffers.Binary;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>
/// The waveform pyramid of a file: for every channel the lowest and highest sample of each short stretch
/// (256 frames, in long files 512, 1024 ...), of each four of them, and so on by fours, so that any part can be drawn at any width from a few thousand numbers. The span of a bin
/// always includes zero, as a waveform is filled from its middle line.
/// </summary>
public sealed class Overview
{
    /// <summary>Frames in a bin of the finest level of a short file.</summary>
    public const int FinestBinFrames = 256;

    private const int Factor = 4;
    private const uint Magic = 0x564F5347; // "GSOV"
    private readonly short[][][] _levels; // level, channel, low/high alternating
    private readonly Frames _finestBinFrames;

    private Overview(short[][][] levels, Frames frames)
    {
        _levels = levels;
        _finestBinFrames = FinestOf(levels[0][0].Length / 2, frames);
        Frames = frames;
    }

    /// <summary>Frames of the file.</summary>
    public Frames Frames { get; }

    /// <summary>Channels of the file.</summary>
    public int Channels => _levels[0].Length;

    /// <summary>Levels from fine to coarse.</summary>
    public int Levels => _levels.Length;

    /// <summary>Frames in a bin of a level.</summary>
    public Frames BinFrames(int level) => _finestBinFrames * (long)Math.Pow(Factor, level);

    /// <summary>Lowest and highest sample of each of <paramref name="columns"/> equal stretches, full scale 1.0.</summary>
    /// <param name="channel">0-based.</param>
    /// <param name="startFrame">First frame of the picture; may lie before the file.</param>
    /// <param name="frames">Frames across the picture.</param>
    /// <param name="columns">Points across the picture.</param>
    public (float Low, float High)[] Columns(int channel, Frames startFrame, Frames frames, int columns)
    {
        var level = 0;
        while (level + 1 < _levels.Length && BinFrames(level + 1) * columns <= frames)
        {
            level++;
        }

        var bins = _levels[level][channel];
        var binFrames = BinFrames(level);
        var result = new (float, float)[columns];
        for (var column = 0; column < columns; column++)
        {
            var from = startFrame + Part(frames, column, columns);
            var to = Frames.Max(from + 1, startFrame + Part(frames, column + 1, columns));
            var low = 0;
            var high = 0;
            for (var bin = Math.Max(0, from.Count) / binFrames.Count; binFrames * bin < to && bin * 2 + 1 < bins.Length; bin++)
            {
                low = Math.Min(low, bins[bin * 2]);
                high = Math.Max(high, bins[bin * 2 + 1]);
            }

            result[column] = (low / 32767f, high / 32767f);
        }

        return result;
    }

    /// <summary>Builds the coarser levels over a finest one.</summary>
    /// <param name="finest">For each channel low and high alternating.</param>
    /// <param name="frames">Frames of the file.</param>
    public static Overview FromFinest(short[][] finest, Frames frames)
    {
        var levels = new List<short[][]> { finest };
        while (levels[^1][0].Length / 2 > 512)
        {
            levels.Add([.. levels[^1].Select(Coarser)]);
        }

        return new Overview([.. levels], frames);
    }

    /// <summary>The finest level as bytes: magic, channels, frames, then the bins of each channel.</summary>
    public byte[] ToBytes()
    {
        var bins = _levels[0];
        var bytes = new byte[16 + bins.Sum(b => b.Length * 2)];
        BinaryPrimitives.WriteUInt32LittleEndian(bytes, Magic);
        BinaryPrimitives.WriteInt32LittleEndian(bytes.AsSpan(4), bins.Length);
        BinaryPrimitives.WriteInt64LittleEndian(bytes.AsSpan(8), Frames.Count);
        var at = 16;
        foreach (var value in bins.SelectMany(b => b))
        {
            BinaryPrimitives.WriteInt16LittleEndian(bytes.AsSpan(at), value);
            at += 2;
        }

        return bytes;
    }

    /// <summary>Reads what <see cref="ToBytes"/> wrote.</summary>
    /// <exception cref="InvalidDataException">The bytes are something else.</exception>
    public static Overview FromBytes(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length < 16 || BinaryPrimitives.ReadUInt32LittleEndian(bytes) != Magic)
        {
            throw new InvalidDataException("Not a waveform overview.");
        }

        var channels = BinaryPrimitives.ReadInt32LittleEndian(bytes[4..]);
        var frames = new Frames(BinaryPrimitives.ReadInt64LittleEndian(bytes[8..]));
        var each = (bytes.Length - 16) / 2 / channels;
        var finest = new short[channels][];
        for (var channel = 0; channel < channels; channel++)
        {
            finest[channel] = new short[each];
            for (var i = 0; i < each; i++)
            {
                finest[channel][i] = BinaryPrimitives.ReadInt16LittleEndian(bytes[(16 + 2 * (channel * each + i))..]);
            }
        }

        return FromFinest(finest, frames);
    }

    private static Frames Part(Frames frames, int column, int columns) => new(frames.Count * column / columns);

    // The only doubling of 256 at which so many frames fill so many bins; so it need not be stored.
    private static Frames FinestOf(long bins, Frames frames)
    {
        Frames binFrames = FinestBinFrames;
        while (bins > 0 && frames > binFrames * bins)
        {
            binFrames *= 2;
        }

        return binFrames;
    }

    private static short[] Coarser(short[] fine)
    {
        var bins = (fine.Length / 2 + Factor - 1) / Factor;
        var coarse = new short[bins * 2];
        for (var i = 0; i < fine.Length; i++)
        {
            var place = i / 2 / Factor * 2 + (i & 1);
            coarse[place] = (i & 1) == 0 ? Math.Min(coarse[place], fine[i]) : Math.Max(coarse[place], fine[i]);
        }

        return coarse;
    }
}
