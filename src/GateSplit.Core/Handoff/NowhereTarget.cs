namespace GateSplit.Core.Handoff;

/// <summary>Makes the files of a handoff only to know their bytes.</summary>
public sealed class NowhereTarget : IHandoffTarget
{
    /// <inheritdoc/>
    public async Task Write(string path, Func<Stream, Task> fill, CancellationToken cancel)
    {
        await using var counted = new CountingStream();
        await fill(counted);
    }
}
