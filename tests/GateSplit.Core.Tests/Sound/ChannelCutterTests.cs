using CsCheck;
using GateSplit.Core.Sound;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Sound;

public sealed class ChannelCutterTests : IDisposable
{
    private readonly TempFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Theory]
    [InlineData("pcm_u8", "u8")]
    [InlineData("pcm_s16le", "s16le")]
    [InlineData("pcm_s24le", "s24le")]
    [InlineData("pcm_s32le", "s32le")]
    [InlineData("pcm_f32le", "f32le")]
    [InlineData("pcm_f64le", "f64le")]
    public void Every_file_is_what_ffmpeg_takes_out_of_the_same_channels(string codec, string raw)
    {
        var recording = Recording(codec);
        using var reader = WaveReader.Open(recording).Value!;
        var trouble = ChannelCutter.Cut(reader, [Line("Kick", 3), Line("Overheads", 5, 6), Line("Odd", 1)], _ => null);
        Assert.Null(trouble);
        Assert.Equal(["Kick.wav", "Odd.wav", "Overheads.wav", "recording.wav"], _folder.Names);
        foreach (var (name, map) in new[] { ("Kick", "pan=mono|c0=c2"), ("Overheads", "pan=stereo|c0=c4|c1=c5"), ("Odd", "pan=mono|c0=c0") })
        {
            var expected = Programs.RunBytes("ffmpeg", "-v", "error", "-i", recording, "-af", map, "-f", raw, "-c:a", codec, "-");
            Assert.Equal(expected, Programs.Decode(_folder[name + ".wav"], raw));
            using var file = WaveReader.Open(_folder[name + ".wav"]).Value!;
            Assert.Equal(reader.Format.Sample, file.Format.Sample);
            Assert.Equal(reader.Frames, file.Frames);
            Assert.Empty(file.Remarks);
        }
    }

    [Fact]
    public void Any_lines_of_any_recording_hold_the_bytes_of_their_channels()
    {
        var cases =
            from channels in Gen.Int[1, 11]
            from frames in Gen.OneOf(Gen.Int[0, 40], Gen.Int[3600, 3700], Gen.Int[90_000, 90_010])
            from lines in Gen.OneOf(Gen.Const(Enumerable.Range(1, channels).ToArray()), Gen.Int[1, channels].Array[1, 6])
            from sample in Gen.OneOf(Gen.Const(SampleFormat.Pcm16), Gen.Const(SampleFormat.Pcm24), Gen.Const(SampleFormat.Float32))
            from seed in Gen.Int
            select (Format: new AudioFormat(channels, 48000, sample), Frames: frames, Lines: lines, Seed: seed);
        cases.Sample(
            c =>
            {
                var bytes = new byte[c.Frames * c.Format.BytesPerFrame];
                new Random(c.Seed).NextBytes(bytes);
                using (var writer = new WaveWriter(_folder["any.wav"], c.Format, c.Frames, null))
                {
                    writer.Write(bytes);
                    writer.Finish();
                    writer.TakeName();
                }

                using var reader = WaveReader.Open(_folder["any.wav"]).Value!;
                Assert.Null(ChannelCutter.Cut(reader, [.. c.Lines.Select((channel, i) => Line($"Line {i}", channel))], _ => null));
                for (var i = 0; i < c.Lines.Length; i++)
                {
                    using var line = WaveReader.Open(_folder[$"Line {i}.wav"]).Value!;
                    var got = new byte[c.Frames * line.Format.BytesPerFrame];
                    Assert.Equal(c.Frames, line.Frames);
                    line.Read(0, got);
                    var wide = c.Format.BytesPerSample;
                    for (var frame = 0; frame < c.Frames; frame++)
                    {
                        var expected = bytes.AsSpan(frame * c.Format.BytesPerFrame + (c.Lines[i] - 1) * wide, wide);
                        if (!expected.SequenceEqual(got.AsSpan(frame * wide, wide)))
                        {
                            Assert.Fail($"Line {i} differs at frame {frame}.");
                        }
                    }
                }
            },
            iter: 40,
            threads: 1);
    }

    [Fact]
    public void A_channel_that_is_not_there_is_told_and_nothing_is_written()
    {
        using var reader = WaveReader.Open(Recording("pcm_s24le")).Value!;
        var trouble = ChannelCutter.Cut(reader, [Line("Kick", 1), Line("Ghost", 7)], _ => null);
        Assert.Equal("Ghost asks for channel 7, but the recording has 6 channels.", trouble);
        Assert.Equal(["recording.wav"], _folder.Names);
    }

    [Fact]
    public void Stopping_leaves_nothing_behind()
    {
        using var reader = WaveReader.Open(Recording("pcm_s24le")).Value!;
        using var cancel = new CancellationTokenSource();
        Assert.ThrowsAny<OperationCanceledException>(() => ChannelCutter.Cut(
            reader, [Line("Kick", 1)], _ => null, 2, new Call(() => cancel.Cancel()), cancel.Token));
        Assert.Equal(["recording.wav"], _folder.Names);
    }

    private string Recording(string codec)
    {
        var path = _folder["recording.wav"];
        Programs.Run(
            "ffmpeg", "-v", "error", "-f", "lavfi", "-i",
            "aevalsrc=random(0)|random(1)-0.5|random(2)*0.5|random(3)*sin(t)|random(4)*0.25|random(5)*0.125:s=48000:d=3.00007", "-c:a", codec, path);
        return path;
    }

    private CutLine Line(string name, params int[] channels) => new(name, [.. channels], _folder[name + ".wav"]);

    private sealed class Call(Action action) : IProgress<double>
    {
        public void Report(double value) => action();
    }
}
