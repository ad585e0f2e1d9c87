using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>A recording as it is drawn, at any width, from anywhere in it.</summary>
public interface IWaveform
{
    /// <summary>Its channels.</summary>
    int Channels { get; }

    /// <summary>Its length.</summary>
    Frames Frames { get; }

    /// <summary>Lowest and highest sample of each of some equal stretches, full scale 1.0; zero is always between them. Nothing before its start and behind its end.</summary>
    /// <param name="channel">0-based.</param>
    /// <param name="start">Where the picture begins, in frames; may lie before the recording.</param>
    /// <param name="frames">Frames across the picture, one or more a column.</param>
    /// <param name="columns">Points across the picture.</param>
    (float Low, float High)[] Columns(int channel, double start, double frames, int columns);

    /// <summary>Samples one by one; 0 before its start and behind its end.</summary>
    /// <param name="channel">0-based.</param>
    /// <param name="start">The first frame; may lie before the recording.</param>
    /// <param name="into">Receives them.</param>
    void Samples(int channel, long start, Span<float> into);
}
