using System.Buffers.Binary;
using System.Globalization;
using System.Text;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>The comments of a FLAC file (RFC 9639, section 8.6): what a WAVE file says in bext, iXML and cue chunks.</summary>
public static class FlacComments
{
    private const int Signature = 4;
    private const int BlockHead = 4;
    private const int StreamInfo = 0;
    private const int Comments = 4;
    private const int Padding = 1;
    private const int Last = 0x80;
    private const int LongestBlock = (1 << 24) - 1;

    /// <summary>The body of a comment block.</summary>
    /// <param name="label">What the file says of itself; null for nothing.</param>
    /// <param name="sampleRate">Its frames a second.</param>
    public static byte[] Of(FileLabel? label, SampleRate sampleRate)
    {
        var text = new MemoryStream();
        Put(text, "Gate Split");
        List<string> fields = label is null ? [] : [.. Fields(label, sampleRate).Where(f => f.Value.Length > 0).Select(f => $"{f.Name}={f.Value}")];
        Count(text, fields.Count);
        fields.ForEach(f => Put(text, f));
        return text.ToArray();
    }

    /// <summary>Reads what stands before the first frame of an encoded file, and gives it back with other comments; the file is left at that frame.</summary>
    /// <param name="file">A FLAC file from its start.</param>
    /// <param name="comments">The body of a comment block.</param>
    public static byte[] Head(Stream file, byte[] comments)
    {
        var blocks = new List<(int Type, byte[] Body)>();
        var head = new byte[Signature];
        file.ReadExactly(head);
        for (var more = true; more;)
        {
            var start = new byte[BlockHead];
            file.ReadExactly(start);
            more = (start[0] & Last) == 0;
            var body = new byte[BinaryPrimitives.ReadInt32BigEndian(start) & LongestBlock];
            file.ReadExactly(body);
            blocks.Add((start[0] & ~Last, body));
        }

        List<(int Type, byte[] Body)> kept = [.. blocks.Where(b => b.Type == StreamInfo), (Comments, comments), .. blocks.Where(b => b.Type is not (StreamInfo or Comments or Padding))];
        var whole = new MemoryStream();
        whole.Write(head);
        for (var i = 0; i < kept.Count; i++)
        {
            var start = new byte[BlockHead];
            BinaryPrimitives.WriteInt32BigEndian(start, kept[i].Body.Length);
            start[0] = (byte)(kept[i].Type | (i == kept.Count - 1 ? Last : 0));
            whole.Write(start);
            whole.Write(kept[i].Body);
        }

        return whole.ToArray();
    }

    private static IEnumerable<(string Name, string Value)> Fields(FileLabel label, SampleRate sampleRate)
    {
        yield return ("TITLE", label.Track);
        yield return ("ALBUM", label.Project);
        yield return ("DATE", label.Broadcast.Originated.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture));
        yield return ("DESCRIPTION", label.Broadcast.Description);
        yield return ("COMMENT", label.Note);
        yield return ("TAKE", label.Take);
        yield return ("ORIGINATOR_REFERENCE", label.Broadcast.Reference);
        yield return ("ORIGINATION_TIME", label.Broadcast.Originated.ToString("HH:mm:ss", CultureInfo.InvariantCulture));
        yield return ("TIME_REFERENCE", label.Broadcast.TimeReference.ToString());
        yield return ("CODING_HISTORY", label.Broadcast.CodingHistory.TrimEnd());
        yield return ("LOUDNESS_INTEGRATED", Level(label.Broadcast.Loudness?.Integrated, "LUFS"));
        yield return ("LOUDNESS_RANGE", Level(label.Broadcast.Loudness?.Range, "LU"));
        yield return ("TRUE_PEAK", Level(label.Broadcast.TruePeak?.Value, "dBTP"));
        for (var i = 0; i < label.Cues.Length && i < 999; i++)
        {
            var at = TimeSpan.FromSeconds(label.Cues[i].At.Seconds(sampleRate));
            yield return ($"CHAPTER{i + 1:000}", at.ToString(@"hh\:mm\:ss\.fff", CultureInfo.InvariantCulture));
            yield return ($"CHAPTER{i + 1:000}NAME", label.Cues[i].Name);
        }
    }

    private static string Level(double? value, string unit) => value is { } known && double.IsFinite(known) ? string.Create(CultureInfo.InvariantCulture, $"{known:0.00} {unit}") : "";

    private static void Put(Stream to, string text)
    {
        var bytes = Encoding.UTF8.GetBytes(text);
        Count(to, bytes.Length);
        to.Write(bytes);
    }

    private static void Count(Stream to, int value)
    {
        Span<byte> bytes = stackalloc byte[4];
        BinaryPrimitives.WriteInt32LittleEndian(bytes, value);
        to.Write(bytes);
    }
}
