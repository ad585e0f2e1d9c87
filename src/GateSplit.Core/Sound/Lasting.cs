using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>Lengths in frames that last about as long at any sample rate, so that what is looked at holds as much of a sound.</summary>
internal static class Lasting
{
    private const double Usual = 48000; // Hz
    private const int MostHalved = 4; // times: at lower rates there is nothing to hear

    /// <summary>As many frames as last about as long as some do at 48 kHz, times a power of two, so that a power of two stays one.</summary>
    /// <param name="frames">How many at 48 kHz.</param>
    /// <param name="rate">The sample rate.</param>
    public static int Frames(int frames, SampleRate rate)
    {
        var doubled = Math.Max(-MostHalved, (int)Math.Round(Math.Log2(rate.Hz / Usual)));
        return doubled < 0 ? Math.Max(1, frames >> -doubled) : frames << doubled;
    }
}
