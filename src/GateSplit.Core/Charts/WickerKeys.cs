using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Charts;

/// <summary>A keyboard of twelve parts, each on its own MIDI channel, sent to four stereo USB pairs.</summary>
public static class WickerKeys
{
    private static readonly ImmutableArray<(string Id, string Name, Family Family, int Channel, Decibels? SendDb, TonePatch Patch)> Parts =
    [
        ("bass", "Keel bass", Family.Bass, 1, null, new() { Saw = 0.8, Sine = 0.5, Semitones = 0, DetuneCents = 5, DecaySeconds = 0.35, Sustain = 0.5, ReleaseSeconds = 0.12, CutoffHz = 260, CutoffOctaves = 2.2, Level = 0.34 }),
        ("reed", "Reed keys", Family.Keys, 2, new Decibels(-14), new() { Saw = 0.5, Sine = 0.4, DecaySeconds = 0.9, Sustain = 0.25, ReleaseSeconds = 0.35, CutoffHz = 900, CutoffOctaves = 1.4, Level = 0.16 }),
        ("pad", "Mist pad", Family.Keys, 3, new Decibels(-8), new() { Saw = 0.9, DetuneCents = 14, AttackSeconds = 0.7, DecaySeconds = 1.5, Sustain = 0.8, ReleaseSeconds = 1.6, CutoffHz = 700, CutoffOctaves = 0.9, Level = 0.09 }),
        ("bell", "Buoy bell", Family.Keys, 4, new Decibels(-9), new() { Bell = 0.9, DecaySeconds = 1.6, Sustain = 0, ReleaseSeconds = 1.2, CutoffHz = 9000, CutoffOctaves = 0, Level = 0.2 }),
        ("lead", "Lamp lead", Family.Lead, 5, new Decibels(-12), new() { Saw = 0.6, Sine = 0.3, DetuneCents = 10, AttackSeconds = 0.03, DecaySeconds = 0.6, Sustain = 0.7, ReleaseSeconds = 0.3, CutoffHz = 1400, CutoffOctaves = 1.2, Level = 0.15 }),
        ("organ", "Chapel organ", Family.Keys, 6, new Decibels(-12), new() { Sine = 0.9, Saw = 0.15, AttackSeconds = 0.02, Sustain = 0.9, ReleaseSeconds = 0.2, CutoffHz = 2500, Level = 0.14 }),
        ("pluck", "Rope pluck", Family.Keys, 7, new Decibels(-14), new() { Saw = 0.8, DecaySeconds = 0.3, Sustain = 0, ReleaseSeconds = 0.2, CutoffHz = 500, CutoffOctaves = 2.5, Level = 0.2 }),
        ("choir", "Gull choir", Family.Keys, 8, new Decibels(-8), new() { Saw = 0.5, Sine = 0.5, DetuneCents = 18, AttackSeconds = 0.4, Sustain = 0.8, ReleaseSeconds = 1.0, CutoffHz = 1100, CutoffOctaves = 0.5, Level = 0.1 }),
        ("deep-kick", "Deep kick", Family.LowDrum, 9, null, new() { Sine = 1, AttackSeconds = 0.002, DecaySeconds = 0.5, Sustain = 0, ReleaseSeconds = 0.2, CutoffHz = 6000, CutoffOctaves = 0, Level = 0.5 }),
        ("sub", "Hold bass", Family.Bass, 11, null, new() { Sine = 1, AttackSeconds = 0.01, Sustain = 0.9, ReleaseSeconds = 0.1, CutoffHz = 3000, Level = 0.3 }),
        ("clav", "Latch keys", Family.Keys, 12, null, new() { Saw = 0.9, DetuneCents = 0, DecaySeconds = 0.25, Sustain = 0.1, ReleaseSeconds = 0.08, CutoffHz = 1200, CutoffOctaves = 2, Level = 0.16 }),
        ("horn", "Horn lead", Family.Lead, 13, new Decibels(-10), new() { Saw = 0.9, DetuneCents = 6, AttackSeconds = 0.09, Sustain = 0.8, ReleaseSeconds = 0.4, CutoffHz = 500, CutoffOctaves = 1.6, Level = 0.16 }),
    ];

    /// <summary>The chart.</summary>
    public static Chart Chart { get; } = new(
        new ChartId("wicker-keys"),
        "Wicker Keys",
        SourceKind.Hardware,
        "A keyboard of twelve parts by MIDI channel, sent to four stereo USB pairs.")
    {
        AssignedLeavesMain = true,
        LatencyMs = 5,
        Voices = [.. Parts.Select(p => new ChartVoice(new VoiceId(p.Id), p.Name, p.Channel, []) { Tone = p.Patch })],
        Elements =
        [
            .. Parts.Select(p => new ChartElement(new ElementId(p.Id), p.Name, p.Family, ElementKind.Voice, Width.Mono)
            {
                Hears = [new Hearing(new VoiceId(p.Id))],
                SendDb = p.SendDb,
            }),
            new(new ElementId("hall"), "Hall return", Family.RoomAndReturn, ElementKind.Return, Width.Stereo) { ReturnSeconds = 2.4 },
        ],
        Ports = [.. Enumerable.Range(1, 4).Select(n =>
            new ChartPort(n, n == 1 ? "Pair 1 (main)" : $"Pair {n}", 2 * n - 1, Width.Stereo, Tap.AfterFader) { IsMain = n == 1 })],
        Modes = [new ChartMode(new ModeId("pairs"), "Four USB pairs", [1, 2, 3, 4], NeedsRestart: false)],
        Settings = [new("Give each part its USB pair on the part's output page.", "It stays in pair 1 with the other parts.", SettingEffect.AllInMain)],
    };
}
