using GateSplit.Core.Splits;

namespace GateSplit.Core.Drawing;

/// <summary>The heading of a unit and its stretch of wall.</summary>
/// <param name="UnitId">The unit.</param>
/// <param name="Name">Its name.</param>
/// <param name="Mode">Its mode.</param>
/// <param name="Top">Where the heading stands.</param>
/// <param name="Bottom">Where the wall ends.</param>
/// <param name="Hidden">How many elements are left out because they do not sound.</param>
public sealed record DrawnUnit(UnitId UnitId, string Name, string Mode, double Top, double Bottom, int Hidden);
