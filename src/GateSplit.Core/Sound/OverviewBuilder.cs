using System.Numerics;
using System.Runtime.InteropServices;

namespace GateSplit.Core.Sound;

/// <summary>Makes the waveform overview of a file while it is written or read, in memory that grows by 4 bytes a bin.</summary>
public sealed class OverviewBuilder
{
    private readonly List<short>[] _bins;
    private readonly float[] _low;
    private readonly float[] _high;
    private readonly int[] _filled;
    private long _frames;

    /// <summary>Starts an overview.</summary>
    /// <param name="channels">Channels that will be added.</param>
    /// <param name="frames">How many frames are expected, so that room for them is taken once; 0 if nobody knows.</param>
    public OverviewBuilder(int channels, long frames = 0)
    {
        var room = (int)Math.Min(2 * (frames / Overview.FramesPerBin + 1), 1 << 28);
        _bins = [.. Enumerable.Range(0, channels).Select(_ => new List<short>(room))];
        _low = new float[channels];
        _high = new float[channels];
        _filled = new int[channels];
    }

    /// <summary>Takes the next samples of one channel in; every channel gets the same number in the end.</summary>
    public void Add(int channel, ReadOnlySpan<float> samples)
    {
        if (channel == 0)
        {
            _frames += samples.Length;
        }

        while (!samples.IsEmpty)
        {
            var part = samples[..Math.Min(samples.Length, Overview.FramesPerBin - _filled[channel])];
            Widen(part, ref _low[channel], ref _high[channel]);
            _filled[channel] += part.Length;
            if (_filled[channel] == Overview.FramesPerBin)
            {
                Close(channel);
            }

            samples = samples[part.Length..];
        }
    }

    /// <summary>Closes the last bins and builds the coarser levels.</summary>
    public Overview Build()
    {
        for (var channel = 0; channel < _bins.Length; channel++)
        {
            if (_filled[channel] > 0)
            {
                Close(channel);
            }
        }

        return Overview.FromFinest([.. _bins.Select(b => b.ToArray())], _frames);
    }

    private static void Widen(ReadOnlySpan<float> samples, ref float low, ref float high)
    {
        var lows = new Vector<float>(low);
        var highs = new Vector<float>(high);
        var vectors = MemoryMarshal.Cast<float, Vector<float>>(samples);
        foreach (var vector in vectors)
        {
            lows = Vector.Min(lows, vector);
            highs = Vector.Max(highs, vector);
        }

        for (var i = 0; i < Vector<float>.Count; i++)
        {
            low = Math.Min(low, lows[i]);
            high = Math.Max(high, highs[i]);
        }

        foreach (var sample in samples[(vectors.Length * Vector<float>.Count)..])
        {
            low = Math.Min(low, sample);
            high = Math.Max(high, sample);
        }
    }

    private void Close(int channel)
    {
        _bins[channel].Add(ToShort(_low[channel]));
        _bins[channel].Add(ToShort(_high[channel]));
        _low[channel] = _high[channel] = 0;
        _filled[channel] = 0;
    }

    private static short ToShort(float value) => (short)Math.Clamp(MathF.Round(value * 32767f), -32767f, 32767f);
}
