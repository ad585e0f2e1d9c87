namespace GateSplit.Core.Sound;

/// <summary>
/// Triangular dither (TPDF) of two least significant bits peak to peak, for going down to 16 bit: it turns the
/// rounding error into noise that does not follow the signal. Seeded, so the same audio gives the same bytes.
/// </summary>
/// <remarks>Lipshitz, Wannamaker, Vanderkooy, "Quantization and Dither", J. AES 40 (1992).</remarks>
/// <param name="seed">Any number; one a channel.</param>
public sealed class Dither(uint seed)
{
    private const float Step = 1f / 32768f;
    private uint _state = seed * 2654435761u + 1;

    /// <summary>Adds the noise in place.</summary>
    public void Apply(Span<float> samples)
    {
        foreach (ref var sample in samples)
        {
            sample += (Uniform() - Uniform()) * Step;
        }
    }

    private float Uniform()
    {
        _state ^= _state << 13;
        _state ^= _state >> 17;
        _state ^= _state << 5;
        return (_state >> 8) / 16777216f;
    }
}
