using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>The notes of a song as a source's voices play them.</summary>
internal static class Performance
{
    /// <summary>How far back a loop is played before the recording starts: what was struck earlier has died away.</summary>
    private const int RingSeconds = 20;

    /// <summary>For each voice of a source its notes in order of start, cut off where its choke group says so.</summary>
    /// <param name="unit">The source.</param>
    /// <param name="song">The notes.</param>
    /// <param name="split">How it is recorded and performed: of a loop that has settled, the end of the round before is played too.</param>
    public static Dictionary<VoiceId, ImmutableArray<PlayedNote>> Of(Unit unit, Song song, Split split)
    {
        var pass = split.Pass;
        var chart = unit.Chart;
        var rate = pass.SampleRate;
        var clock = new SourceClock(unit, pass);
        var first = song.Tempos.ToFrames(song.Metres.BarStart(pass.StartBar - 1), rate);
        var end = song.Tempos.ToFrames(song.Metres.BarStart(pass.LengthBars), rate);
        var due = (
            from voice in unit.Lacks(SettingEffect.NoStart) ? [] : chart.Voices
            from note in PerformedNotes.Of(split, unit, voice, song)
            let start = song.Tempos.ToFrames(note.StartTick, rate)
            where start >= first
            let letGo = song.Tempos.ToFrames(note.EndTick, rate)
            from round in Rounds(pass, start, first, end)
            select (Voice: voice, Start: start + round, End: letGo + round, Note: note))
            .OrderBy(n => n.Start);
        var all = due.Select((n, i) => (n.Voice, Start: clock.At(n.Start, i), n.Note, Length: n.End - n.Start)).OrderBy(n => n.Start).ToList();
        var groups = chart.Voices.ToDictionary(v => v.Id, v => CutBy(chart, v));
        var played = chart.Voices.ToDictionary(v => v.Id, _ => ImmutableArray.CreateBuilder<PlayedNote>());
        var nextInGroup = new Dictionary<string, Frames>();
        for (var i = all.Count - 1; i >= 0; i--)
        {
            var (voice, start, note, length) = all[i];
            var choked = Frames.Never;
            foreach (var group in groups[voice.Id])
            {
                choked = Frames.Min(choked, nextInGroup.GetValueOrDefault(group, Frames.Never));
                nextInGroup[group] = start;
            }

            played[voice.Id].Add(new PlayedNote(start, start + length, choked, note.Key, note.Velocity));
        }

        return played.ToDictionary(p => p.Key, p => Enumerable.Reverse(p.Value).ToImmutableArray());
    }

    /// <summary>By how much a note is moved in each round in which it is played: in the recorded one, and in the one before if that rings into it.</summary>
    private static IEnumerable<Frames> Rounds(PassSettings pass, Frames start, Frames first, Frames end)
    {
        if (!pass.Looped)
        {
            return [0];
        }

        // A loop plays its body and nothing after it.
        return start >= end ? [] : pass.SettleLoops > 0 && end - start <= RingSeconds * pass.SampleRate.Hz ? [first - end, 0] : [0];
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
