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
    public OverviewBuilder(int channels)
    {
        _bins = [.. Enumerable.Range(0, channels).Select(_ => new List<short>())];
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
            var low = _low[channel];
            var high = _high[channel];
            foreach (var sample in part)
            {
                low = sample < low ? sample : low;
                high = sample > high ? sample : high;
            }

            _low[channel] = low;
            _high[channel] = high;
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

    private void Close(int channel)
    {
        _bins[channel].Add(ToShort(_low[channel]));
        _bins[channel].Add(ToShort(_high[channel]));
        _low[channel] = _high[channel] = 0;
        _filled[channel] = 0;
    }

    private static short ToShort(float value) => (short)Math.Clamp(MathF.Round(value * 32767f), -32767f, 32767f);
}
