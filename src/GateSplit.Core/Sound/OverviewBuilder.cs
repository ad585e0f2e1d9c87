using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>
/// Makes the waveform overview of a file while it is written or read, in memory that does not grow with the file: when
/// <see cref="MostBins"/> of them are full, neighbours are joined and bins are twice as long from there on.
/// </summary>
public sealed class OverviewBuilder
{
    private const int FewBins = 1 << 14;
    private const int ManyBins = 1 << 17;
    private const int ManyChannels = 16;

    private readonly Bins[] _channels;
    private Frames _frames;

    /// <summary>Starts an overview.</summary>
    /// <param name="channels">Channels that will be added.</param>
    public OverviewBuilder(int channels) => _channels = [.. Enumerable.Range(0, channels).Select(_ => new Bins(MostBins(channels)))];

    /// <summary>
    /// A channel of a file never holds so many bins: more than ten minutes of 48 kHz at the finest; where many channels are measured at
    /// once, an eighth of it.
    /// </summary>
    /// <param name="channels">Channels of the file.</param>
    public static int MostBins(int channels) => channels > ManyChannels ? FewBins : ManyBins;

    /// <summary>Takes the next samples of one channel in; every channel gets the same number in the end.</summary>
    public void Add(int channel, ReadOnlySpan<float> samples)
    {
        if (channel == 0)
        {
            _frames += samples.Length;
        }

        _channels[channel].Add(samples);
    }

    /// <summary>Closes the last bins and builds the coarser levels.</summary>
    public Overview Build() => Overview.FromFinest([.. _channels.Select(c => c.Finish())], _frames);

    private static void Widen(ReadOnlySpan<float> samples, ref float low, ref float high)
    {
        var lows = Vector256.Create(low);
        var highs = Vector256.Create(high);
        var vectors = MemoryMarshal.Cast<float, Vector256<float>>(samples);
        foreach (var vector in vectors)
        {
            lows = Vector256.MinNative(lows, vector);
            highs = Vector256.MaxNative(highs, vector);
        }

        low = Lowest(lows);
        high = -Lowest(-highs);
        foreach (var sample in samples[(vectors.Length * Vector256<float>.Count)..])
        {
            low = Math.Min(low, sample);
            high = Math.Max(high, sample);
        }
    }

    private static float Lowest(Vector256<float> x)
    {
        var four = Vector128.MinNative(x.GetLower(), x.GetUpper());
        var two = Vector128.MinNative(four, Vector128.Shuffle(four, Vector128.Create(2, 3, 0, 1)));
        return Math.Min(two.GetElement(0), two.GetElement(1));
    }

    private static short ToShort(float value) => (short)Math.Clamp(MathF.Round(value * 32767f), -32767f, 32767f);

    /// <summary>The bins of one channel, low and high alternating.</summary>
    private sealed class Bins(int most)
    {
        private short[] _values = new short[2 * FewBins];
        private int _count;
        private int _binFrames = Overview.FinestBinFrames;
        private int _filled;
        private float _low;
        private float _high;

        public void Add(ReadOnlySpan<float> samples)
        {
            while (!samples.IsEmpty)
            {
                var part = samples[..Math.Min(samples.Length, _binFrames - _filled)];
                Widen(part, ref _low, ref _high);
                _filled += part.Length;
                if (_filled == _binFrames)
                {
                    Close();
                }

                samples = samples[part.Length..];
            }
        }

        public short[] Finish()
        {
            if (_filled > 0)
            {
                Close();
            }

            return _values[..(2 * _count)];
        }

        private void Close()
        {
            _values[2 * _count] = ToShort(_low);
            _values[2 * _count + 1] = ToShort(_high);
            _count++;
            _filled = 0;
            _low = _high = 0;
            if (_count == most)
            {
                JoinNeighbours();
            }
            else if (2 * _count == _values.Length)
            {
                Array.Resize(ref _values, 2 * _values.Length);
            }
        }

        private void JoinNeighbours()
        {
            for (var i = 0; i < most / 2; i++)
            {
                _values[2 * i] = Math.Min(_values[4 * i], _values[4 * i + 2]);
                _values[2 * i + 1] = Math.Max(_values[4 * i + 1], _values[4 * i + 3]);
            }

            _count = most / 2;
            _binFrames *= 2;
        }
    }
}
