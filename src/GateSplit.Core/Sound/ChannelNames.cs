using System.Collections.Immutable;
using System.Xml;

namespace GateSplit.Core.Sound;

/// <summary>The names of the channels of a WAVE file, as its iXML chunk tells them (iXML specification 3.01, TRACK_LIST).</summary>
public static class ChannelNames
{
    private const int MostBytes = 1 << 20;
    private const int MostNodes = 100_000;
    private const int Deepest = 16;

    /// <summary>Reads them.</summary>
    /// <param name="wave">An open file.</param>
    /// <returns>Name by 1-based channel; empty if there are none, or the chunk cannot be read.</returns>
    public static ImmutableDictionary<int, string> Read(WaveReader wave) =>
        wave.Chunk("iXML", MostBytes) is { } bytes ? Parse(bytes.AsSpan().TrimEnd((byte)0).ToArray()) : ImmutableDictionary<int, string>.Empty;

    /// <summary>Goes through it once from front to end: a stranger's file may be as deep and as long as it likes.</summary>
    private static ImmutableDictionary<int, string> Parse(byte[] bytes)
    {
        var names = ImmutableDictionary.CreateBuilder<int, string>();
        try
        {
            // No document types, so nothing is fetched and nothing is expanded.
            using var reader = XmlReader.Create(new MemoryStream(bytes), new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null });
            Dictionary<string, string>? track = null;
            string? field = null;
            for (var nodes = 0; nodes < MostNodes && reader.Read(); nodes++)
            {
                if (reader.Depth > Deepest)
                {
                    break;
                }

                switch (reader.NodeType)
                {
                    case XmlNodeType.Element when reader.LocalName == "TRACK":
                        track = reader.IsEmptyElement ? null : [];
                        field = null;
                        break;
                    case XmlNodeType.Element:
                        field = reader.IsEmptyElement ? null : reader.LocalName;
                        break;
                    case XmlNodeType.Text or XmlNodeType.CDATA when track is not null && field is not null:
                        track[field] = track.GetValueOrDefault(field) + reader.Value;
                        break;
                    case XmlNodeType.EndElement when reader.LocalName == "TRACK" && track is not null:
                        Keep(track, names);
                        track = null;
                        break;
                    case XmlNodeType.EndElement:
                        field = null;
                        break;
                }
            }
        }
        catch (XmlException)
        {
            return ImmutableDictionary<int, string>.Empty;
        }

        return names.ToImmutable();
    }

    private static void Keep(Dictionary<string, string> track, ImmutableDictionary<int, string>.Builder names)
    {
        var index = track.GetValueOrDefault("INTERLEAVE_INDEX") ?? track.GetValueOrDefault("CHANNEL_INDEX");
        if (int.TryParse(index, out var channel) && channel is >= 1 and <= AudioFormat.MostChannels && track.GetValueOrDefault("NAME")?.Trim() is { Length: > 0 } name)
        {
            names[channel] = name;
        }
    }
}
