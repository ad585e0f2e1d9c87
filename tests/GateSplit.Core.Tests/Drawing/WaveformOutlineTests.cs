using GateSplit.Core.Drawing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Tests.Drawing;

public sealed class WaveformOutlineTests
{
    /// <summary>A recording of which only the length counts.</summary>
    private sealed record Silence(int Channels, int Length) : IRecording
    {
        public AudioFormat Format => new(Channels, 48000, SampleFormat.Pcm16);

        public Frames Frames => Length;

        public int Read(Frames startFrame, Span<byte> into) => 0;
    }

    [Fact]
    public void It_runs_along_the_highs_and_back_along_the_lows_one_channel_below_the_other()
    {
        var builder = new OverviewBuilder(2);
        builder.Add(0, Enumerable.Repeat(0.5f, 256).ToArray());
        builder.Add(0, Enumerable.Repeat(-1f, 256).ToArray());
        builder.Add(1, new float[512]);

        // Channel 1 around 1: highs 0.5 and 0, then back along the lows -1 and 0. Channel 2 is silent around 3.
        Assert.Equal("M0 0.5 1 1 1 2 0 1 ZM0 3 1 3 1 3 0 3 Z", WaveformOutline.Fill(new FileWaveform(builder.Build(), new Silence(2, 512)), 0, 512, 2));
    }
}
