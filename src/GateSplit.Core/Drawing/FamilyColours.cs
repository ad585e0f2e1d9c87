using GateSplit.Core.Charts;

namespace GateSplit.Core.Drawing;

/// <summary>The colour of each family on paper.</summary>
public static class FamilyColours
{
    private const string Ink = "#17242F";

    /// <summary>"#0B63A5"; that of ink for what is mixed.</summary>
    public static string Of(Family? family) => family switch
    {
        Family.LowDrum => "#0B63A5",
        Family.Snare => "#C04B00",
        Family.HatAndCymbal => "#8A6A00",
        Family.TomAndPercussion => "#00775A",
        Family.Bass => "#6A3D9A",
        Family.Keys => "#A83279",
        Family.Lead => "#2377A8",
        Family.RoomAndReturn => "#5E5E5E",
        _ => Ink,
    };
}
