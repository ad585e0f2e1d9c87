using GateSplit.Core.Sound;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Sound;

/// <summary>Sines at another rate against sines worked out at that rate.</summary>
public sealed class ResamplerTests : IDisposable
{
    private readonly TempFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Theory]
    [InlineData(44100, 48000)]
    [InlineData(48000, 44100)]
    [InlineData(96000, 48000)]
    [InlineData(48000, 96000)]
    [InlineData(44100, 88200)]
    [InlineData(192000, 44100)]
    [InlineData(32000, 48000)]
    public void What_lies_below_nine_tenths_of_the_lower_nyquist_stays_and_what_lies_above_it_is_gone(int from, int to)
    {
        var nyquist = Math.Min(from, to) / 2.0;
        foreach (var share in new[] { 0.001, 0.05, 0.3, 0.6, 0.9 })
        {
            var made = Convert(from, to, share * nyquist);
            var exact = Sine(to, share * nyquist, made.Length);

            // 0.01 dB of a sine of one half is 0.0006; the ends are left out, where the recording has begun or ended.
            for (var i = made.Length / 4; i < 3 * made.Length / 4; i++)
            {
                Assert.InRange(made[i] - exact[i], -0.0006, 0.0006);
            }
        }

        for (var above = 1.001; above * nyquist < from / 2.0; above += 0.13)
        {
            var made = Convert(from, to, above * nyquist);
            Assert.InRange(made[(made.Length / 4)..(3 * made.Length / 4)].Max(Math.Abs), 0, 0.5 * Math.Pow(10, -120 / 20.0) * 1.5);
        }
    }

    [Fact]
    public void Images_of_what_is_converted_up_lie_120_dB_below_it()
    {
        // At 48 kHz from 32 kHz a sine of 6 kHz has images at 26 and 10 (mirrored) kHz: what is left beside the sine itself.
        var made = Convert(32000, 48000, 6000);
        var exact = Sine(48000, 6000, made.Length);
        var middle = Enumerable.Range(made.Length / 4, made.Length / 2).ToList();
        var gain = middle.Sum(i => (double)made[i] * exact[i]) / middle.Sum(i => (double)exact[i] * exact[i]);
        var rest = Math.Sqrt(middle.Average(i => Math.Pow(made[i] - gain * exact[i], 2)));
        Assert.InRange(20 * Math.Log10(rest / (0.5 / Math.Sqrt(2))), -200, -118);
    }

    [Fact]
    public void A_file_is_written_anew_as_another_tool_would_and_lasts_as_long()
    {
        var path = _folder["in.wav"];
        Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "aevalsrc=0.4*sin(2*PI*997*t)|0.3*sin(2*PI*4001*t):s=44100:d=2", "-c:a", "pcm_s24le", path);
        using var reader = WaveReader.Open(path).Value!;
        RateConverter.Convert(reader, _folder["out.wav"], 48000, null, CancellationToken.None);
        Programs.Run("ffmpeg", "-v", "error", "-i", path, "-ar", "48000", "-af", "aresample=filter_size=256:cutoff=0.95:kaiser_beta=13:filter_type=kaiser", "-c:a", "pcm_f32le", _folder["theirs.wav"]);
        var (ours, theirs) = (Recorded.Sides(_folder["out.wav"]), Recorded.Sides(_folder["theirs.wav"]));
        using var written = WaveReader.Open(_folder["out.wav"]).Value!;
        Assert.Equal(new AudioFormat(2, 48000, SampleFormat.Pcm24), written.Format);
        Assert.Equal(96000, written.Frames);
        for (var side = 0; side < 2; side++)
        {
            for (var i = 1000; i < 95000; i++)
            {
                Assert.InRange(ours[side][i] - theirs[side][i], -0.0002, 0.0002);
            }
        }
    }

    [Fact]
    public void A_stop_leaves_nothing_behind()
    {
        Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "sine=d=2:r=44100", _folder["in.wav"]);
        using var reader = WaveReader.Open(_folder["in.wav"]).Value!;
        Assert.Throws<OperationCanceledException>(() => RateConverter.Convert(reader, _folder["out.wav"], 48000, null, new CancellationToken(canceled: true)));
        Assert.Equal([_folder["in.wav"]], Directory.GetFiles(Path.GetDirectoryName(_folder["in.wav"])!));
    }

    /// <summary>Half a second of a sine, converted in stretches of odd lengths.</summary>
    private static float[] Convert(int from, int to, double hertz)
    {
        var input = Sine(from, hertz, from / 2);
        var resampler = new Resampler(from, to);
        var output = new float[resampler.FramesOf(input.Length).Count];
        for (var at = 0; at < output.Length; at += 777)
        {
            var count = Math.Min(777, output.Length - at);
            var (start, needed) = resampler.Needed(at, count);
            var window = new float[needed];
            for (var i = 0; i < needed; i++)
            {
                var place = start.Count + i;
                window[i] = place >= 0 && place < input.Length ? input[place] : 0;
            }

            resampler.Fill(at, window, output.AsSpan(at, count));
        }

        return output;
    }

    private static float[] Sine(int rate, double hertz, int frames) =>
        [.. Enumerable.Range(0, frames).Select(i => (float)(0.5 * Math.Sin(2 * Math.PI * hertz * i / rate)))];
}
