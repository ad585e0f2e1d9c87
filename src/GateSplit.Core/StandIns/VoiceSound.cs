namespace GateSplit.Core.StandIns;

/// <summary>
/// One sounding note. It renders itself in pieces of a fixed length counted from its own start, so many samples can be
/// computed side by side and still nothing depends on the blocks they are asked for in.
/// </summary>
internal abstract class VoiceSound
{
    /// <summary>Samples rendered at a time.</summary>
    protected const int PieceFrames = 64;

    /// <summary>A part of a sound below this level, -94 dBFS, has died away.</summary>
    protected const double Quiet = 2e-5;

    private readonly float[] _piece = new float[PieceFrames];
    private int _used = PieceFrames;

    /// <summary>Adds its next samples.</summary>
    /// <returns>False once it has died away.</returns>
    public bool AddTo(Span<float> samples)
    {
        while (!samples.IsEmpty)
        {
            if (_used == PieceFrames)
            {
                if (IsOver)
                {
                    return false;
                }

                Array.Clear(_piece);
                Render(_piece);
                _used = 0;
            }

            var count = Math.Min(PieceFrames - _used, samples.Length);
            Mixing.AddScaled(samples[..count], _piece.AsSpan(_used, count), 1);
            _used += count;
            samples = samples[count..];
        }

        return _used < PieceFrames || !IsOver;
    }

    /// <summary>True once nothing is left to hear.</summary>
    protected abstract bool IsOver { get; }

    /// <summary>Adds the next piece.</summary>
    /// <param name="piece">Silence, of the length of a piece.</param>
    protected abstract void Render(Span<float> piece);
}
