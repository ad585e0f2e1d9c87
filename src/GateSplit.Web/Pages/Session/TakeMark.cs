using GateSplit.Core.Quantities;

namespace GateSplit.Web.Pages.Session;

/// <summary>A place in a waveform that something is said of.</summary>
/// <param name="At">Its frame.</param>
/// <param name="Kind">The class it is drawn with: "clip" or "damage".</param>
/// <param name="Says">What is there.</param>
public sealed record TakeMark(Frames At, string Kind, string Says);
