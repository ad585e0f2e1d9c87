namespace GateSplit.Core.StandIns;

/// <summary>A note of a voice in samples.</summary>
/// <param name="Start">First sample.</param>
/// <param name="End">First sample after the key is let go.</param>
/// <param name="Choked">First sample at which another voice cuts it off; far away if none does.</param>
/// <param name="Key">0 to 127.</param>
/// <param name="Velocity">1 to 127.</param>
internal readonly record struct PlayedNote(long Start, long End, long Choked, int Key, int Velocity)
{
    /// <summary>Gain of the velocity: 127 is unity, half of it about 10 dB lower.</summary>
    public float Gain => Velocity * Velocity / (127f * 127f) * 0.85f + Velocity / 127f * 0.15f;

    /// <summary>Samples from its start until another voice cuts it off; far away if none does.</summary>
    public long ChokedAfter => Choked == long.MaxValue ? long.MaxValue : Choked - Start;
}
