using System.Buffers.Binary;
using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Notes;

/// <summary>Reads Standard MIDI Files 1.0, types 0 and 1, metrical and SMPTE time, with running status.</summary>
public static class MidiReader
{
    private const int MostTracks = 4096;

    /// <summary>The most events that are read: days of music, and more would only fill the memory.</summary>
    public const int MostEvents = 500_000;

    /// <summary>Reads a whole file.</summary>
    /// <param name="bytes">The file.</param>
    /// <returns>The file, or a sentence with the byte offset of what is wrong.</returns>
    public static Result<MidiFile> Read(ReadOnlySpan<byte> bytes)
    {
        var head = ReadHead(bytes);
        if (!head.Ok)
        {
            return new Refusal(head.Trouble);
        }

        var tracks = ImmutableArray.CreateBuilder<ImmutableArray<MidiEvent>>();
        var at = head.Value.Length;
        while (at < bytes.Length && tracks.Count < head.Value.Tracks)
        {
            if (ReadChunk(bytes, ref at, tracks) is { } trouble)
            {
                return new Refusal(trouble);
            }
        }

        if (tracks.Count < head.Value.Tracks)
        {
            return new Refusal(
                $"The MIDI file should have {Words.Count(head.Value.Tracks, "track")} and ends at byte {bytes.Length} after {tracks.Count}.");
        }

        return tracks.Count == 0
            ? new Refusal("The MIDI file has no tracks.")
            : new MidiFile(head.Value.Format, head.Value.TimeBase, tracks.ToImmutable());
    }

    /// <summary>The header chunk: what kind of file it is, how many tracks follow, and how long a tick is.</summary>
    private static Result<Head> ReadHead(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length < 14 || !bytes[..4].SequenceEqual("MThd"u8))
        {
            return new Refusal("This is not a MIDI file: it does not begin with MThd.");
        }

        var length = BinaryPrimitives.ReadUInt32BigEndian(bytes[4..]);
        if (length < 6 || length > bytes.Length - 8)
        {
            return new Refusal($"The MIDI file's header says it is {length} bytes long, which cannot be (byte 4).");
        }

        int format = BinaryPrimitives.ReadUInt16BigEndian(bytes[8..]);
        int count = BinaryPrimitives.ReadUInt16BigEndian(bytes[10..]);
        return (format, count, ReadTimeBase(BinaryPrimitives.ReadInt16BigEndian(bytes[12..]))) switch
        {
            (2, _, _) => new Refusal("This is a MIDI file of type 2 (independent patterns), which has no common time. Save it as type 1."),
            ( > 2, _, _) => new Refusal($"The MIDI file says it is of type {format}, which does not exist (byte 8)."),
            (_, > MostTracks, _) => new Refusal($"The MIDI file says it has {count} tracks; {MostTracks} is the most that is read (byte 10)."),
            (_, _, null) => new Refusal("The MIDI file does not say how long a tick is (byte 12)."),
            (_, _, { } timeBase) => new Head(format, count, timeBase, 8 + (int)length),
        };
    }

    /// <summary>One chunk behind the header; those that are no tracks are passed over.</summary>
    /// <returns>What is wrong; null if nothing is.</returns>
    private static string? ReadChunk(ReadOnlySpan<byte> bytes, ref int at, ImmutableArray<ImmutableArray<MidiEvent>>.Builder tracks)
    {
        if (bytes.Length - at < 8)
        {
            return $"The MIDI file is cut off at byte {bytes.Length}, in the head of a track.";
        }

        var length = BinaryPrimitives.ReadUInt32BigEndian(bytes[(at + 4)..]);
        var body = at + 8;
        if (length > bytes.Length - body)
        {
            return $"The MIDI file is cut off: the track at byte {at} should be {Words.Count(length, "byte")} long, and the file ends at byte {bytes.Length}.";
        }

        if (bytes.Slice(at, 4).SequenceEqual("MTrk"u8))
        {
            var walk = new Walk(bytes.Slice(body, (int)length), body, MostEvents - tracks.Sum(t => t.Length));
            if (walk.Run() is { } trouble)
            {
                return trouble;
            }

            tracks.Add(walk.Events.DrainToImmutable());
        }

        at = body + (int)length;
        return null;
    }

    private static TimeBase? ReadTimeBase(short division)
    {
        if (division > 0)
        {
            return TimeBase.Metrical(division);
        }

        var format = -(sbyte)(division >> 8);
        var ticks = division & 0xFF;
        return format is 24 or 25 or 29 or 30 && ticks > 0 ? TimeBase.Smpte(format, ticks) : null;
    }

    private sealed record Head(int Format, int Tracks, TimeBase TimeBase, int Length);

    /// <summary>The walk along one track.</summary>
    private ref struct Walk(ReadOnlySpan<byte> body, int offset, int most)
    {
        private readonly ReadOnlySpan<byte> _body = body;
        private readonly int _offset = offset;
        private readonly int _most = most;
        private int _at;
        private byte _running;

        public ImmutableArray<MidiEvent>.Builder Events { get; } = ImmutableArray.CreateBuilder<MidiEvent>();

        public string? Run()
        {
            Ticks tick = 0;
            while (_at < _body.Length)
            {
                if (!Variable(out var delta))
                {
                    return $"The MIDI file is damaged at byte {_offset + _at}: a length is cut off or longer than four bytes.";
                }

                tick += delta;
                if (_at >= _body.Length)
                {
                    return $"The MIDI file is damaged at byte {_offset + _at}: a track ends in the middle of an event.";
                }

                var place = _offset + _at;
                if (!Event(tick, out var read))
                {
                    return $"The MIDI file is damaged at byte {place}: the event there makes no sense or is cut off.";
                }

                if (Events.Count == _most)
                {
                    return $"The MIDI file has more than {MostEvents:#,0} events, which is the most that is read (byte {place}).";
                }

                Events.Add(read);
                if (read is { Status: 0xFF, MetaType: MidiFile.EndOfTrack })
                {
                    return null;
                }
            }

            Events.Add(MidiEvent.Meta(tick, MidiFile.EndOfTrack));
            return null;
        }

        private bool Event(Ticks tick, out MidiEvent read)
        {
            var status = _body[_at] < 0x80 ? _running : _body[_at++];
            return status is 0xFF or 0xF0 or 0xF7 ? Long(tick, status, out read) : Channel(tick, status, out read);
        }

        /// <summary>Meta and system exclusive events say how long they are; they end running status.</summary>
        private bool Long(Ticks tick, byte status, out MidiEvent read)
        {
            read = default;
            _running = 0;
            byte type = 0;
            if (status == 0xFF)
            {
                if (_at >= _body.Length)
                {
                    return false;
                }

                type = _body[_at++];
            }

            if (!Variable(out var length) || length > _body.Length - _at)
            {
                return false;
            }

            read = new MidiEvent(tick, status, type, [.. _body.Slice(_at, length)]);
            _at += length;
            return true;
        }

        private bool Channel(Ticks tick, byte status, out MidiEvent read)
        {
            read = default;
            var count = (status & 0xF0) is 0xC0 or 0xD0 ? 1 : 2;
            if (status is < 0x80 or > 0xEF || count > _body.Length - _at)
            {
                return false;
            }

            _running = status;
            var data = _body.Slice(_at, count);
            if (data[0] > 0x7F || data[^1] > 0x7F)
            {
                return false;
            }

            read = new MidiEvent(tick, status, 0, [.. data]);
            _at += count;
            return true;
        }

        private bool Variable(out int value)
        {
            value = 0;
            for (var i = 0; i < 4 && _at < _body.Length; i++)
            {
                var b = _body[_at++];
                value = (value << 7) | (b & 0x7F);
                if (b < 0x80)
                {
                    return true;
                }
            }

            return false;
        }
    }
}
