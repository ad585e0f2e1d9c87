using GateSplit.Core.Quantities;
using GateSplit.Data;

namespace GateSplit.Jobs;

/// <summary>
/// How much may wait here that somebody sends or has sent and not yet cut. What is declared counts from the beginning, so that many who
/// begin at once do not fill the disk together.
/// </summary>
/// <param name="store">The audio store.</param>
/// <param name="limits">The limits.</param>
public sealed class UploadRoom(IAudioStore store, UploadLimits limits)
{
    private readonly Lock _beginning = new();

    /// <summary>The limits.</summary>
    public UploadLimits Limits => limits;

    /// <summary>Begins an upload, if there is room for it.</summary>
    /// <param name="sessionId">The session it is for.</param>
    /// <param name="fileName">The file's name where it comes from.</param>
    /// <param name="length">Bytes it will have.</param>
    /// <returns>The upload, or a sentence on why it cannot be taken.</returns>
    /// <exception cref="IOException">The disk refuses.</exception>
    public Core.Result<ResumableUpload> Begin(long sessionId, string fileName, Bytes length)
    {
        lock (_beginning)
        {
            return Refusal(sessionId, length) is { } sentence
                ? new Core.Refusal(sentence)
                : ResumableUpload.Begin(store, sessionId, fileName, length);
        }
    }

    /// <summary>A sentence on why so many bytes more cannot be taken in; null if they can.</summary>
    public string? Refusal(long sessionId, Bytes length)
    {
        var waiting = Waiting();
        var mine = Sum(waiting.Where(w => w.SessionId == sessionId));
        var free = Free(waiting);
        return length > limits.File
            ? $"The file is larger than {limits.File}, which is the most that is taken."
            : mine + length > limits.Session
                ? sessionId == ResumableUpload.NewSession
                    ? $"Sessions of {limits.Session} may be on their way in together, and with this there would be {mine + length}. Wait for those that are coming."
                    : $"Recordings of {limits.Session} may wait to be cut in one session, and with this there would be {mine + length}. Cut or throw away first what is here."
                : Sum(waiting) + length > limits.InAll
                    ? $"Recordings of {limits.InAll} may wait to be cut in all sessions together, and with this there would be {Sum(waiting) + length}. Cut or throw away first what is here."
                    : length * 2 > free
                        ? $"The disk is too full: what comes and what is made of it need {length * 2}, and {free} are free."
                        : null;
    }

    /// <summary>How much more can come into a session.</summary>
    public Bytes Left(long sessionId)
    {
        var waiting = Waiting();
        return Bytes.Max(
            0,
            Bytes.Min(Bytes.Min(limits.File, limits.Session - Sum(waiting.Where(w => w.SessionId == sessionId))), Bytes.Min(limits.InAll - Sum(waiting), new(Free(waiting).Count / 2))));
    }

    /// <summary>How much waits in a session.</summary>
    public Bytes Of(long sessionId) => Sum(Waiting().Where(w => w.SessionId == sessionId));

    /// <summary>Throws away what waits in a session that is gone.</summary>
    public void Discard(long sessionId)
    {
        foreach (var waits in Waiting().Where(w => w.SessionId == sessionId))
        {
            store.Discard(waits.Name);
        }
    }

    private Bytes Free(IReadOnlyList<Waits> waiting) => store.FreeBytes - new Bytes(waiting.Sum(w => (w.Declared - w.Here).Count));

    private static Bytes Sum(IEnumerable<Waits> waiting) => new(waiting.Sum(w => w.Declared.Count));

    private IReadOnlyList<Waits> Waiting() => [.. store.StagingNames().Select(Look).OfType<Waits>()];

    /// <summary>What a folder holds; one that is thrown away meanwhile holds nothing.</summary>
    private Waits? Look(string name)
    {
        try
        {
            if (ResumableUpload.Named(store, name) is { } upload)
            {
                return new Waits(name, upload.SessionId, upload.Length, upload.Offset);
            }

            return BroughtFolder.Size(store, name) is var (sessionId, here, declared) ? new Waits(name, sessionId, declared, here) : null;
        }
        catch (Exception e) when (e is FileNotFoundException or DirectoryNotFoundException)
        {
            return null;
        }
    }

    private sealed record Waits(string Name, long SessionId, Bytes Declared, Bytes Here);
}
