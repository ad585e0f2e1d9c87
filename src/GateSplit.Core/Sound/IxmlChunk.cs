using System.Globalization;
using System.Text;
using System.Xml;

namespace GateSplit.Core.Sound;

/// <summary>The iXML chunk of a WAVE file (iXML specification 1.61): what a file is, in any language, with a name for each channel.</summary>
public static class IxmlChunk
{
    /// <summary>The chunk's body, without id and size: UTF-8.</summary>
    /// <param name="label">What the file says of itself.</param>
    /// <param name="format">The shape of its samples.</param>
    public static byte[] Of(FileLabel label, AudioFormat format)
    {
        var text = new MemoryStream();
        using (var xml = XmlWriter.Create(text, new XmlWriterSettings { Encoding = new UTF8Encoding(false), CheckCharacters = true, Indent = true, NewLineChars = "\n" }))
        {
            xml.WriteStartElement("BWFXML");
            Write(xml, "IXML_VERSION", "1.61");
            Write(xml, "PROJECT", label.Project);
            Write(xml, "TAKE", label.Take);
            Write(xml, "NOTE", label.Note);
            xml.WriteStartElement("SPEED");
            Write(xml, "FILE_SAMPLE_RATE", Number(format.SampleRate.Hz));
            Write(xml, "AUDIO_BIT_DEPTH", Number(format.BitsPerSample));
            Write(xml, "TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_HI", Number(label.Broadcast.TimeReference.Count >> 32));
            Write(xml, "TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_LO", Number(label.Broadcast.TimeReference.Count & uint.MaxValue));
            Write(xml, "TIMESTAMP_SAMPLE_RATE", Number(format.SampleRate.Hz));
            xml.WriteEndElement();
            xml.WriteStartElement("TRACK_LIST");
            Write(xml, "TRACK_COUNT", Number(format.Channels));
            for (var channel = 1; channel <= format.Channels; channel++)
            {
                xml.WriteStartElement("TRACK");
                Write(xml, "CHANNEL_INDEX", Number(channel));
                Write(xml, "INTERLEAVE_INDEX", Number(channel));
                Write(xml, "NAME", label.Track + Side(channel, format.Channels));
                xml.WriteEndElement();
            }

            xml.WriteEndElement();
            xml.WriteStartElement("BEXT");
            Write(xml, "BWF_DESCRIPTION", label.Broadcast.Description);
            xml.WriteEndElement();
            xml.WriteEndElement();
        }

        return text.ToArray();
    }

    private static string Side(int channel, int channels) => channels switch
    {
        1 => "",
        2 => channel == 1 ? " L" : " R",
        _ => $" {channel}",
    };

    private static string Number(long value) => value.ToString(CultureInfo.InvariantCulture);

    /// <summary>What XML cannot hold, control characters and halves of signs, is left out.</summary>
    private static void Write(XmlWriter xml, string name, string value) => xml.WriteElementString(name, Words(value));

    private static string Words(string value)
    {
        var words = new StringBuilder();
        foreach (var rune in value.EnumerateRunes())
        {
            if (rune != Rune.ReplacementChar && (!rune.IsBmp || XmlConvert.IsXmlChar((char)rune.Value)))
            {
                words.Append(rune);
            }
        }

        return words.ToString();
    }
}
