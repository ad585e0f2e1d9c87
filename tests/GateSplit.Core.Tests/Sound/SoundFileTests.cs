using System.Buffers.Binary;
using System.Text;
using GateSplit.Core.Sound;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Sound;

/// <summary>Files of other kinds become WAVE, sample by sample what ffmpeg reads from them; names of channels are read from strangers' files.</summary>
public sealed class SoundFileTests : IDisposable
{
    private readonly TempFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Theory]
    [InlineData("a.aiff", "pcm_s16be", "s16le")]
    [InlineData("b.aiff", "pcm_s24be", "s24le")]
    [InlineData("c.aiff", "pcm_s32be", "s32le")]
    [InlineData("d.flac", "flac -sample_fmt s16", "s16le")]
    [InlineData("e.flac", "flac -sample_fmt s32 -bits_per_raw_sample 24", "s24le")]
    [InlineData("f.aif", "pcm_f32be", "f32le")]
    [InlineData("g.caf", "pcm_s24le", "s24le")]
    public void Every_sample_is_what_another_program_reads(string name, string codec, string format)
    {
        var from = _folder[name];
        Programs.Run("ffmpeg", ["-v", "error", "-f", "lavfi", "-i", "anoisesrc=d=0.7:r=48000:a=0.8", "-f", "lavfi", "-i", "sine=330:d=0.7:r=48000", "-filter_complex", "amerge", "-c:a", .. codec.Split(' '), from]);
        var to = _folder[name + ".wav"];
        Assert.False(SoundFile.IsWave(from));
        Assert.Null(SoundFile.ToWave(from, to));
        Assert.True(SoundFile.IsWave(to));
        using var wave = WaveReader.Open(to).Value!;
        Assert.Equal(new SoundFileShape(wave.Format, wave.Frames), SoundFile.Describe(from).Value);
        Assert.Equal((2, 48000, format.StartsWith('f'), int.Parse(format[1..3])), (wave.Format.Channels, wave.Format.SampleRate, wave.Format.IsFloat, wave.Format.BitsPerSample));
        var ours = new byte[wave.Format.Bytes(wave.Frames).Count];
        wave.Read(0, ours);
        Assert.Equal(Programs.Decode(from, format), ours);
    }

    [Fact]
    public void What_is_no_sound_or_has_lost_some_is_told()
    {
        File.WriteAllText(_folder["text.flac"], "This is no sound at all.");
        Assert.Equal("This is no sound file that can be read here: WAVE, RF64, AIFF and FLAC are.", SoundFile.ToWave(_folder["text.flac"], _folder["x.wav"]));
        Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "sine=330:d=0.2:r=48000", "-c:a", "libvorbis", _folder["lossy.ogg"]);
        Assert.StartsWith("This file is compressed with loss", SoundFile.ToWave(_folder["lossy.ogg"], _folder["x.wav"])!, StringComparison.Ordinal);
        Assert.Empty(Directory.GetFiles(_folder[""], "x.wav*"));
    }

    [Fact]
    public void A_file_that_is_cut_off_is_read_as_far_as_it_goes()
    {
        Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "sine=330:d=2:r=48000", "-c:a", "pcm_s16be", _folder["whole.aiff"]);
        var bytes = File.ReadAllBytes(_folder["whole.aiff"]);
        File.WriteAllBytes(_folder["half.aiff"], bytes[..(bytes.Length / 2)]);
        Assert.Null(SoundFile.ToWave(_folder["half.aiff"], _folder["half.wav"]));
        using var half = WaveReader.Open(_folder["half.wav"]).Value!;
        var read = new byte[half.Frames.Count * 2];
        half.Read(0, read);
        Assert.InRange(half.Frames.Count, 40_000, 48_100);
        Assert.Equal(Programs.Decode(_folder["whole.aiff"], "s16le")[..read.Length], read);
    }

    [Theory]
    [InlineData("<BWFXML><TRACK_LIST><TRACK><CHANNEL_INDEX>9</CHANNEL_INDEX><INTERLEAVE_INDEX>1</INTERLEAVE_INDEX><NAME>Kick in</NAME></TRACK><TRACK><CHANNEL_INDEX>2</CHANNEL_INDEX><NAME> Snare </NAME></TRACK></TRACK_LIST></BWFXML>", "1 Kick in, 2 Snare")]
    [InlineData("<BWFXML><TRACK_LIST><TRACK><CHANNEL_INDEX>0</CHANNEL_INDEX><NAME>None</NAME></TRACK><TRACK><CHANNEL_INDEX>999</CHANNEL_INDEX><NAME>None</NAME></TRACK><TRACK><NAME>None</NAME></TRACK></TRACK_LIST></BWFXML>", "")]
    [InlineData("<!DOCTYPE a [<!ENTITY x SYSTEM \"file:///etc/passwd\">]><BWFXML><TRACK><CHANNEL_INDEX>1</CHANNEL_INDEX><NAME>&x;</NAME></TRACK></BWFXML>", "")]
    [InlineData("<BWFXML><TRACK_LIST>", "")]
    [InlineData("", "")]
    public void Names_of_channels_are_read_from_iXML_and_from_nothing_else(string xml, string names)
    {
        var path = _folder["named.wav"];
        using (var writer = new WaveWriter(path, new AudioFormat(2, 48000, SampleFormat.Pcm24), 101, null))
        {
            writer.Write(new byte[101 * 6]);
            writer.Finish();
            writer.TakeName();
        }

        // Behind the samples, as recorders write it.
        var body = Encoding.UTF8.GetBytes(xml);
        using (var file = new FileStream(path, FileMode.Append))
        {
            file.Write("iXML"u8);
            var size = new byte[4];
            BinaryPrimitives.WriteInt32LittleEndian(size, body.Length);
            file.Write(size);
            file.Write(body);
        }

        Assert.Equal(names, string.Join(", ", ChannelNames.Read(path).OrderBy(n => n.Key).Select(n => $"{n.Key} {n.Value}")));
    }
}
