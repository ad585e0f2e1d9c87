namespace GateSplit.Core.StandIns;

/// <summary>What plays the notes of one voice. Its samples do not depend on the stretches they are asked for in.</summary>
internal interface INotePlayer
{
    /// <summary>Adds the next samples.</summary>
    /// <param name="start">The frame of the first; it follows the last of the stretch before.</param>
    /// <param name="samples">Silence.</param>
    void Render(long start, Span<float> samples);

    /// <summary>Goes to a frame before the first sample is asked for: what was struck earlier sounds as if it had been heard.</summary>
    void SkipTo(long frame);
}
