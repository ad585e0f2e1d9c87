using System.Globalization;

namespace GateSplit.Core.Handoff;

/// <summary>How the files are laid out in a recorder that knows nothing of us.</summary>
public static class LayingOut
{
    /// <summary>Four lines.</summary>
    /// <param name="takes">The takes they are of.</param>
    /// <param name="files">The files.</param>
    public static IReadOnlyList<string> Lines(IReadOnlyList<HandoffTake> takes, IReadOnlyList<HandoffWritten> files)
    {
        var song = takes.Select(t => t.Song).FirstOrDefault();
        var start = files.Select(f => f.File.Recipe.Start).FirstOrDefault();
        var bar = files.SelectMany(f => f.File.Label.Cues.Take(1)).Select(c => c.Name).FirstOrDefault() ?? "bar 1";
        var rates = Words.List([.. files.Select(f => $"{f.File.Format.SampleRate}").Distinct()]);
        var panned = files.Where(f => f.File.Pan is { Value: not 0 }).Select(f => f.File.Track).ToList();
        return
        [
            string.Create(CultureInfo.InvariantCulture, $"1. Open an empty project at {rates} and take tempo and metre from notes/{(takes.Count > 1 ? $"take {takes[0].Number}/" : "")}song.mid first ({song?.Tempos.StartTempo ?? 120:0.###} quarters a minute, {song?.Metres.First} at the start); then add the audio, so that nothing is stretched."),
            start == 0
                ? "2. Lay all files so that they begin at bar 1; their time stamps say the same."
                : $"2. Lay all files so that they begin at {bar}, or at their time stamps, which count from bar 1.",
            "3. Name the tracks as the files are named. Lines and effects together are the mix; stems and reference are sums of them: lay those on muted tracks, or in a project of their own.",
            $"4. Set levels and pans as tracks.csv and the track sheet say{(panned.Count > 0 ? $" ({Words.List(panned)} {(panned.Count == 1 ? "stands" : "stand")} off the centre)" : "")}; what is mixed already has no level there. SHA256SUMS tells whether everything arrived whole.",
        ];
    }
}
