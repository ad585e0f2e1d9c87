using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;

namespace GateSplit.Core.Tests.StandIns;

/// <summary>The peak that a voice is said to reach against what its stand-in really renders.</summary>
public sealed class PeakTests
{
    public static TheoryData<string> Charts => [.. Shelf.Charts.Select(c => c.Id.Value)];

    [Theory]
    [MemberData(nameof(Charts))]
    public void Every_voice_of_a_chart_peaks_where_it_says(string id)
    {
        var chart = Shelf.Find(new ChartId(id))!;
        using var folder = new TempFolder();
        foreach (var voice in chart.Voices)
        {
            var one = new Chart(new ChartId("one"), "One", SourceKind.PlugIn, "One voice.")
            {
                Voices = [voice],
                Elements = [new ChartElement(new ElementId("e"), "E", Family.Keys, ElementKind.Voice, Width.Mono) { Hears = [new Hearing(voice.Id, new Decibels(0), 0, new Pan(0), false)], Port = 1 }],
                Ports = [new ChartPort(1, "Main", 1, Width.Mono, Tap.BeforeFader) { IsMain = true }],
                Modes = [new ChartMode(new ModeId("all"), "All", [1], false)],
            };
            var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
            foreach (var key in voice.Keys.IsEmpty ? [36, 48, 60, 72] : voice.Keys.Take(1))
            {
                writer.Hold(voice.Channel, key, 127, voice.Keys.IsEmpty ? (key - 36) / 4.0 : 0, 1.5);
            }

            var song = Song.Of(writer.ToFile("One", 4));
            var split = StartingSplit.Of([one], 4, 48000) with { Tracks = [new Track(new TrackId("t1"), "One", Width.Mono) { Input = new InputRef(new BankId("b-u1"), 1) }] };
            var peak = new StandInRecorder(Sessions.View(split, song), song).Print(t => folder[t.Id + ".wav"], DateTime.UnixEpoch)[0].Measure.Channels[0].SamplePeak;
            Assert.Equal(peak.Value, Decibels.FromRatio(voice.Peak).Value, voice.Drum is null ? 5.0 : 3.0);
        }
    }
}
