using System.Buffers.Binary;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Notes;

/// <summary>Writes Standard MIDI Files 1.0, types 0 and 1, every status byte spelled out.</summary>
public static class MidiWriter
{
    /// <summary>What four bytes of seven bits hold: the longest time between two events.</summary>
    private const int LongestDelta = 0x0FFFFFFF;
    private const byte Text = 0x01;

    /// <summary>Writes a whole file.</summary>
    /// <param name="file">Its events, each track in order of time.</param>
    public static byte[] Write(MidiFile file)
    {
        using var to = new MemoryStream();
        Span<byte> header = stackalloc byte[14];
        "MThd"u8.CopyTo(header);
        BinaryPrimitives.WriteUInt32BigEndian(header[4..], 6);
        BinaryPrimitives.WriteUInt16BigEndian(header[8..], (ushort)file.Format);
        BinaryPrimitives.WriteUInt16BigEndian(header[10..], (ushort)file.Tracks.Length);
        BinaryPrimitives.WriteUInt16BigEndian(header[12..], file.TimeBase.IsSmpte
            ? (ushort)(((byte)-file.TimeBase.SmpteFormat << 8) | file.TimeBase.TicksPerFrame)
            : (ushort)file.TimeBase.TicksPerQuarter);
        to.Write(header);
        Span<byte> head = stackalloc byte[8];
        "MTrk"u8.CopyTo(head);
        foreach (var track in file.Tracks)
        {
            var body = Body(track);
            BinaryPrimitives.WriteUInt32BigEndian(head[4..], (uint)body.Length);
            to.Write(head);
            to.Write(body);
        }

        return to.ToArray();
    }

    private static byte[] Body(IEnumerable<MidiEvent> events)
    {
        using var to = new MemoryStream();
        Ticks tick = 0;
        foreach (var item in events)
        {
            for (; item.Tick - tick > LongestDelta; tick += LongestDelta)
            {
                // A longer time is divided by texts without a letter.
                Variable(to, LongestDelta);
                to.Write([0xFF, Text, 0]);
            }

            Variable(to, (int)(item.Tick - tick).Count);
            tick = item.Tick;
            to.WriteByte(item.Status);
            if (item.Status >= 0xF0)
            {
                if (item.Status == 0xFF)
                {
                    to.WriteByte(item.MetaType);
                }

                Variable(to, item.Data.Length);
            }

            item.Data.WriteTo(to);
        }

        return to.ToArray();
    }

    private static void Variable(Stream to, int value)
    {
        for (var shift = 21; shift > 0; shift -= 7)
        {
            if (value >> shift != 0)
            {
                to.WriteByte((byte)(0x80 | ((value >> shift) & 0x7F)));
            }
        }

        to.WriteByte((byte)(value & 0x7F));
    }
}
