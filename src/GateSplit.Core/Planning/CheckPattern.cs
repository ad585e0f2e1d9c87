using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Planning;

/// <summary>A song for a session that brings none: every voice of the sources plays alone for a beat, one after the other.</summary>
public static class CheckPattern
{
    private const int MiddleKey = 48;

    /// <summary>Writes it.</summary>
    /// <param name="charts">The sources.</param>
    /// <param name="tempo">The tempo.</param>
    public static MidiFile Of(IReadOnlyList<Chart> charts, Tempo tempo)
    {
        var writer = new PatternWriter(480, tempo, Metre.Common);
        var voices = charts.SelectMany(c => c.Voices).ToList();
        for (var i = 0; i < voices.Count; i++)
        {
            writer.Hold(voices[i].Channel, voices[i].Keys.IsEmpty ? MiddleKey : voices[i].Keys[0], 100, i, 0.9);
        }

        return writer.ToFile("Check pattern", (voices.Count + 3) / 4);
    }
}
