using System.Buffers;
using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>
/// How a kind of file holds samples, written from its first byte to its last without going back: the length is known beforehand. Another
/// kind of file is one more class beside its reader, and one more line in <see cref="Containers"/>.
/// </summary>
public interface IContainer
{
    /// <summary>Names it in forms and addresses.</summary>
    string Id { get; }

    /// <summary>Its name for people; empty for the kind that goes without saying.</summary>
    string Name { get; }

    /// <summary>What its file names end in, with the point.</summary>
    string Ending { get; }

    /// <summary>The sample formats it holds and is offered with.</summary>
    ImmutableArray<SampleFormat> Samples { get; }

    /// <summary>What stands before the samples.</summary>
    /// <param name="format">Their shape.</param>
    /// <param name="frames">How many there will be.</param>
    /// <param name="broadcast">What is told of them; null for nothing.</param>
    byte[] Head(AudioFormat format, Frames frames, BroadcastInfo? broadcast);

    /// <summary>Whole frames as the file holds them.</summary>
    /// <param name="format">Their shape.</param>
    /// <param name="frames">Interleaved, little-endian.</param>
    /// <param name="to">Receives them.</param>
    void Body(AudioFormat format, ReadOnlySpan<byte> frames, IBufferWriter<byte> to);

    /// <summary>What stands behind the samples.</summary>
    byte[] Foot(AudioFormat format, Frames frames);
}
