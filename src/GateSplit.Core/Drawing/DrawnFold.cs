using GateSplit.Core.Charts;
using GateSplit.Core.Views;

namespace GateSplit.Core.Drawing;

/// <summary>A group of a source drawn as one row.</summary>
/// <param name="Key">"unit/group".</param>
/// <param name="Name">The group's name.</param>
/// <param name="Family">The family of its first element.</param>
/// <param name="Elements">How many elements it holds.</param>
/// <param name="Ports">The ports they leave by: "2-13".</param>
/// <param name="Tracks">How many tracks carry nothing else.</param>
/// <param name="Places">The places that are folded away in it.</param>
/// <param name="At">The start of its rail.</param>
public sealed record DrawnFold(
    string Key, string Name, Family Family, int Elements, string Ports, int Tracks, IReadOnlySet<Place> Places, Point At);
