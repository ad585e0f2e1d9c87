using System.Buffers.Binary;
using System.Collections.Immutable;

namespace GateSplit.Core.Notes;

/// <summary>Reads Standard MIDI Files 1.0, types 0 and 1, metrical and SMPTE time, with running status.</summary>
public static class MidiReader
{
    private const int MostTracks = 4096;

    /// <summary>Reads a whole file.</summary>
    /// <param name="bytes">The file.</param>
    /// <returns>The file, or a sentence with the byte offset of what is wrong.</returns>
    public static Result<MidiFile> Read(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length < 14 || !bytes[..4].SequenceEqual("MThd"u8))
        {
            return new Refusal("This is not a MIDI file: it does not begin with MThd.");
        }

        var headerLength = BinaryPrimitives.ReadUInt32BigEndian(bytes[4..]);
        if (headerLength < 6 || headerLength > bytes.Length - 8)
        {
            return new Refusal($"The MIDI file's header says it is {headerLength} bytes long, which cannot be (byte 4).");
        }

        int format = BinaryPrimitives.ReadUInt16BigEndian(bytes[8..]);
        if (format == 2)
        {
            return new Refusal("This is a MIDI file of type 2 (independent patterns), which has no common time. Save it as type 1.");
        }

        if (format > 2)
        {
            return new Refusal($"The MIDI file says it is of type {format}, which does not exist (byte 8).");
        }

        int count = BinaryPrimitives.ReadUInt16BigEndian(bytes[10..]);
        if (count > MostTracks)
        {
            return new Refusal($"The MIDI file says it has {count} tracks; {MostTracks} is the most that is read (byte 10).");
        }

        var division = BinaryPrimitives.ReadInt16BigEndian(bytes[12..]);
        if (ReadTimeBase(division) is not { } timeBase)
        {
            return new Refusal("The MIDI file does not say how long a tick is (byte 12).");
        }

        var tracks = ImmutableArray.CreateBuilder<ImmutableArray<MidiEvent>>();
        var at = 8 + (int)headerLength;
        while (at < bytes.Length && tracks.Count < count)
        {
            if (bytes.Length - at < 8)
            {
                return new Refusal($"The MIDI file is cut off at byte {bytes.Length}, in the head of a track.");
            }

            var length = BinaryPrimitives.ReadUInt32BigEndian(bytes[(at + 4)..]);
            var body = at + 8;
            if (length > bytes.Length - body)
            {
                return new Refusal(
                    $"The MIDI file is cut off: the track at byte {at} should be {Words.Count(length, "byte")} long, and the file ends at byte {bytes.Length}.");
            }

            if (bytes.Slice(at, 4).SequenceEqual("MTrk"u8))
            {
                var walk = new Walk(bytes.Slice(body, (int)length), body);
                var trouble = walk.Run();
                if (trouble is not null)
                {
                    return new Refusal(trouble);
                }

                tracks.Add(walk.Events.ToImmutable());
            }

            at = body + (int)length;
        }

        if (tracks.Count < count)
        {
            return new Refusal(
                $"The MIDI file should have {Words.Count(count, "track")} and ends at byte {bytes.Length} after {tracks.Count}.");
        }

        return tracks.Count == 0
            ? new Refusal("The MIDI file has no tracks.")
            : new MidiFile(format, timeBase, tracks.ToImmutable());
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

    /// <summary>The walk along one track.</summary>
    private ref struct Walk(ReadOnlySpan<byte> body, int offset)
    {
        private readonly ReadOnlySpan<byte> _body = body;
        private readonly int _offset = offset;
        private int _at;
        private byte _running;

        public ImmutableArray<MidiEvent>.Builder Events { get; } = ImmutableArray.CreateBuilder<MidiEvent>();

        public string? Run()
        {
            long tick = 0;
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

                Events.Add(read);
                if (read is { Status: 0xFF, MetaType: MidiFile.EndOfTrack })
                {
                    return null;
                }
            }

            Events.Add(MidiEvent.Meta(tick, MidiFile.EndOfTrack));
            return null;
        }

        private bool Event(long tick, out MidiEvent read)
        {
            read = null!;
            var status = _body[_at];
            if (status < 0x80)
            {
                status = _running;
            }
            else
            {
                _at++;
            }

            if (status is 0xFF or 0xF0 or 0xF7)
            {
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

            if (status is < 0x80 or > 0xEF)
            {
                return false;
            }

            _running = status;
            var count = (status & 0xF0) is 0xC0 or 0xD0 ? 1 : 2;
            if (count > _body.Length - _at)
            {
                return false;
            }

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
