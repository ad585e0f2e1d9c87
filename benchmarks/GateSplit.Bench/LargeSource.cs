using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Bench;

/// <summary>A source far larger than any in use.</summary>
internal static class LargeSource
{
    /// <summary>Elements, mono ports after a main pair, and a track on each of the first ports.</summary>
    public static (Split Split, ImmutableHashSet<ElementRef> Sounding) Split(int elements, int ports, int tracks)
    {
        var chart = new Chart(new ChartId("large"), "Large", SourceKind.Hardware, "A large source.")
        {
            Voices = [.. Enumerable.Range(0, elements).Select(i => new ChartVoice(new VoiceId($"v{i}"), $"Voice {i}", i % 16 + 1, [i % 128]) { Drum = new DrumPatch { BodyLevel = 1 } })],
            Elements =
            [
                .. Enumerable.Range(0, elements).Select(i => new ChartElement(new ElementId($"e{i}"), $"Element {i}", (Family)(i % 8), ElementKind.Voice, Width.Mono)
                {
                    Hears = [new Hearing(new VoiceId($"v{i}"))], SendDb = i % 4 == 0 ? new Decibels(-12) : null, Port = i % ports + 2,
                }),
                new ChartElement(new ElementId("return"), "Return", Family.RoomAndReturn, ElementKind.Return, Width.Stereo) { ReturnSeconds = 1 },
            ],
            Ports = [new ChartPort(1, "Main", 1, Width.Stereo, Tap.AfterMaster) { IsMain = true }, .. Enumerable.Range(0, ports).Select(i => new ChartPort(i + 2, $"Out {i}", i + 3, Width.Mono, Tap.AfterFader))],
            Modes = [new ChartMode(new ModeId("all"), "All", [.. Enumerable.Range(1, ports + 1)], NeedsRestart: false)],
        };
        var split = StartingSplit.Of([chart], 16, 48000);
        split = split with
        {
            Tracks = [.. Enumerable.Range(0, tracks).Select(i => new Track(new TrackId($"t{i + 1}"), $"Track {i + 1}", Width.Mono) { Input = new InputRef(new BankId("b-u1"), i + 3) })],
        };
        var sounding = split.Units[0].Elements.Select(e => new ElementRef(new UnitId("u1"), e.ElementId)).ToImmutableHashSet();
        return (split, sounding);
    }
}
