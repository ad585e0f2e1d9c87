using GateSplit.Core;
using GateSplit.Core.Templates;

namespace GateSplit.Data;

/// <summary>What is owned, as it is kept.</summary>
/// <param name="Gear">The gear, or why it cannot be read.</param>
/// <param name="Revision">Its revision: 0 if nothing was ever kept.</param>
/// <param name="LastChange">What was done last and can be taken back; null for nothing.</param>
public sealed record KeptGear(Result<Gear> Gear, int Revision, string? LastChange);
