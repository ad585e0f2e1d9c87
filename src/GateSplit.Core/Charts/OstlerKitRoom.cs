using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Charts;

/// <summary>A virtual kit in a room: close microphones with bleed, overheads, room and a hall return, on twelve stereo ports.</summary>
public static class OstlerKitRoom
{
    private const int Ports = 12;
    private static readonly Decibels CloseBleed = new(-26);

    private static readonly (string Id, double Side)[] Places =
    [
        ("kick", 0), ("snare", 0.1), ("hat", 0.55), ("hat-open", 0.55), ("tom1", 0.3), ("tom2", -0.1), ("tom3", -0.5), ("ride", -0.65), ("crash", 0.75),
    ];

    /// <summary>The chart.</summary>
    public static Chart Chart { get; } = new(
        new ChartId("ostler-kit-room"),
        "Ostler Kit Room",
        SourceKind.PlugIn,
        "A drum kit in a room, heard by close microphones, overheads and a room pair; everything leaves by port 1 until it is assigned.")
    {
        AssignedLeavesMain = true,
        Voices =
        [
            Drum("kick", "Kick", [35, 36], new() { BodyHz = 52, BodyLevel = 0.8, BodyDecaySeconds = 0.42, BendOctaves = 2.1, BendSeconds = 0.06, NoiseLevel = 0.12, NoiseDecaySeconds = 0.03, NoiseLowHz = 1500, NoiseHighHz = 6000 }),
            Drum("snare", "Snare", [38, 40], new() { BodyHz = 186, BodyLevel = 0.35, BodyDecaySeconds = 0.22, BendOctaves = 0.35, BendSeconds = 0.03, OvertoneLevel = 0.18, NoiseLevel = 0.5, NoiseDecaySeconds = 0.32, NoiseLowHz = 900, NoiseHighHz = 9000 }),
            Drum("hat", "Closed hat", [42, 44], new() { MetalLevel = 0.18, MetalHz = 410, MetalDecaySeconds = 0.07, NoiseLevel = 0.25, NoiseDecaySeconds = 0.08, NoiseLowHz = 7000, NoiseHighHz = 16000, ChokeGroup = 1 }),
            Drum("hat-open", "Open hat", [46], new() { MetalLevel = 0.18, MetalHz = 410, MetalDecaySeconds = 0.5, NoiseLevel = 0.25, NoiseDecaySeconds = 0.6, NoiseLowHz = 6500, NoiseHighHz = 16000, ChokeGroup = 1 }),
            Drum("tom1", "High tom", [48, 50], Tom(168, 0.38)),
            Drum("tom2", "Mid tom", [45, 47], Tom(122, 0.46)),
            Drum("tom3", "Floor tom", [41, 43], Tom(84, 0.62)),
            Drum("ride", "Ride", [51, 53, 59], new() { MetalLevel = 0.2, MetalHz = 520, MetalDecaySeconds = 1.5, NoiseLevel = 0.06, NoiseDecaySeconds = 0.6, NoiseLowHz = 5000, NoiseHighHz = 14000 }),
            Drum("crash", "Crash", [49, 57], new() { MetalLevel = 0.16, MetalHz = 330, MetalDecaySeconds = 1.6, NoiseLevel = 0.3, NoiseDecaySeconds = 1.8, NoiseLowHz = 2500, NoiseHighHz = 15000 }),
        ],
        Elements =
        [
            Close("kick-in", "Kick in", Family.LowDrum, "Kick", new(-3), ["kick"], 0.05) with { Mic = new MicPlace(1, 0) },
            Close("kick-out", "Kick out", Family.LowDrum, "Kick", new(-6), ["kick"], 0.6) with { Mic = new MicPlace(0.3, 55), SendDb = new Decibels(-24) },
            Close("snare-top", "Snare top", Family.Snare, "Snare", new(-4), ["snare"], 0.08) with { Mic = new MicPlace(0.6, 20), SendDb = new Decibels(-14) },
            Close("snare-bottom", "Snare bottom", Family.Snare, "Snare", new(-9), ["snare"], 0.12) with { Mic = new MicPlace(0.15, 0, Under: true) },
            Close("hat", "Hat", Family.HatAndCymbal, "Cymbals", new(-8), ["hat", "hat-open"], 0.15) with { Mic = new MicPlace(0.2, 35) },
            Close("tom1", "High tom", Family.TomAndPercussion, "Toms", new(-5), ["tom1"], 0.1) with { Mic = new MicPlace(0.6, 15), SendDb = new Decibels(-16) },
            Close("tom2", "Mid tom", Family.TomAndPercussion, "Toms", new(-5), ["tom2"], 0.1) with { Mic = new MicPlace(0.6, 15), SendDb = new Decibels(-16) },
            Close("tom3", "Floor tom", Family.TomAndPercussion, "Toms", new(-5), ["tom3"], 0.1) with { Mic = new MicPlace(0.7, 15), SendDb = new Decibels(-16) },
            Close("ride", "Ride", Family.HatAndCymbal, "Cymbals", new(-8), ["ride"], 0.2) with { Mic = new MicPlace(0.2, 50) },
            Far("overheads", "Overheads", new(-6), 1.1, 1) with { Mic = new MicPlace(0, 25), Family = Family.HatAndCymbal, Group = "Cymbals" },
            Far("room", "Room", new(-10), 4.2, 0.7) with { Mic = new MicPlace(0, 75), Group = "Room" },
            new(new ElementId("hall"), "Hall return", Family.RoomAndReturn, ElementKind.Return, Width.Stereo) { Group = "Room", FaderDb = new Decibels(-6), ReturnSeconds = 1.9 },
        ],
        Ports = [.. Enumerable.Range(1, Ports).Select(n =>
            new ChartPort(n, n == 1 ? "Out 1 (main)" : $"Out {n}", 2 * n - 1, Width.Stereo, Tap.AfterFader) { IsMain = n == 1 })],
        Modes = [new ChartMode(new ModeId("all"), "Twelve stereo outputs", [.. Enumerable.Range(1, Ports)], NeedsRestart: false)],
        Settings =
        [
            new("Load the instrument with its twelve outputs enabled.", "Only outputs 1-2 come back into the recorder, and everything is in them.", SettingEffect.MainOnly),
            new("Give each microphone its own output in the instrument's mixer.", "It stays in output 1 with everything else.", SettingEffect.AllInMain),
        ],
    };

    private static ChartVoice Drum(string id, string name, ImmutableArray<int> keys, DrumPatch patch) => new(new VoiceId(id), name, 10, keys) { Drum = patch };

    private static DrumPatch Tom(double hz, double decay) => new()
    {
        BodyHz = hz,
        BodyLevel = 0.6,
        BodyDecaySeconds = decay,
        BendOctaves = 0.7,
        BendSeconds = 0.09,
        OvertoneLevel = 0.16,
        NoiseLevel = 0.1,
        NoiseDecaySeconds = 0.06,
        NoiseLowHz = 600,
        NoiseHighHz = 5000,
    };

    private static ChartElement Close(string id, string name, Family family, string group, Decibels fader, string[] voices, double metres) =>
        new(new ElementId(id), name, family, ElementKind.Microphone, Width.Mono)
        {
            Group = group,
            FaderDb = fader,
            Hears = [.. Places.Select(p => voices.Contains(p.Id)
                ? new Hearing(new VoiceId(p.Id), new Decibels(0), metres)
                : new Hearing(new VoiceId(p.Id), CloseBleed, metres + 0.6, new Pan(0), bleed: true))],
        };

    private static ChartElement Far(string id, string name, Decibels fader, double metres, double spread) =>
        new(new ElementId(id), name, Family.RoomAndReturn, ElementKind.Microphone, Width.Stereo)
        {
            FaderDb = fader,
            Hears = [.. Places.Select(p => new Hearing(new VoiceId(p.Id), new Decibels(p.Id is "kick" or "snare" ? -9 : -5), metres, new Pan(p.Side * spread)))],
        };
}
