using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.StandIns;

/// <summary>What of an element was measured at a port.</summary>
/// <param name="Port">Its number.</param>
/// <param name="Peak">The highest sample.</param>
/// <param name="Meter">The highest sample of each twentieth of a second.</param>
public sealed record WalkedPort(int Port, Decibels Peak, ImmutableArray<float> Meter);
