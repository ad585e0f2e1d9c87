using System.Text.Json;
using GateSplit.Core.Demo;
using GateSplit.Core.Handoff;
using GateSplit.Core.Notes;
using GateSplit.Tests.Shared;

namespace GateSplit.Cli.Tests;

/// <summary>The command as a shell calls it.</summary>
public sealed class CommandTests : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("gate-split-cli-").FullName;

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    [Fact]
    public void Cut_writes_one_file_a_track_bit_exactly_as_sox_would()
    {
        var recording = Recording(channels: 10);
        var lines = Write("lines.csv", "track,channels\nKick,3\nOverheads,9-10\n");
        var run = Run("cut", recording, "--lines", lines, "--out", In("out"));
        Assert.Equal((0, "", ""), run);
        Assert.Equal(["Kick.wav", "Overheads.wav"], Directory.GetFiles(In("out")).Select(f => Path.GetFileName(f)!).Order());
        foreach (var (name, remix) in new[] { ("Kick", new[] { "3" }), ("Overheads", ["9", "10"]) })
        {
            var file = Path.Combine(In("out"), name + ".wav");
            var theirs = Programs.RunBytes("sox", [recording, "-t", "s24", "-", "remix", .. remix]);
            Assert.Equal(theirs, Programs.RunBytes("sox", file, "-t", "s24", "-"));
            Assert.Equal("24", Programs.Run("soxi", "-b", file));
        }
    }

    [Fact]
    public void Measure_prints_the_shape_that_is_documented()
    {
        var path = In("sine.wav");
        Programs.Run("sox", "-n", "-r", "48000", "-b", "16", "-c", "2", "-D", path, "synth", "1", "sine", "1000", "sine", "500", "gain", "-6.0206");
        var (code, output, _) = Run("measure", path, "--json");
        Assert.Equal(0, code);
        var file = JsonDocument.Parse(output).RootElement.EnumerateArray().Single();
        Assert.Equal(path, file.GetProperty("file").GetString());
        Assert.Equal(2, file.GetProperty("channels").GetInt32());
        Assert.Equal(48000, file.GetProperty("sampleRate").GetInt32());
        Assert.Equal(16, file.GetProperty("bitsPerSample").GetInt32());
        Assert.Equal(48000, file.GetProperty("frames").GetInt64());
        foreach (var channel in file.GetProperty("perChannel").EnumerateArray())
        {
            Assert.Equal(-6.02, channel.GetProperty("samplePeakDbfs").GetDouble(), 0.01);
            Assert.Equal(-6.02, channel.GetProperty("truePeakDbtp").GetDouble(), 0.1);
            Assert.Equal(-9.03, channel.GetProperty("rmsDbfs").GetDouble(), 0.01);
            Assert.Equal(-9.03, channel.GetProperty("floorDbfs").GetDouble(), 0.1);
            Assert.Equal(0, channel.GetProperty("dcOffset").GetDouble(), 1e-4);
            Assert.Equal(0, channel.GetProperty("clippedRuns").GetInt64());
            Assert.False(channel.GetProperty("silent").GetBoolean());
        }
    }

    [Fact]
    public void Measure_says_how_loud_a_file_is_and_null_where_it_is_too_short_for_that()
    {
        var (path, blip) = (In("sine.wav"), In("blip.wav"));
        Programs.Run("sox", "-n", "-r", "48000", "-b", "24", "-c", "2", "-D", path, "synth", "5", "sine", "997", "gain", "-20");
        Programs.Run("sox", "-n", "-r", "48000", "-b", "24", "-D", blip, "synth", "0.1", "sine", "997");
        var files = JsonDocument.Parse(Run("measure", path, blip, "--json").Output).RootElement.EnumerateArray().ToList();
        Assert.Equal(-20, files[0].GetProperty("integratedLufs").GetDouble(), 0.1); // two channels of -20 dBFS, by BS.1770
        Assert.Equal(-20, files[0].GetProperty("maxMomentaryLufs").GetDouble(), 0.1);
        Assert.Equal(-20, files[0].GetProperty("maxShortTermLufs").GetDouble(), 0.1);
        Assert.Equal(0, files[0].GetProperty("loudnessRangeLu").GetDouble(), 0.1);
        Assert.All(new[] { "integratedLufs", "maxMomentaryLufs", "maxShortTermLufs", "loudnessRangeLu" }, name => Assert.Equal(JsonValueKind.Null, files[1].GetProperty(name).ValueKind));
        Assert.Contains("-20.0 LUFS", Run("measure", path).Output);
        Assert.DoesNotContain("LUFS", Run("measure", blip).Output);
    }

    [Fact]
    public void Compare_prints_the_shape_that_is_documented_and_refuses_another_rate()
    {
        var (first, second, noise, slow) = (In("a.wav"), In("b.wav"), In("n.wav"), In("s.wav"));
        Programs.Run("sox", "-n", "-R", "-r", "48000", "-b", "24", "-D", first, "synth", "4", "pluck", "220", "gain", "-12", ":", "synth", "3", "pluck", "330", "gain", "-12");
        Programs.Run("sox", "-D", "-v", "-0.5", first, second, "pad", "480s");
        Programs.Run("sox", "-n", "-R", "-r", "48000", "-b", "24", noise, "synth", "5", "whitenoise");
        Programs.Run("sox", "-n", "-R", "-r", "44100", "-b", "24", slow, "synth", "5", "whitenoise");
        var found = JsonDocument.Parse(Run("compare", first, second, "--json").Output).RootElement;
        Assert.Equal((480, 0, -1, true), (found.GetProperty("offsetSamples").GetDouble(), found.GetProperty("driftPpm").GetDouble(), found.GetProperty("polarity").GetInt32(), found.GetProperty("found").GetBoolean()));
        Assert.Equal(-6.02, found.GetProperty("gainDb").GetDouble(), 0.01);
        Assert.InRange(found.GetProperty("residualDb").GetDouble(), -200, -100);
        Assert.Contains("b.wav is 480.00 samples (10.00 ms) later than a.wav", Run("compare", first, second).Output);
        var nothing = JsonDocument.Parse(Run("compare", first, noise, "--json").Output).RootElement;
        Assert.False(nothing.GetProperty("found").GetBoolean());
        Assert.Equal(JsonValueKind.Null, nothing.GetProperty("offsetSamples").ValueKind);
        var refused = Run("compare", first, slow);
        Assert.Equal(1, refused.Code);
        Assert.Contains("a.wav has 48000 Hz and s.wav 44100 Hz", refused.Errors);
        Assert.Contains("nothere.wav", Run("compare", first, In("nothere.wav")).Errors);
    }

    [Fact]
    public void Measure_tells_where_a_file_clips_and_how_often_it_is_at_full_scale()
    {
        var path = In("clips.wav");
        short[] samples = [0, 32767, 0, -32768, -32767, 32767, 0, 32767, 32767, 0];
        File.WriteAllBytes(In("clips.raw"), [.. samples.SelectMany(BitConverter.GetBytes)]);
        Programs.Run("ffmpeg", "-v", "error", "-f", "s16le", "-ar", "48000", "-ac", "1", "-i", In("clips.raw"), path);
        var channel = JsonDocument.Parse(Run("measure", path, "--json").Output).RootElement[0].GetProperty("perChannel")[0];
        Assert.Equal((1, 3), (channel.GetProperty("clippedRuns").GetInt32(), channel.GetProperty("fullScale").GetInt32()));
        var clip = Assert.Single(channel.GetProperty("clips").EnumerateArray());
        Assert.Equal((3, 3), (clip.GetProperty("startFrame").GetInt32(), clip.GetProperty("length").GetInt32()));
        Assert.Contains("clipped runs 1 (frame 3 for 3)  at full scale 3", Run("measure", path).Output);
    }

    [Fact]
    public void Handoff_fills_a_folder_that_checks_itself_and_leaves_nothing_half_made()
    {
        var lamp = Session(DemoSessions.All[0], bars: 4);
        var (code, output, errors) = Run("handoff", lamp, "--out", In("handed"), "--format", "flac-pcm16", "--from", "2", "--to", "3");
        Assert.Equal((0, ""), (code, errors));
        Programs.Run("bash", "-c", $"cd '{In("handed")}' && sha256sum -c --strict --quiet SHA256SUMS && flac -t -s -w */*.flac");
        var files = output.Split('\n', StringSplitOptions.RemoveEmptyEntries);
        Assert.Equal(13, files.Length);
        Assert.Single(files.Select(f => Programs.Run("soxi", "-s", f)).Distinct());
        Assert.Equal(["effects", "lines", "notes", "reference", "split"], Directory.GetDirectories(In("handed")).Select(d => Path.GetFileName(d)!).Order(StringComparer.Ordinal));

        // Not into a folder that holds something, not at a rate that there is not, not where bars are not.
        Assert.Contains("is not empty", Run("handoff", lamp, "--out", In("handed")).Errors);
        Assert.Contains("The sample rate is one of 44100", Run("handoff", lamp, "--out", In("other"), "--rate", "12345").Errors);
        Assert.Contains("ends before bar 900", Run("handoff", lamp, "--out", In("other"), "--from", "900").Errors);
        Assert.False(Directory.Exists(In("other")));
    }

    [Fact]
    public void A_session_with_its_takes_is_handed_off_from_those_with_their_mends()
    {
        var bundle = TravellingSession.Make(In("stairs"));
        TravellingSession.Write(bundle, In("stairs.zip"));
        var (code, output, errors) = Run("handoff", In("stairs.zip"), "--out", In("handed"));
        Assert.Equal((0, ""), (code, errors));
        Assert.Equal([In("handed/lines/01 Line 1.wav"), In("handed/lines/02 Line 3.wav"), In("handed/reference/01 Mix of all lines.wav")], output.Split('\n', StringSplitOptions.RemoveEmptyEntries));
        Assert.Equal(File.ReadAllBytes(bundle.Audio[2].Stored), File.ReadAllBytes(In("handed/lines/01 Line 1.wav"))); // take 3, as it was brought in

        // 10 ms earlier, and the mend that is on trial is not made.
        Assert.Equal(Programs.Samples(bundle.Audio[1].Stored)[960..], Programs.Samples(In("handed/lines/02 Line 3.wav")));
        Assert.Equal(["take 1", "take 3"], Directory.GetDirectories(In("handed/split")).Select(d => Path.GetFileName(d)!).Order(StringComparer.Ordinal));
        Programs.Run("bash", "-c", $"cd '{In("handed")}' && sha256sum -c --strict --quiet SHA256SUMS");

        // The other commands look at the session as it is now.
        Assert.Equal(0, Run("rollcall", In("stairs.zip"), "--midi", In("call.mid")).Code);
        Programs.Run("midicsv", In("call.mid"));
        File.WriteAllBytes(In("cut.zip"), File.ReadAllBytes(In("stairs.zip"))[..5000]);
        Assert.StartsWith("gatesplit: This zip is damaged: ", Run("handoff", In("cut.zip"), "--out", In("other")).Errors, StringComparison.Ordinal);
        Assert.False(Directory.Exists(In("other")));
    }

    [Fact]
    public void Print_and_check_work_on_an_exported_session()
    {
        var lamp = Session(DemoSessions.All[0], bars: 1);
        var (code, output, errors) = Run("print", lamp, "--out", In("printed"));
        Assert.Equal((0, ""), (code, errors));
        Assert.Equal(12, output.Trim().Split('\n').Length);
        Assert.Contains("01 Kick in.wav", output);
        Assert.Equal((0, "[]"), (Run("check", lamp, "--json").Code, Run("check", lamp, "--json").Output.Trim()));

        var fog = Session(DemoSessions.All[1], bars: 1);
        var check = Run("check", fog, "--json");
        Assert.Equal(1, check.Code);
        var findings = JsonDocument.Parse(check.Output).RootElement.EnumerateArray().ToList();
        Assert.Equal(8, findings.Count(f => f.GetProperty("severity").GetString() == "warning" && f.GetProperty("under").ValueKind == JsonValueKind.Null));

        // Causes come before what follows from them, each with an id that is there once.
        var ids = findings.ConvertAll(f => f.GetProperty("id").GetString()!);
        Assert.Equal(ids.Count, ids.Distinct().Count());
        Assert.Contains(findings, f => f.GetProperty("under").ValueKind != JsonValueKind.Null);
        Assert.All(findings.Where(f => f.GetProperty("under").ValueKind != JsonValueKind.Null), f => Assert.InRange(ids.IndexOf(f.GetProperty("under").GetString()!), 0, findings.IndexOf(f) - 1));
    }

    [Theory]
    [InlineData("lines.csv: channel", 1, "Ghost asks for channel 7, but the recording has 6 channels.")]
    [InlineData("text", 1, "no sound file")]
    [InlineData("truncated", 0, "cut off")]
    [InlineData("missing", 1, "no such file")]
    public void Bad_input_gets_a_sentence_and_leaves_nothing_half_written(string what, int code, string words)
    {
        var recording = Recording(channels: 6);
        var lines = Write("lines.csv", what == "lines.csv: channel" ? "track,channels\nGhost,7\n" : "track,channels\nKick,1\n");
        switch (what)
        {
            case "text":
                recording = Write("diary.wav", "Today I recorded nothing.");
                break;
            case "truncated":
                using (var file = File.OpenWrite(recording))
                {
                    file.SetLength(file.Length / 2);
                }

                break;
            case "missing":
                File.Delete(recording);
                break;
        }

        var run = Run("cut", recording, "--lines", lines, "--out", In("out"));
        Assert.Equal(code, run.Code);
        Assert.Contains(words, run.Errors);
        Assert.Equal(code == 0 ? ["Kick.wav"] : [], Directory.Exists(In("out")) ? Directory.GetFiles(In("out")).Select(f => Path.GetFileName(f)!) : []);
    }

    [Theory]
    [InlineData("flac", "-sample_fmt s32")]
    [InlineData("aiff", "-c:a pcm_s24be")]
    [InlineData("caf", "-c:a pcm_s24le")]
    [InlineData("w64", "-c:a pcm_s24le")]
    public void Whatever_bring_in_reads_is_cut_and_measured(string kind, string codec)
    {
        var wave = Recording(channels: 6);
        var other = In("recording." + kind);
        Programs.Run("ffmpeg", ["-v", "error", "-i", wave, .. codec.Split(' '), other]);
        var lines = Write("lines.csv", "track,channels\nKick,2\nPair,5-6\n");
        Assert.Equal((0, "", ""), Run("cut", other, "--lines", lines, "--out", In("out")));
        Assert.Equal(["Kick.wav", "Pair.wav"], Directory.GetFiles(In("out"), "*", new EnumerationOptions { AttributesToSkip = FileAttributes.None }).Select(f => Path.GetFileName(f)!).Order());
        Assert.Equal(Programs.Decode(other, "s32le").Chunk(24).SelectMany(f => f[4..8]), Programs.Decode(Path.Combine(In("out"), "Kick.wav"), "s32le"));
        var ours = JsonDocument.Parse(Run("measure", wave, other, "--json").Output).RootElement.EnumerateArray().ToList();
        Assert.Equal(ours[0].GetProperty("perChannel").ToString(), ours[1].GetProperty("perChannel").ToString());
    }

    [Theory]
    [InlineData("RF64")]
    [InlineData("BW64")]
    public void What_a_crashed_recorder_left_is_cut_whole_and_told(string kind)
    {
        var whole = File.ReadAllBytes(Recording(channels: 6, arguments: "-rf64 always"));
        System.Text.Encoding.ASCII.GetBytes(kind).CopyTo(whole, 0);
        whole.AsSpan(20, 28).Clear(); // the ds64 chunk, as it is before a recording has ended
        var crashed = In("crashed.wav");
        File.WriteAllBytes(crashed, whole);
        var lines = Write("lines.csv", "track,channels\nKick,2\n");
        var (code, _, errors) = Run("cut", crashed, "--lines", lines, "--out", In("out"));
        Assert.Equal(0, code);
        Assert.Contains("all that follows was read as samples", errors);
        Assert.Equal(Programs.Decode(Recording(channels: 6), "s24le").Chunk(18).SelectMany(f => f[3..6]), Programs.Decode(Path.Combine(In("out"), "Kick.wav"), "s24le"));
        Assert.Contains("all that follows was read as samples", Run("measure", crashed).Errors);
    }

    [Fact]
    public void Samples_that_are_no_numbers_are_told_and_cut_as_they_are()
    {
        float[] samples = [0.5f, float.NaN, 0.25f, float.PositiveInfinity, -0.5f, 0.125f];
        var bytes = samples.SelectMany(BitConverter.GetBytes).ToArray();
        var path = In("wild.wav");
        Programs.Run("ffmpeg", "-v", "error", "-f", "f32le", "-ar", "48000", "-ac", "2", "-i", Write("wild.raw", bytes), "-c:a", "pcm_f32le", path);
        const string words = "2 samples are no number, infinite, or beyond what 32-bit floats hold";
        Assert.Contains(words, Run("measure", path).Errors);
        var cut = Run("cut", path, "--lines", Write("lines.csv", "track,channels\nBoth,1-2\n"), "--out", In("out"));
        Assert.Equal(0, cut.Code);
        Assert.Contains(words, cut.Errors);
        Assert.Equal(bytes, File.ReadAllBytes(Path.Combine(In("out"), "Both.wav"))[^bytes.Length..]);
    }

    [Theory]
    [InlineData]
    [InlineData("slice")]
    [InlineData("cut", "x.wav")]
    [InlineData("measure")]
    public void A_wrong_call_is_2(params string[] arguments) => Assert.Equal(2, Run(arguments).Code);

    [Fact]
    public void A_full_disk_is_told_and_nothing_is_left()
    {
        var small = In("small");
        Directory.CreateDirectory(small);
        Programs.Run("mount", "-t", "tmpfs", "-o", "size=1m", "tmpfs", small);
        try
        {
            var run = Run("print", Session(DemoSessions.All[0], bars: 4), "--out", small);
            Assert.Equal(1, run.Code);
            Assert.Contains("No space left", run.Errors);
            Assert.Empty(Directory.GetFiles(small));
        }
        finally
        {
            Programs.Run("umount", small);
        }
    }

    private string In(string name) => Path.Combine(_folder, name);

    private string Write(string name, string text) => Write(name, System.Text.Encoding.UTF8.GetBytes(text));

    private string Write(string name, byte[] bytes)
    {
        File.WriteAllBytes(In(name), bytes);
        return In(name);
    }

    private string Session(DemoSession demo, int bars)
    {
        var split = demo.Split with { Pass = demo.Split.Pass with { LengthBars = bars } };
        var path = In(demo.Name + ".json");
        File.WriteAllBytes(path, SessionFile.Of(demo.Name, MidiWriter.Write(demo.Song), split).ToJson());
        return path;
    }

    private string Recording(int channels, string arguments = "")
    {
        var path = In("recording.wav");
        var sources = string.Join('|', Enumerable.Range(0, channels).Select(c => $"random({c})-0.5"));
        Programs.Run("ffmpeg", ["-v", "error", "-y", "-f", "lavfi", "-i", $"aevalsrc={sources}:s=48000:d=1", "-c:a", "pcm_s24le", .. arguments.Split(' ', StringSplitOptions.RemoveEmptyEntries), path]);
        return path;
    }

    private static (int Code, string Output, string Errors) Run(params string[] arguments) => Cli.Run(arguments);
}
