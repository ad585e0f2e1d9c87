using System.Buffers.Binary;
using System.Collections.Immutable;
using System.Xml;
using System.Xml.Linq;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>The names of the channels of a WAVE file, as its iXML chunk tells them (iXML specification 3.01, TRACK_LIST).</summary>
public static class ChannelNames
{
    private const int MostBytes = 1 << 20;

    /// <summary>Reads them.</summary>
    /// <param name="path">A WAVE, RF64 or BW64 file.</param>
    /// <returns>Name by 1-based channel; empty if there are none, or the chunk cannot be read.</returns>
    public static ImmutableDictionary<int, string> Read(string path)
    {
        using var file = File.OpenHandle(path);
        var length = new Bytes(RandomAccess.GetLength(file));
        Bytes? data = null;
        var head = new byte[24];
        for (Bytes at = 12; at + 8 <= length;)
        {
            RandomAccess.Read(file, head.AsSpan(0, 8), at.Count);
            long size = BinaryPrimitives.ReadUInt32LittleEndian(head.AsSpan(4));
            if (head.AsSpan(0, 4).SequenceEqual("ds64"u8))
            {
                RandomAccess.Read(file, head, (at + 8).Count);
                data = new(BinaryPrimitives.ReadInt64LittleEndian(head.AsSpan(8)));
            }
            else if (head.AsSpan(0, 4).SequenceEqual("data"u8) && size == uint.MaxValue && data is { Count: >= 0 } told)
            {
                size = told.Count;
            }
            else if (head.AsSpan(0, 4).SequenceEqual("iXML"u8) && size <= MostBytes)
            {
                var bytes = new byte[size];
                return RandomAccess.Read(file, bytes, (at + 8).Count) == size ? Parse(bytes) : [];
            }

            at += new Bytes(8 + size + (size & 1));
        }

        return [];
    }

    private static ImmutableDictionary<int, string> Parse(byte[] bytes)
    {
        try
        {
            // A stranger's file: no document types, so nothing is fetched and nothing is expanded.
            using var reader = XmlReader.Create(new MemoryStream(bytes), new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null });
            var names = ImmutableDictionary.CreateBuilder<int, string>();
            foreach (var track in XDocument.Load(reader).Descendants("TRACK"))
            {
                var index = track.Element("INTERLEAVE_INDEX")?.Value ?? track.Element("CHANNEL_INDEX")?.Value;
                if (int.TryParse(index, out var channel) && channel is >= 1 and <= AudioFormat.MostChannels && track.Element("NAME")?.Value.Trim() is { Length: > 0 } name)
                {
                    names[channel] = name;
                }
            }

            return names.ToImmutable();
        }
        catch (XmlException)
        {
            return [];
        }
    }
}
