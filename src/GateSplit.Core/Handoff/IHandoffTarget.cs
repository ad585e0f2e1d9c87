namespace GateSplit.Core.Handoff;

/// <summary>Where the files of a handoff go.</summary>
public interface IHandoffTarget
{
    /// <summary>Writes a file; it has its name only once it is complete.</summary>
    /// <param name="path">Where it lies in the handoff, with a slash between folder and name.</param>
    /// <param name="fill">Writes its bytes.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="IOException">There is no room, or nobody listens any more.</exception>
    Task Write(string path, Func<Stream, Task> fill, CancellationToken cancel);
}
