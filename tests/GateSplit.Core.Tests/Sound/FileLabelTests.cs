using System.Buffers.Binary;
using System.Text;
using System.Xml.Linq;
using GateSplit.Core.Sound;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Sound;

/// <summary>What a file says of itself is read by other tools, and by the layout of the standards.</summary>
public sealed class FileLabelTests : IDisposable
{
    private readonly TempFolder _folder = new();

    public static TheoryData<string> Kinds => ["wave", "flac"];

    public void Dispose() => _folder.Dispose();

    [Theory]
    [MemberData(nameof(Kinds))]
    public void Samples_come_back_bit_by_bit_and_no_tool_complains(string kind)
    {
        var from = Noise(2, SampleFormat.Pcm24, 20_001);
        var path = Write(kind, from, SampleFormat.Pcm24, Label);
        Assert.Equal(from.Bytes, Programs.Decode(path, "s24le"));
        Assert.Equal("", Programs.RunErrors("ffmpeg", "-v", "warning", "-i", path, "-f", "null", "-"));
        Assert.Equal("", Programs.RunErrors("sox", path, "-n"));
        Assert.Equal(("24", "48000", "2", "20001"), (Programs.Run("soxi", "-b", path), Programs.Run("soxi", "-r", path), Programs.Run("soxi", "-c", path), Programs.Run("soxi", "-s", path)));
        Assert.Equal("stereo", Programs.Run("ffprobe", "-v", "error", "-show_entries", "stream=channel_layout", "-of", "csv=p=0", path));
        if (kind == "flac")
        {
            Programs.Run("flac", "-t", "-w", "-s", path);
        }
    }

    [Fact]
    public void A_wave_file_is_read_with_its_origin_by_another_tool()
    {
        var path = Write("wave", Noise(2, SampleFormat.Pcm24, 1000), SampleFormat.Pcm24, Label);
        var tags = Programs.Run("ffprobe", "-v", "error", "-show_entries", "format_tags", "-of", "default=nw=1", path);
        Assert.Contains("TAG:time_reference=12345678901", tags);
        Assert.Contains("TAG:comment=B?hne: Kick", tags); // ASCII
        Assert.Contains("TAG:originator_reference=take 2 t1", tags);
        Assert.Contains("TAG:date=2026-11-23", tags);
        Assert.Contains("TAG:creation_time=04:05:06", tags);
        Assert.Contains("TAG:coding_history=A=PCM,F=48000,W=24,M=stereo,T=recorded", tags);
        Assert.Matches("Producer +: Gate Split", Programs.Run("mediainfo", path));
    }

    [Fact]
    public void Loudness_stands_in_hundredths_where_the_standard_puts_it_and_what_is_unknown_is_not_set()
    {
        var info = new BroadcastInfo("", new DateTime(2026, 1, 1)) { Loudness = new Loudness(-23.456, null, -18.2, double.NegativeInfinity), TruePeak = new(-1.004) };
        var body = info.ToBytes();
        Assert.Equal([-2346, 0x7FFF, -100, -1820, 0x7FFF], Enumerable.Range(0, 5).Select(i => (int)BinaryPrimitives.ReadInt16LittleEndian(body.AsSpan(412 + 2 * i))));
    }

    [Fact]
    public void Names_that_bext_cannot_hold_stand_whole_in_iXML_with_a_name_for_each_channel()
    {
        var chunks = Chunks(File.ReadAllBytes(Write("wave", Noise(2, SampleFormat.Pcm16, 10), SampleFormat.Pcm16, Label with { Track = "Bühne \u0001\uD800<&>" })));
        var xml = XDocument.Parse(Encoding.UTF8.GetString(chunks["iXML"])).Root!;
        Assert.Equal("BWFXML", xml.Name);
        Assert.Equal(("Lamp Lit", "2", "Holds Kick."), (xml.Element("PROJECT")!.Value, xml.Element("TAKE")!.Value, xml.Element("NOTE")!.Value));
        Assert.Equal(["Bühne <&> L", "Bühne <&> R"], xml.Descendants("NAME").Select(n => n.Value));
        var speed = xml.Element("SPEED")!;
        Assert.Equal(12345678901, (long.Parse(speed.Element("TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_HI")!.Value) << 32) + long.Parse(speed.Element("TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_LO")!.Value));
        Assert.Equal("Bühne: Kick", xml.Element("BEXT")!.Element("BWF_DESCRIPTION")!.Value);
    }

    [Fact]
    public void Bars_are_cue_points_with_their_names()
    {
        var chunks = Chunks(File.ReadAllBytes(Write("wave", Noise(1, SampleFormat.Pcm16, 9), SampleFormat.Pcm16, Label)));
        var cue = chunks["cue "];
        Assert.Equal(2, BinaryPrimitives.ReadInt32LittleEndian(cue));
        Assert.Equal((1, 0, 2, 7), (Int(cue, 4), Int(cue, 24), Int(cue, 28), Int(cue, 48)));
        Assert.Equal("data"u8.ToArray(), cue[12..16]);
        var list = chunks["LIST"];
        Assert.Equal("adtllabl"u8.ToArray(), list[..8]);
        Assert.Equal((10, 1), (Int(list, 8), Int(list, 12)));
        Assert.Equal("bar 5\0"u8.ToArray(), list[16..22]);
        Assert.Equal((11, 2), (Int(list, 26), Int(list, 30)));
        Assert.Equal("bar 10\0\0"u8.ToArray(), list[34..]); // a zero at the end, and one more to be even

        static int Int(byte[] bytes, int at) => BinaryPrimitives.ReadInt32LittleEndian(bytes.AsSpan(at));
    }

    [Fact]
    public void A_FLAC_file_says_the_same_as_comments()
    {
        var path = Write("flac", Noise(1, SampleFormat.Pcm16, 48_000), SampleFormat.Pcm16, Label with { Broadcast = Label.Broadcast with { Loudness = new Loudness(-23.456, null, null, null) } });
        var tags = Programs.Run("metaflac", "--export-tags-to=-", path).Split('\n');
        Assert.Contains("TITLE=Bühne", tags);
        Assert.Contains("ALBUM=Lamp Lit", tags);
        Assert.Contains("TIME_REFERENCE=12345678901", tags);
        Assert.Contains("LOUDNESS_INTEGRATED=-23.46 LUFS", tags);
        Assert.DoesNotContain(tags, t => t.StartsWith("TRUE_PEAK", StringComparison.Ordinal));
        Assert.Contains("CHAPTER001NAME=bar 5", tags);
        Assert.Contains("CHAPTER002=00:00:00.000", tags); // 7 frames are less than a millisecond
        Assert.Equal("16", Programs.Run("metaflac", "--show-bps", path));
        Assert.True(new FileInfo(path).Length <= Containers.Of("flac").AtMost(new AudioFormat(1, 48000, SampleFormat.Pcm16), 48_000, Label).Count);
    }

    [Fact]
    public void FLAC_refuses_more_channels_than_it_holds_and_leaves_nothing()
    {
        Assert.Contains("at most 8 channels", Assert.Throws<IOException>(() => Write("flac", Noise(9, SampleFormat.Pcm16, 10), SampleFormat.Pcm16, Label)).Message);
        Assert.Empty(_folder.Names);
    }

    private static FileLabel Label => new(new BroadcastInfo("Bühne: Kick", new DateTime(2026, 11, 23, 4, 5, 6), new(12345678901), "A=PCM,F=48000,W=24,M=stereo,T=recorded\r\n") { Reference = "take 2 t1" })
    {
        Project = "Lamp Lit",
        Track = "Bühne",
        Take = "2",
        Note = "Holds Kick.",
        Cues = [new(0, "bar 5"), new(7, "bar 10")],
    };

    private string Write(string kind, Held from, SampleFormat sample, FileLabel label)
    {
        byte[] bytes = [.. Containers.Of(kind).Pieces(from, from.Format with { Sample = sample }, label, _folder.Path).SelectMany(p => p.ToArray())];
        Assert.True(bytes.Length <= Containers.Of(kind).AtMost(from.Format with { Sample = sample }, from.Frames, label).Count);
        var path = _folder[$"out.{(kind == "flac" ? "flac" : "wav")}"];
        File.WriteAllBytes(path, bytes);
        Assert.Single(_folder.Names);
        return path;
    }

    private static Held Noise(int channels, SampleFormat sample, int frames)
    {
        var format = new AudioFormat(channels, 48000, sample);
        var bytes = new byte[frames * format.BytesPerFrame];
        new Random(4).NextBytes(bytes);
        return new Held(format, bytes);
    }

    private static Dictionary<string, byte[]> Chunks(byte[] file)
    {
        var chunks = new Dictionary<string, byte[]>();
        for (var at = 12; at < file.Length;)
        {
            var size = BinaryPrimitives.ReadInt32LittleEndian(file.AsSpan(at + 4));
            chunks[Encoding.ASCII.GetString(file, at, 4)] = file[(at + 8)..(at + 8 + size)];
            at += 8 + size + (size & 1);
        }

        return chunks;
    }
}
