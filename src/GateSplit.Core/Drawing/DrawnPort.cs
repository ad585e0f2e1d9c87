using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Drawing;

/// <summary>An opening in the gate, with the input it arrives on.</summary>
/// <param name="UnitId">The unit.</param>
/// <param name="Number">Its number.</param>
/// <param name="Name">Its name on the source.</param>
/// <param name="InputName">The same channels as the recorder names them.</param>
/// <param name="Input">The first input it arrives on; null if nothing leads from it to the recorder.</param>
/// <param name="Width">Mono or a pair.</param>
/// <param name="IsMain">True for the main mix.</param>
/// <param name="Open">True if the mode exposes it.</param>
/// <param name="Used">True if any shown element leaves by it.</param>
/// <param name="Heard">True if a track listens to it.</param>
/// <param name="At">The middle of the opening.</param>
public sealed record DrawnPort(
    UnitId UnitId, int Number, string Name, string InputName, InputRef? Input, Width Width, bool IsMain, bool Open, bool Used, bool Heard, Point At);
