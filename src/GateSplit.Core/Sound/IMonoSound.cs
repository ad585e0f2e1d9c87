using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>A sound of one channel that can be read anywhere, with nothing before its start and behind its end.</summary>
public interface IMonoSound
{
    /// <summary>Its length.</summary>
    Frames Frames { get; }

    /// <summary>Frames a second.</summary>
    SampleRate Rate { get; }

    /// <summary>Reads a stretch, which may lie outside it.</summary>
    /// <param name="start">Its first frame; may be before the sound.</param>
    /// <param name="into">Receives it.</param>
    void Read(long start, Span<float> into);
}
