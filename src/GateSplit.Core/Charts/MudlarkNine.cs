using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Charts;

/// <summary>A hardware drum machine with nine voices over USB: mix on 1-2 after the master effect, voices on 3-11 after the fader, trigger on 12.</summary>
public static class MudlarkNine
{
    private static readonly ImmutableArray<(string Id, string Name, Family Family, int Key, DrumPatch Patch)> Nine =
    [
        ("kick", "Kick", Family.LowDrum, 36, new() { BodyHz = 46, BodyLevel = 0.85, BodyDecaySeconds = 0.65, BendOctaves = 2.6, BendSeconds = 0.08 }),
        ("snare", "Snare", Family.Snare, 38, new() { BodyHz = 205, BodyLevel = 0.35, BodyDecaySeconds = 0.14, OvertoneLevel = 0.2, NoiseLevel = 0.55, NoiseDecaySeconds = 0.22, NoiseLowHz = 1200, NoiseHighHz = 11000 }),
        ("rim", "Rim", Family.Snare, 37, new() { BodyHz = 1650, BodyLevel = 0.4, BodyDecaySeconds = 0.035, OvertoneLevel = 0.3 }),
        ("clap", "Clap", Family.Snare, 39, new() { NoiseLevel = 0.7, NoiseDecaySeconds = 0.25, NoiseLowHz = 800, NoiseHighHz = 3200, Bursts = 4 }),
        ("hat", "Closed hat", Family.HatAndCymbal, 42, new() { MetalLevel = 0.3, MetalHz = 380, MetalDecaySeconds = 0.06, NoiseLevel = 0.12, NoiseDecaySeconds = 0.05, NoiseLowHz = 8000, NoiseHighHz = 16000, ChokeGroup = 1 }),
        ("hat-open", "Open hat", Family.HatAndCymbal, 46, new() { MetalLevel = 0.3, MetalHz = 380, MetalDecaySeconds = 0.45, NoiseLevel = 0.12, NoiseDecaySeconds = 0.4, NoiseLowHz = 7000, NoiseHighHz = 16000, ChokeGroup = 1 }),
        ("tom-low", "Low tom", Family.TomAndPercussion, 41, new() { BodyHz = 92, BodyLevel = 0.65, BodyDecaySeconds = 0.4, BendOctaves = 0.8, BendSeconds = 0.12 }),
        ("tom-high", "High tom", Family.TomAndPercussion, 48, new() { BodyHz = 158, BodyLevel = 0.65, BodyDecaySeconds = 0.3, BendOctaves = 0.8, BendSeconds = 0.1 }),
        ("cymbal", "Cymbal", Family.HatAndCymbal, 49, new() { MetalLevel = 0.25, MetalHz = 290, MetalDecaySeconds = 1.3, NoiseLevel = 0.2, NoiseDecaySeconds = 1.1, NoiseLowHz = 4000, NoiseHighHz = 15000 }),
    ];

    /// <summary>The chart.</summary>
    public static Chart Chart { get; } = new(
        new ChartId("mudlark-nine"),
        "Mudlark Nine",
        SourceKind.Hardware,
        "A drum machine with nine voices that leave over USB once its outputs are set to separate; effects are only in the mix.")
    {
        Master = new MasterPatch { Drive = 0.5 },
        LatencyMs = 3.2,
        Clock = new ChartClock(Follows: true, Leads: true, StartStop: true),
        Voices = [.. Nine.Select(v => new ChartVoice(new VoiceId(v.Id), v.Name, 10, [v.Key]) { Drum = v.Patch })],
        Elements =
        [
            new(new ElementId("room"), "Effect return", Family.RoomAndReturn, ElementKind.Return, Width.Stereo) { Ports = [1], ReturnSeconds = 1.1 },
            .. Nine.Select((v, i) => new ChartElement(new ElementId(v.Id), v.Name, v.Family, ElementKind.Voice, Width.Mono)
            {
                Hears = [new Hearing(new VoiceId(v.Id))],
                Port = i + 2,
                Ports = [i + 2],
                SendDb = v.Id is "snare" or "clap" or "tom-low" or "tom-high" ? new Decibels(-12) : null,
            }),
        ],
        Ports =
        [
            new(1, "Mix", 1, Width.Stereo, Tap.AfterMaster) { IsMain = true },
            .. Nine.Select((v, i) => new ChartPort(i + 2, v.Name, i + 3, Width.Mono, Tap.AfterFader)),
            new(11, "Trigger", 12, Width.Mono, Tap.BeforeFader),
        ],
        Modes =
        [
            new(new ModeId("mix"), "Mix only", [1], NeedsRestart: false),
            new(new ModeId("separate"), "Separate", [.. Enumerable.Range(1, 11)], NeedsRestart: false),
        ],
        Settings =
        [
            new("Set USB outputs to separate.", "Inputs 3 to 12 stay silent; only the mix on 1-2 arrives.", SettingEffect.MainOnly),
            new("Set clock to follow and start/stop to receive.", "The pattern does not start with the recorder.", SettingEffect.NoStart),
        ],
    };
}
