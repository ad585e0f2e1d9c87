using GateSplit.Core.Notes;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Core.Views;

namespace GateSplit.Core.Tests.StandIns;

/// <summary>Prints a split and reads its files again.</summary>
internal static class PrintedLines
{
    /// <summary>Each track with the samples of its sides.</summary>
    /// <param name="folder">Where the files go.</param>
    /// <param name="name">A folder of their own in it.</param>
    /// <param name="split">The split.</param>
    /// <param name="song">Its song.</param>
    public static List<(Track Track, float[][] Sides)> Of(TempFolder folder, string name, Split split, Song song)
    {
        var own = Path.Combine(folder.Root, name);
        Directory.CreateDirectory(own);
        return
        [
            .. new StandInRecorder(SplitView.Of(split, song), song).Print(t => Path.Combine(own, t.Id + ".wav"), new DateTime(2026, 1, 2, 3, 4, 5))
                .Select(p => (p.Track, Recorded.Sides(p.Path))),
        ];
    }
}
