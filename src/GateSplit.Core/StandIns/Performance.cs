using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Notes;

namespace GateSplit.Core.StandIns;

/// <summary>The notes of a song as a source's voices play them.</summary>
internal static class Performance
{
    /// <summary>For each voice of a chart its notes in order of start, cut off where its choke group says so.</summary>
    public static Dictionary<string, ImmutableArray<PlayedNote>> Of(Chart chart, Song song, int sampleRate)
    {
        var all = (
            from voice in chart.Voices
            from note in song.Notes.Where(voice.Plays)
            select (Voice: voice, Start: song.Tempos.ToSamples(note.StartTick, sampleRate), Note: note))
            .OrderBy(n => n.Start)
            .ToList();
        var groups = chart.Voices.ToDictionary(v => v.Id, v => CutBy(chart, v));
        var played = chart.Voices.ToDictionary(v => v.Id, _ => ImmutableArray.CreateBuilder<PlayedNote>());
        var nextInGroup = new Dictionary<string, long>();
        for (var i = all.Count - 1; i >= 0; i--)
        {
            var (voice, start, note) = all[i];
            var choked = long.MaxValue;
            foreach (var group in groups[voice.Id])
            {
                choked = Math.Min(choked, nextInGroup.GetValueOrDefault(group, long.MaxValue));
                nextInGroup[group] = start;
            }

            var end = song.Tempos.ToSamples(note.EndTick, sampleRate);
            played[voice.Id].Add(new PlayedNote(start, end, choked, note.Key, note.Velocity));
        }

        return played.ToDictionary(p => p.Key, p => Enumerable.Reverse(p.Value).ToImmutableArray());
    }

    /// <summary>The groups of which only the last one struck sounds: hats that choke each other, elements that share a part of the source.</summary>
    private static ImmutableArray<string> CutBy(Chart chart, ChartVoice voice) =>
    [
        .. voice.Drum is { ChokeGroup: > 0 and var choke } ? [$"choke {choke}"] : Array.Empty<string>(),
        .. chart.Elements
            .Where(e => e.SharedVoice is not null && e.Hears.Any(h => !h.Bleed && h.VoiceId == voice.Id))
            .Select(e => $"shared {e.SharedVoice}")
            .Distinct(),
    ];
}
