using GateSplit.Core.Checks;
using GateSplit.Data;

namespace GateSplit.Web.Sessions;

/// <summary>A session as it is now.</summary>
/// <param name="Session">The session, ready to be looked at.</param>
/// <param name="Findings">What the checks say of it.</param>
public sealed record SessionNow(OpenSession Session, IReadOnlyList<Finding> Findings);
