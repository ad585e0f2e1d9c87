using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Charts;

/// <summary>A drum synth of ten pads on seven voices: some pads share one, and with it its port; effects are only on the main.</summary>
public static class HeronTen
{
    private static readonly ImmutableArray<(string Id, string Name, Family Family, int Key, string Voice, int Port, DrumPatch Patch)> Pads =
    [
        ("kick", "Kick", Family.LowDrum, 36, "V1", 2, Patches.Kick(44, 0.6)),
        ("snare", "Snare", Family.Snare, 38, "V2", 3, Patches.Snare(210)),
        ("rim", "Rim", Family.Snare, 37, "V3", 4, Patches.Click(1700)),
        ("clap", "Clap", Family.Snare, 39, "V3", 4, Patches.Clap()),
        ("tom-low", "Low tom", Family.TomAndPercussion, 41, "V4", 5, Patches.Tom(88)),
        ("tom-mid", "Mid tom", Family.TomAndPercussion, 45, "V4", 5, Patches.Tom(124)),
        ("tom-high", "High tom", Family.TomAndPercussion, 48, "V5", 6, Patches.Tom(170)),
        ("hat", "Closed hat", Family.HatAndCymbal, 42, "V6", 7, Patches.Hat(0.06)),
        ("hat-open", "Open hat", Family.HatAndCymbal, 46, "V6", 7, Patches.Hat(0.45)),
        ("cymbal", "Cymbal", Family.HatAndCymbal, 49, "V7", 8, Patches.Cymbal()),
    ];

    /// <summary>The chart.</summary>
    public static Chart Chart { get; } = new(
        new ChartId("heron-ten"),
        "Heron Ten",
        SourceKind.Hardware,
        "A drum synth of ten pads on seven voice outputs: pads that share a voice share its output, each pad may also stay in the main mix, and effects are only there.")
    {
        Master = new MasterPatch { LowPassHz = 9000, ThresholdDb = new Decibels(-12), Ratio = 4, Drive = 0.3 },
        LatencyMs = 2.8,
        Clock = new ChartClock(Follows: true, Leads: true, StartStop: true),
        Voices = [.. Pads.Select(p => new ChartVoice(new VoiceId(p.Id), p.Name, 10, [p.Key]) { Drum = p.Patch })],
        Elements =
        [
            .. Pads.Select(p => new ChartElement(new ElementId(p.Id), p.Name, p.Family, ElementKind.Voice, Width.Mono)
            {
                Hears = [new Hearing(new VoiceId(p.Id))],
                SharedVoice = Pads.Count(o => o.Voice == p.Voice) > 1 ? p.Voice : null,
                Port = p.Port,
                Ports = [p.Port],
                SendDb = p.Family is Family.Snare or Family.TomAndPercussion ? new Decibels(-12) : null,
            }),
            new(new ElementId("space"), "Space return", Family.RoomAndReturn, ElementKind.Return, Width.Stereo) { Ports = [1], ReturnSeconds = 1.8 },
        ],
        Ports =
        [
            new(1, "Main", 1, Width.Stereo, Tap.AfterMaster) { IsMain = true },
            .. Enumerable.Range(2, 7).Select(n => new ChartPort(n, $"Voice {n - 1}", n + 1, Width.Mono, Tap.AfterFader)),
        ],
        Modes =
        [
            new(new ModeId("main"), "Main only", [1], NeedsRestart: false),
            new(new ModeId("voices"), "Main and seven voices", [.. Enumerable.Range(1, 8)], NeedsRestart: false),
        ],
        Settings =
        [
            new("Set USB audio to main and voices.", "Only the main pair arrives.", SettingEffect.MainOnly),
            new("Take the pads out of the main mix on the routing page.", "They are in the main as well as on their own outputs, and the effects cannot be recorded alone.", SettingEffect.AlsoInMain),
            new("Set clock and start/stop to receive.", "The pattern does not start with the recorder.", SettingEffect.NoStart),
        ],
    };
}
