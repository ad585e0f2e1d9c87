using GateSplit.Core.Notes;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Planning;

/// <summary>What of a split goes along when its song is replaced.</summary>
public static class ReplaceSong
{
    /// <summary>
    /// A pass that was as long as the song before is as long as the new one; one whose length somebody has set stays so. A pass begins in one of
    /// its own bars. All else stays as it is: what the new song does not play is told by the checks.
    /// </summary>
    public static Split Fitted(Split split, Song before, Song after)
    {
        var length = split.Pass.LengthBars == LengthOf(before) ? LengthOf(after) : split.Pass.LengthBars;
        return split with { Pass = split.Pass with { LengthBars = length, StartBar = Math.Min(split.Pass.StartBar, length) } };
    }

    /// <summary>The length of a pass that takes a whole song.</summary>
    public static int LengthOf(Song song) => (int)Math.Min(PassSettings.MostBars, song.Bars);
}
