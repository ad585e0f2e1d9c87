using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>Mended files read while they are made: the same bytes from anywhere, and what each sample should be by hand.</summary>
public sealed class MendedRecordingTests : IDisposable
{
    private const int Length = 20_011; // neither end lies on a border of blocks
    private readonly TempFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Theory]
    [InlineData(SampleFormat.Pcm16)]
    [InlineData(SampleFormat.Pcm24)]
    [InlineData(SampleFormat.Float32)]
    public void The_bytes_of_a_place_do_not_depend_on_what_was_read_before(SampleFormat sample)
    {
        using var file = Written(2, sample, (c, i) => 0.3 * Math.Sin((0.01 + 0.013 * c) * i));
        var plan = RenderPlan.AsItIs(2, Length).Placed(123.45, 2e-4) with { Gains = [[0.5, 0], [0, -0.7]], Dc = [0.01, 0], FadeIn = 50, FadeOut = 70 };
        var whole = Bytes(new MendedRecording(file, plan), 0, (int)plan.Frames.Count);
        var random = new Random(7);
        var pieces = new MendedRecording(file, plan);
        for (var i = 0; i < 200; i++)
        {
            var start = random.Next((int)plan.Frames.Count);
            var count = random.Next(1, 9000);
            var piece = Bytes(pieces, start, count);
            Assert.Equal(whole[(start * pieces.Format.BytesPerFrame)..][..piece.Length], piece);
            Assert.Equal(Math.Min(count, plan.Frames.Count - start), piece.Length / pieces.Format.BytesPerFrame);
        }

        Assert.Empty(Bytes(pieces, (int)plan.Frames.Count, 10));
    }

    [Fact]
    public void What_is_only_moved_or_turned_keeps_its_samples()
    {
        using var file = Written(1, SampleFormat.Pcm16, (_, i) => (i * 37 % 65536 - 32768) / 32768.0);
        var printed = Samples(file, 0, Length);
        var earlier = Samples(new MendedRecording(file, RenderPlan.AsItIs(1, Length).Placed(100, 0)), 0, Length);
        Assert.Equal(printed[100..], earlier);
        var later = Samples(new MendedRecording(file, RenderPlan.AsItIs(1, Length).Placed(-100, 0)), 0, 2 * Length);
        Assert.Equal([.. Enumerable.Repeat(0f, 100), .. printed], later);

        // The lowest value has no opposite: it is held at the highest.
        var turned = Samples(new MendedRecording(file, RenderPlan.AsItIs(1, Length) with { Gains = [[-1]] }), 0, Length);
        Assert.Equal(printed.Select(s => Math.Min(-s, 32767 / 32768f)), turned);
    }

    [Fact]
    public void What_is_reckoned_anew_in_16_bit_is_dithered_and_no_more_than_that()
    {
        using var file = Written(1, SampleFormat.Pcm16, (_, i) => 0.25 * Math.Sin(0.03 * i));
        var printed = Samples(file, 0, Length);
        var softer = Samples(new MendedRecording(file, RenderPlan.AsItIs(1, Length) with { Gains = [[0.5]] }), 0, Length);
        var beside = softer.Select((s, i) => (s - 0.5f * printed[i]) * 32768).ToList();
        Assert.All(beside, b => Assert.InRange(b, -1.5, 1.5));

        // Triangular dither of two steps and rounding: variances of 1/6 and 1/12, and not the same error for the same value.
        Assert.Equal(0.25, beside.Average(b => b * b), 0.02);
        Assert.Contains(softer.Zip(printed).GroupBy(p => p.Second), g => g.Select(p => p.First).Distinct().Count() > 1);
    }

    [Theory]
    [InlineData(SampleFormat.Pcm8, SampleFormat.Pcm16)]
    [InlineData(SampleFormat.Pcm32, SampleFormat.Float32)]
    [InlineData(SampleFormat.Float64, SampleFormat.Float32)]
    [InlineData(SampleFormat.Pcm24, SampleFormat.Pcm24)]
    public void Samples_that_are_never_written_become_those_that_are(SampleFormat printed, SampleFormat mended)
    {
        var format = new AudioFormat(2, 48000, printed);
        Assert.Equal(mended, MendedRecording.FormatOf(format, RenderPlan.AsItIs(2, 10) with { Gains = [[2, 0], [0, 1]] }).Sample);
        Assert.Equal(printed, MendedRecording.FormatOf(format, RenderPlan.AsItIs(2, 10).Placed(3, 0)).Sample);
        Assert.Equal(1, MendedRecording.FormatOf(format, RenderPlan.AsItIs(2, 10) with { Gains = [[0.5, 0.5]] }).Channels);
    }

    [Fact]
    public void A_stream_of_it_is_the_file_that_is_rendered_from_any_byte_on()
    {
        using var file = Written(2, SampleFormat.Pcm24, (c, i) => 0.2 * Math.Sin((0.02 + c * 0.01) * i));
        var plan = RenderPlan.AsItIs(2, Length).Placed(0.5, 0);
        TakeRenderer.Render(file, plan, _folder["made.wav"]);
        var made = File.ReadAllBytes(_folder["made.wav"]);
        using var stream = new WaveStream(new MendedRecording(file, plan), new MemoryStream());
        Assert.Equal(made.Length, stream.Length);
        Assert.Equal(WaveReader.Open(_folder["made.wav"]).Value!.DataOffset, WaveStream.DataOffset(new AudioFormat(2, 48000, SampleFormat.Pcm24), plan.Frames));
        var random = new Random(3);
        for (var i = 0; i < 300; i++)
        {
            var (start, bytes) = (random.Next(made.Length), new byte[random.Next(1, 300)]);
            stream.Position = start;
            var read = stream.ReadAtLeast(bytes, bytes.Length, throwOnEndOfStream: false);
            Assert.Equal(made[start..Math.Min(made.Length, start + bytes.Length)], bytes[..read]);
        }
    }

    [Fact]
    public void A_mended_waveform_is_that_of_the_rendered_file()
    {
        using var file = Written(2, SampleFormat.Pcm24, (c, i) => (c == 0 ? 0.5 : 0.25) * Math.Sin(0.05 * i) * (i % 3000 < 1500 ? 1 : 0.1));
        var plan = RenderPlan.AsItIs(2, Length).Placed(1000, 0) with { Gains = [[0, -2], [1, 0]] };
        TakeRenderer.Render(file, plan, _folder["made.wav"]);
        using var made = WaveReader.Open(_folder["made.wav"]).Value!;
        IWaveform wave = new MendedWaveform(new FileWaveform(FileMeasure.Of(file).Overview, file), plan, new MendedRecording(file, plan));
        IWaveform rendered = new FileWaveform(FileMeasure.Of(made).Overview, made);
        Assert.Equal((2, made.Frames), (wave.Channels, wave.Frames));
        foreach (var channel in new[] { 0, 1 })
        {
            // From afar bins lie beside each other by part of one, so one step of either is allowed; from near every sample is the same.
            var (mine, theirs) = (wave.Columns(channel, 0, 16_384, 32), rendered.Columns(channel, 0, 16_384, 32));
            for (var i = 1; i < 31; i++)
            {
                Assert.InRange(mine[i].High, theirs[(i - 1)..(i + 2)].Min(c => c.High) - 1e-3, theirs[(i - 1)..(i + 2)].Max(c => c.High) + 1e-3);
            }

            Assert.Equal(rendered.Columns(channel, 100, 640, 64).Select(c => (MathF.Round(c.Low, 5), MathF.Round(c.High, 5))), wave.Columns(channel, 100, 640, 64).Select(c => (MathF.Round(c.Low, 5), MathF.Round(c.High, 5))));
            var (one, other) = (new float[300], new float[300]);
            wave.Samples(channel, -5, one);
            rendered.Samples(channel, -5, other);
            Assert.Equal(other, one);
        }

        // Behind its end, where the printed file goes on, there is nothing; nor before its start.
        var half = plan with { Frames = Length / 2 };
        IWaveform shorter = new MendedWaveform(new FileWaveform(FileMeasure.Of(file).Overview, file), half, new MendedRecording(file, half));
        Assert.All(shorter.Columns(0, Length / 2, 512, 4), c => Assert.Equal((0f, 0f), c));
        Assert.All(shorter.Columns(0, -512, 512, 4), c => Assert.Equal((0f, 0f), c));
        Assert.All(shorter.Columns(0, 0, 512, 4), c => Assert.NotEqual((0f, 0f), c));
    }

    private WaveReader Written(int channels, SampleFormat sample, Func<int, int, double> value)
    {
        var format = new AudioFormat(channels, 48000, sample);
        using (var writer = new WaveWriter(_folder["printed.wav"], format, Length, null))
        {
            var bytes = new byte[Length * format.BytesPerFrame];
            for (var c = 0; c < channels; c++)
            {
                SampleCodec.Encode([.. Enumerable.Range(0, Length).Select(i => (float)value(c, i))], format, c, bytes);
            }

            writer.Write(bytes);
            writer.Finish();
            writer.TakeName();
        }

        return WaveReader.Open(_folder["printed.wav"]).Value!;
    }

    private static byte[] Bytes(IRecording from, int start, int frames)
    {
        var bytes = new byte[frames * from.Format.BytesPerFrame];
        return bytes[..(from.Read(new Frames(start), bytes) * from.Format.BytesPerFrame)];
    }

    private static float[] Samples(IRecording from, int start, int frames)
    {
        var bytes = Bytes(from, start, frames);
        var samples = new float[bytes.Length / from.Format.BytesPerFrame];
        SampleCodec.Decode(bytes, from.Format, 0, samples);
        return samples;
    }
}
