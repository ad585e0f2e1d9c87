using GateSplit.Core.Quantities;

namespace GateSplit.Core.Notes;

/// <summary>One event of a MIDI track at its tick.</summary>
/// <param name="Tick">Ticks from the start of the file.</param>
/// <param name="Status">The status byte: 0x80 to 0xEF for channel messages, 0xF0 and 0xF7 for system exclusive, 0xFF for meta events.</param>
/// <param name="MetaType">The type of a meta event; 0 otherwise.</param>
/// <param name="Data">One or two data bytes of a channel message, or the payload of the others.</param>
public readonly record struct MidiEvent(Ticks Tick, byte Status, byte MetaType, MidiData Data)
{
    /// <summary>1 to 16 for channel messages.</summary>
    public int Channel => (Status & 0x0F) + 1;

    /// <summary>True for a note that begins: note-on with a velocity above 0.</summary>
    public bool IsNoteOn => (Status & 0xF0) == 0x90 && Data[1] > 0;

    /// <summary>True for a note that ends: note-off, or note-on with velocity 0.</summary>
    public bool IsNoteOff => (Status & 0xF0) == 0x80 || ((Status & 0xF0) == 0x90 && Data[1] == 0);

    /// <summary>A meta event.</summary>
    public static MidiEvent Meta(Ticks tick, byte type, params ReadOnlySpan<byte> payload) => new(tick, 0xFF, type, [.. payload]);

    /// <summary>A channel message.</summary>
    /// <param name="tick">Ticks from the start.</param>
    /// <param name="kind">0x80 to 0xE0.</param>
    /// <param name="channel">1 to 16.</param>
    /// <param name="data">One or two bytes of 7 bits.</param>
    public static MidiEvent Message(Ticks tick, int kind, int channel, params ReadOnlySpan<byte> data) =>
        new(tick, (byte)(kind | (channel - 1)), 0, [.. data]);
}
