using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>Interleaved frames that can be read from any place: a file, or what is made of one while it is read.</summary>
public interface IRecording
{
    /// <summary>The shape of the samples.</summary>
    AudioFormat Format { get; }

    /// <summary>Its length.</summary>
    Frames Frames { get; }

    /// <summary>Reads interleaved frames; the same place always gives the same bytes.</summary>
    /// <param name="startFrame">0-based first frame.</param>
    /// <param name="into">Space for whole frames.</param>
    /// <returns>Frames read: fewer than asked only at the end.</returns>
    int Read(Frames startFrame, Span<byte> into);
}
