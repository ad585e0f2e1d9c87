using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>A sound read in another one's time.</summary>
/// <param name="sound">The sound.</param>
/// <param name="place">By how many frames it is later at the start of the other, and how much that grows with each frame.</param>
/// <param name="filtered">True to lead it through the filter that moves sounds, though it is not moved.</param>
internal sealed class Placed(IMonoSound sound, (double Start, double Slope) place, bool filtered = false) : IMonoSound
{
    private readonly bool _moved = filtered || place.Slope != 0 || place.Start != Math.Round(place.Start);
    private float[] _input = [];

    /// <summary>The sound.</summary>
    public IMonoSound Sound => sound;

    /// <inheritdoc/>
    public Frames Frames => sound.Frames;

    /// <inheritdoc/>
    public SampleRate Rate => sound.Rate;

    /// <summary>Reads from a frame of the other.</summary>
    public void Read(long start, Span<float> into)
    {
        if (!_moved)
        {
            sound.Read(start + (long)place.Start, into);
            return;
        }

        if (_input.Length < into.Length + 4 * Interpolator.Reach)
        {
            _input = new float[into.Length + 4 * Interpolator.Reach];
        }

        var first = start + place.Start + place.Slope * start;
        var whole = (long)Math.Floor(first) - 2 * Interpolator.Reach;
        sound.Read(whole, _input);
        Interpolator.Fill(first - whole, 1 + place.Slope, _input, into);
    }
}
