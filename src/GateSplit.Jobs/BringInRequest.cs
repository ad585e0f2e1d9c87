using GateSplit.Core.Planning;

namespace GateSplit.Jobs;

/// <summary>Files that wait to be cut.</summary>
/// <param name="Staging">The folder they lie in.</param>
/// <param name="Lines">What of them goes where.</param>
/// <param name="Convert">True to write what runs at another sample rate anew at that of the session.</param>
public sealed record BringInRequest(string Staging, IReadOnlyList<BroughtLine> Lines, bool Convert = false)
{
    /// <summary>The revision of the split that was shown when it was said what goes where; null for the one it has when it is cut.</summary>
    public int? Revision { get; init; }
}
