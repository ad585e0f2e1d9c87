using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>
/// A kind of file that is written, from its first byte to its last without going back. Another kind is one more class beside its reader,
/// and one more line in <see cref="Containers"/>.
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

    /// <summary>The most channels that a file holds.</summary>
    int MostChannels { get; }

    /// <summary>What a file takes: exactly, or where that is known only when it is written, never less.</summary>
    /// <param name="format">The shape of its samples.</param>
    /// <param name="frames">Its length.</param>
    /// <param name="label">What it says of itself; null for nothing.</param>
    Bytes AtMost(AudioFormat format, Frames frames, FileLabel? label);

    /// <summary>The bytes of a file, from its first to its last; each piece holds until the next is asked for.</summary>
    /// <param name="from">What it holds.</param>
    /// <param name="format">How its samples are stored; as many channels as the recording.</param>
    /// <param name="label">What it says of itself; null for nothing.</param>
    /// <param name="folder">Where there is room for what has to be written before it can be read.</param>
    /// <exception cref="IOException">The disk refuses.</exception>
    IEnumerable<ReadOnlyMemory<byte>> Pieces(IRecording from, AudioFormat format, FileLabel? label, string folder);
}
