namespace GateSplit.Core.StandIns;

/// <summary>A shared effect of a source: takes what is sent to it, gives the effect alone.</summary>
internal interface IReturnEffect
{
    /// <summary>Processes a stretch.</summary>
    /// <param name="inLeft">What is sent, left.</param>
    /// <param name="inRight">What is sent, right.</param>
    /// <param name="outLeft">Receives the effect alone.</param>
    /// <param name="outRight">Receives the effect alone.</param>
    void Process(ReadOnlySpan<float> inLeft, ReadOnlySpan<float> inRight, Span<float> outLeft, Span<float> outRight);
}
