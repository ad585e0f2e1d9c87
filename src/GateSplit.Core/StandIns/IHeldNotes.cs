using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.StandIns;

/// <summary>The notes of all voices that hold them.</summary>
internal interface IHeldNotes
{
    /// <summary>Works out as many at a time as the machine can.</summary>
    /// <param name="voices">The voices.</param>
    /// <param name="sampleRate">Frames a second.</param>
    static IHeldNotes Of(ImmutableArray<HeldVoice> voices, SampleRate sampleRate) => Lanes16.Supported
        ? new HeldNotes<Lanes16>(voices, sampleRate)
        : new HeldNotes<Lanes8>(voices, sampleRate);

    /// <summary>Works the next samples out.</summary>
    /// <param name="start">The frame of the first; it follows the last of the stretch before.</param>
    /// <param name="into">For each voice where they go.</param>
    void Render(Frames start, ReadOnlySpan<Memory<float>> into);

    /// <summary>Goes to a frame before the first sample is asked for: what was struck earlier sounds as if it had been heard.</summary>
    void SkipTo(Frames frame);
}
