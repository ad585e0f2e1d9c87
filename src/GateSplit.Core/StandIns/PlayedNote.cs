using GateSplit.Core.Quantities;

namespace GateSplit.Core.StandIns;

/// <summary>A note of a voice in frames.</summary>
/// <param name="Start">First frame.</param>
/// <param name="End">First frame after the key is let go.</param>
/// <param name="Choked">First frame at which another voice cuts it off; never if none does.</param>
/// <param name="Key">0 to 127.</param>
/// <param name="Velocity">1 to 127.</param>
internal readonly record struct PlayedNote(Frames Start, Frames End, Frames Choked, int Key, int Velocity)
{
    /// <summary>Gain of the velocity: 127 is unity, half of it about 10 dB lower.</summary>
    public float Gain => Velocity * Velocity / (127f * 127f) * 0.85f + Velocity / 127f * 0.15f;

    /// <summary>From its start until another voice cuts it off; never if none does.</summary>
    public Frames ChokedAfter => Choked == Frames.Never ? Frames.Never : Choked - Start;
}
