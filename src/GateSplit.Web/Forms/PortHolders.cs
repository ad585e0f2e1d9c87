using GateSplit.Core;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Web.Forms;

/// <summary>Who has a port already, in the words that stand behind it in a list.</summary>
public static class PortHolders
{
    /// <summary>" (Kick)" for a port that others have; nothing for a free one and for the main mix, which is everybody's.</summary>
    public static string Of(SplitView view, Unit unit, ChartPort port, ElementRef asking) =>
        port.IsMain || view.SoundingAt(unit.Id, port.Number).Where(f => f.Element != asking).Select(f => view.Split.NameOf(f.Element)).Distinct().ToList() is not { Count: > 0 } others
            ? ""
            : $" ({Words.List(others, most: 3)})";
}
