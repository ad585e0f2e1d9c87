using GateSplit.Core.Checks;

namespace GateSplit.Data;

/// <summary>What the list of sessions shows of a split.</summary>
/// <param name="Sources">Its sources in words.</param>
/// <param name="Tracks">How many tracks it has.</param>
/// <param name="ToMend">How many findings should be mended.</param>
public sealed record SplitSummary(string Sources, int Tracks, int ToMend)
{
    /// <summary>The build of the core, whose checks counted: another one may count other things.</summary>
    public static string By { get; } = typeof(AllChecks).Module.ModuleVersionId.ToString("N");

    /// <summary>Sums a session up.</summary>
    /// <param name="session">The session.</param>
    /// <param name="findings">What the checks say of it.</param>
    public static SplitSummary Of(OpenSession session, IEnumerable<Finding> findings) =>
        new(string.Join(", ", session.State.Split.Units.Select(u => u.Name)), session.State.Split.Tracks.Length, findings.Count(f => f.ToMend));
}
