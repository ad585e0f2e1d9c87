using System.Buffers.Binary;
using System.Text;
using GateSplit.Core.Charts;
using GateSplit.Core.Demo;
using GateSplit.Core.Handoff;
using GateSplit.Core.Notes;
using GateSplit.Core.Sound;

namespace GateSplit.Tests.Shared;

/// <summary>Files of every kind that is read, and what becomes of them when they are damaged.</summary>
public sealed class DamagedFiles
{
    private readonly string _folder;

    /// <summary>Makes whole files, with other programs where there are any.</summary>
    /// <param name="folder">An empty folder.</param>
    public DamagedFiles(string folder)
    {
        _folder = folder;
        Directory.CreateDirectory(Output);
        Kinds = [.. Sounds(), .. Documents(), .. Sessions()];
    }

    /// <summary>A name, the whole file, and what reads it.</summary>
    public IReadOnlyList<(string Name, byte[] Whole, Action<byte[]> Read)> Kinds { get; }

    /// <summary>Where files that are unpacked go.</summary>
    public string Output => Path.Combine(_folder, "out");

    private IEnumerable<(string Name, byte[] Whole, Action<byte[]> Read)> Sounds()
    {
        Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "sine=330:d=0.05:r=48000", "-ac", "2", Path.Combine(_folder, "a.wav"));
        foreach (var (name, arguments) in new[] { ("b.wav", "-c:a pcm_f32le"), ("c.wav", "-c:a pcm_s24le -rf64 always"), ("d.aiff", ""), ("e.flac", ""), ("f.caf", ""), ("g.w64", ""), ("h.wav", "-c:a pcm_f64le") })
        {
            Programs.Run("ffmpeg", ["-v", "error", "-i", Path.Combine(_folder, "a.wav"), .. arguments.Split(' ', StringSplitOptions.RemoveEmptyEntries), Path.Combine(_folder, name)]);
        }

        foreach (var name in new[] { "a.wav", "b.wav", "c.wav", "d.aiff", "e.flac", "f.caf", "g.w64", "h.wav" })
        {
            var whole = File.ReadAllBytes(Path.Combine(_folder, name));
            if (name == "a.wav")
            {
                var names = Encoding.ASCII.GetBytes("<BWFXML><TRACK_LIST><TRACK><CHANNEL_INDEX>1</CHANNEL_INDEX><NAME>Kick</NAME></TRACK></TRACK_LIST></BWFXML>");
                var size = new byte[4];
                BinaryPrimitives.WriteInt32LittleEndian(size, names.Length);
                whole = [.. whole, .. "iXML"u8, .. size, .. names];
            }

            yield return (name, whole, bytes => ReadSound(Write("in", bytes)));
        }
    }

    private static IEnumerable<(string Name, byte[] Whole, Action<byte[]> Read)> Documents()
    {
        var lamp = LampLit.Session;
        yield return ("song.mid", MidiWriter.Write(lamp.Song), ReadSong);
        yield return ("session.json", SessionFile.Of("Lamp", MidiWriter.Write(lamp.Song), lamp.Split).ToJson(), bytes => SessionFile.Read(bytes));
        yield return ("chart.json", Encoding.UTF8.GetBytes(ChartJson.Write(TansyGrid.Chart)), bytes => ChartJson.Read(Encoding.UTF8.GetString(bytes)));
        yield return ("lines.csv", "track,channels\nKick,1\nOverheads,9-10\n\"Hat, closed\",3\n"u8.ToArray(), bytes => LinesFile.Read(new StringReader(Encoding.UTF8.GetString(bytes))));
    }

    /// <summary>Whole sessions: the zip, and what is in it under sums that are right.</summary>
    private IEnumerable<(string Name, byte[] Whole, Action<byte[]> Read)> Sessions()
    {
        var (whole, packed, recording) = (Path.Combine(_folder, "whole.zip"), Path.Combine(_folder, "packed.zip"), Path.Combine(Output, "x.wav"));
        TravellingSession.Write(TravellingSession.Make(Path.Combine(_folder, "stairs")), whole);
        yield return ("session.zip", File.ReadAllBytes(whole), bytes => TravellingSession.Trouble(Write("in.zip", bytes), recording));
        foreach (var name in new[] { "bundle.json", "revisions/4.json", "takes/1/01 Line.wav", "takes/1/notes.mid" })
        {
            byte[]? body = null;
            TravellingSession.Repack(whole, packed, files => body = files[name]);
            yield return ($"{name} in session.zip", body!, bytes => ReadPacked(whole, packed, name, bytes, recording));
        }
    }

    private static void ReadPacked(string whole, string packed, string name, byte[] bytes, string recording)
    {
        TravellingSession.Repack(whole, packed, files => files[name] = bytes);
        TravellingSession.Trouble(packed, recording);
    }

    private static void ReadSong(byte[] bytes)
    {
        if (MidiReader.Read(bytes) is { Ok: true, Value: var file })
        {
            _ = Song.Of(file).Bars;
        }
    }

    private void ReadSound(string path)
    {
        if (SoundFile.IsWave(path))
        {
            if (WaveReader.Open(path) is { Ok: true, Value: var wave })
            {
                using (wave)
                {
                    ChannelNames.Read(wave);
                    FileMeasure.Of(wave);
                }
            }

            return;
        }

        try
        {
            SoundFile.Describe(path);
            SoundFile.ToWave(path, Path.Combine(Output, "x.wav"));
        }
        catch (IOException e) when (e.Message.Contains("No space left", StringComparison.Ordinal))
        {
            // It says that it is longer than the disk.
        }
    }

    /// <summary>Cut off, bits turned, numbers made extreme, parts doubled, left out or silenced: one or several of these.</summary>
    public static byte[] Damage(Random random, byte[] whole)
    {
        var bytes = whole.ToArray();
        for (var times = 1 + random.Next(3); times > 0 && bytes.Length > 8; times--)
        {
            // Heads are damaged more often than samples.
            var at = random.Next(2) == 0 ? random.Next(Math.Min(bytes.Length - 4, 120)) : random.Next(bytes.Length - 4);
            switch (random.Next(7))
            {
                case 0:
                    bytes = bytes[..at];
                    break;
                case 1:
                    bytes[at] ^= (byte)(1 << random.Next(8));
                    break;
                case 2:
                    bytes[at] = (byte)random.Next(256);
                    break;
                case 3:
                    uint[] extremes = [0, 1, 0x7FFFFFFF, 0x80000000, 0xFFFFFFFE, 0xFFFFFFFF, (uint)bytes.Length, 0x01000000];
                    BinaryPrimitives.WriteUInt32LittleEndian(bytes.AsSpan(at), extremes[random.Next(extremes.Length)]);
                    break;
                case 4:
                    var end = Math.Min(bytes.Length, at + 1 + random.Next(64));
                    bytes = [.. bytes[..end], .. bytes[at..]];
                    break;
                case 5:
                    bytes = [.. bytes[..at], .. bytes[Math.Min(bytes.Length, at + 1 + random.Next(64))..]];
                    break;
                default:
                    bytes.AsSpan(at, Math.Min(bytes.Length - at, random.Next(40))).Fill((byte)(random.Next(2) * 255));
                    break;
            }
        }

        return bytes;
    }

    private string Write(string name, byte[] bytes)
    {
        var path = Path.Combine(_folder, name);
        File.WriteAllBytes(path, bytes);
        return path;
    }
}
