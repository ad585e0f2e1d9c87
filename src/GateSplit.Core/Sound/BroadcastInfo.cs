using System.Buffers.Binary;
using System.Text;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>The bext chunk of a broadcast WAVE file, version 2 (EBU Tech 3285). It holds ASCII only: another sign becomes a question mark.</summary>
/// <param name="Description">What the file is; 256 ASCII characters at most are kept.</param>
/// <param name="Originated">Local date and time of the recording.</param>
/// <param name="TimeReference">The first frame of the file, counted from midnight of the session's timeline.</param>
/// <param name="CodingHistory">One line a step, ended by CR LF each.</param>
public sealed record BroadcastInfo(string Description, DateTime Originated, Frames TimeReference = default, string CodingHistory = "")
{
    private const short Unset = 0x7FFF;
    private const int FixedLength = 602;

    /// <summary>What identifies the recording for its originator: 32 ASCII characters at most are kept.</summary>
    public string Reference { get; init; } = "";

    /// <summary>How loud the file is; null where nobody has measured it.</summary>
    public Loudness? Loudness { get; init; }

    /// <summary>Its highest true peak, in dBTP; null where nobody has measured it.</summary>
    public Decibels? TruePeak { get; init; }

    /// <summary>Writes the chunk's body, without id and size.</summary>
    public byte[] ToBytes()
    {
        var history = Encoding.ASCII.GetBytes(CodingHistory);
        var body = new byte[FixedLength + history.Length];
        Put(body.AsSpan(0, 256), Description);
        Put(body.AsSpan(256, 32), "Gate Split");
        Put(body.AsSpan(288, 32), Reference);
        Put(body.AsSpan(320, 10), Originated.ToString("yyyy-MM-dd"));
        Put(body.AsSpan(330, 8), Originated.ToString("HH:mm:ss"));
        BinaryPrimitives.WriteInt64LittleEndian(body.AsSpan(338), TimeReference.Count);
        BinaryPrimitives.WriteInt16LittleEndian(body.AsSpan(346), 2);
        double?[] figures = [Loudness?.Integrated, Loudness?.Range, TruePeak?.Value, Loudness?.MaxMomentary, Loudness?.MaxShortTerm];
        for (var i = 0; i < figures.Length; i++)
        {
            BinaryPrimitives.WriteInt16LittleEndian(body.AsSpan(412 + 2 * i), Hundredths(figures[i]));
        }

        history.CopyTo(body, FixedLength);
        return body;
    }

    /// <summary>Hundredths of a unit; silence and what nobody knows are not set.</summary>
    private static short Hundredths(double? value) => value is { } known && double.IsFinite(known) && Math.Abs(known) < 300 ? (short)Math.Round(100 * known) : Unset;

    private static void Put(Span<byte> field, string text)
    {
        var clean = new string([.. text.Select(c => c is >= ' ' and <= '~' ? c : '?')]);
        Encoding.ASCII.GetBytes(clean.AsSpan(0, Math.Min(clean.Length, field.Length)), field);
    }
}
