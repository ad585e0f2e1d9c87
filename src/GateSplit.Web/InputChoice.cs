using GateSplit.Core.Splits;

namespace GateSplit.Web;

/// <summary>A choice of inputs for a track.</summary>
/// <param name="Split">The split.</param>
/// <param name="Track">The track.</param>
/// <param name="Id">The id of the control.</param>
/// <param name="Labelled">True if the control has to name itself.</param>
/// <param name="Once">True to write only the input it has; the others stand on the page once for all tracks.</param>
public sealed record InputChoice(Split Split, Track Track, string Id, bool Labelled, bool Once = false);
