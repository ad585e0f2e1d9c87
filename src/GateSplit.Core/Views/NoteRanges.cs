using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Views;

/// <summary>The MIDI channels and keys of a song, and those that a source listens to, in words.</summary>
public static class NoteRanges
{
    /// <summary>"channel 10 (keys 36 to 49)" for what a kind of source listens to.</summary>
    public static string Of(Chart chart) => Write(chart.Voices.SelectMany(v => v.Keys.IsEmpty ? [(v.Channel, Key: (int?)null)] : v.Keys.Select(k => (v.Channel, Key: (int?)k))));

    /// <summary>The same for what a song has.</summary>
    public static string Of(Song song) => Write(song.Strokes.Keys.Select(s => (s.Channel, Key: (int?)s.Key)));

    private static string Write(IEnumerable<(int Channel, int? Key)> notes) => Words.List(
        [.. notes.GroupBy(n => n.Channel).OrderBy(g => g.Key).Select(g => $"channel {g.Key} ({Keys([.. g.Select(n => n.Key)])})")], most: NoteRoute.LastChannel);

    private static string Keys(IReadOnlyList<int?> keys) => keys.Contains(null) ? "all keys" : keys.Min() == keys.Max() ? $"key {keys[0]}" : $"keys {keys.Min()} to {keys.Max()}";
}
