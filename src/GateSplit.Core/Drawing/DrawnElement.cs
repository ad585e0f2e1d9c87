using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Drawing;

/// <summary>An element in the left column.</summary>
/// <param name="Ref">Which.</param>
/// <param name="Name">Its name.</param>
/// <param name="Family">Colour and glyph.</param>
/// <param name="Width">Mono or stereo.</param>
/// <param name="Sounds">True if it plays in the song.</param>
/// <param name="Port">The port it is drawn to; null for none.</param>
/// <param name="At">The start of its rail.</param>
public sealed record DrawnElement(ElementRef Ref, string Name, Family Family, Width Width, bool Sounds, int? Port, Point At);
