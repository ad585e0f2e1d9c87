using System.Collections.Immutable;

namespace GateSplit.Core.Demo;

/// <summary>The sessions that ship: cues of a small touring company's play about a lighthouse.</summary>
public static class DemoSessions
{
    /// <summary>All of them.</summary>
    public static ImmutableArray<DemoSession> All { get; } = [LampLit.Session, FogSignal.Session, ReliefBoat.Session, SpringTide.Session, Stairwell.Session];
}
