using GateSplit.Core.Charts;

namespace GateSplit.Core.Drawing;

/// <summary>The two letters that stand beside each family's colour, so that colour is never the only carrier.</summary>
public static class Glyphs
{
    /// <summary>Two letters.</summary>
    public static string Of(Family family) => family switch
    {
        Family.LowDrum => "LD",
        Family.Snare => "SN",
        Family.HatAndCymbal => "HC",
        Family.TomAndPercussion => "TP",
        Family.Bass => "BA",
        Family.Keys => "KY",
        Family.Lead => "LE",
        _ => "RR",
    };

    /// <summary>The family in words.</summary>
    public static string Name(Family family) => family switch
    {
        Family.LowDrum => "low drum",
        Family.Snare => "snare",
        Family.HatAndCymbal => "hat and cymbal",
        Family.TomAndPercussion => "tom and percussion",
        Family.Bass => "bass",
        Family.Keys => "keys",
        Family.Lead => "lead",
        _ => "room and return",
    };
}
