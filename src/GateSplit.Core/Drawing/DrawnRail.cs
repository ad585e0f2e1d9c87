using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Views;

namespace GateSplit.Core.Drawing;

/// <summary>A stroke of horizontal runs with 45-degree transitions.</summary>
/// <param name="Kind">What it stands for.</param>
/// <param name="Width">One stroke or two.</param>
/// <param name="Family">Its colour; null for ink.</param>
/// <param name="Points">Its corners.</param>
/// <param name="Places">The places it belongs to ("element:…", "port:…", "track:…"), so that one line can be followed.</param>
public sealed record DrawnRail(RailKind Kind, Width Width, Family? Family, ImmutableArray<Point> Points, ImmutableArray<Place> Places);
