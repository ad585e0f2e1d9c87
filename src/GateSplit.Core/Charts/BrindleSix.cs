using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Charts;

/// <summary>A groovebox: USB 1-2 the mix, 3-14 six stereo parts, 15-16 the external input; it needs its full driver and a power cycle.</summary>
public static class BrindleSix
{
    private static readonly ImmutableArray<(string Id, string Name, Family Family, Decibels? SendDb)> Parts =
    [
        ("drums", "Drums", Family.LowDrum, new Decibels(-16)),
        ("perc", "Percussion", Family.TomAndPercussion, new Decibels(-12)),
        ("bass", "Bass", Family.Bass, null),
        ("keys", "Keys", Family.Keys, new Decibels(-10)),
        ("pad", "Pad", Family.Keys, new Decibels(-8)),
        ("lead", "Lead", Family.Lead, new Decibels(-10)),
    ];

    /// <summary>The chart.</summary>
    public static Chart Chart { get; } = new(
        new ChartId("brindle-six"),
        "Brindle Six",
        SourceKind.Hardware,
        "A groovebox with six stereo parts and an external input over sixteen USB channels, once its full driver is chosen and it was switched off and on.")
    {
        Master = new MasterPatch { ThresholdDb = new Decibels(-14), Ratio = 2, Drive = 0.2 },
        LatencyMs = 4.5,
        Clock = new ChartClock(Follows: true, Leads: true, StartStop: true),
        Voices =
        [
            new(new VoiceId("drums-kick"), "Drums, kick", 10, [36]) { Drum = Patches.Kick() },
            new(new VoiceId("drums-snare"), "Drums, snare", 10, [38]) { Drum = Patches.Snare() },
            new(new VoiceId("drums-hat"), "Drums, hat", 10, [42]) { Drum = Patches.Hat(0.07) },
            new(new VoiceId("drums-open"), "Drums, open hat", 10, [46]) { Drum = Patches.Hat(0.4) },
            new(new VoiceId("perc-high"), "Percussion, high", 9, [60]) { Drum = Patches.Tom(320, 0.2) },
            new(new VoiceId("perc-low"), "Percussion, low", 9, [61]) { Drum = Patches.Tom(210, 0.25) },
            new(new VoiceId("bass"), "Bass", 1, []) { Tone = Patches.Bass() },
            new(new VoiceId("keys"), "Keys", 2, []) { Tone = Patches.Keys() },
            new(new VoiceId("pad"), "Pad", 3, []) { Tone = Patches.Pad() },
            new(new VoiceId("lead"), "Lead", 4, []) { Tone = Patches.Lead() },
            new(new VoiceId("ext-left"), "Small box, left", 15, []) { Tone = Patches.Bell() },
            new(new VoiceId("ext-right"), "Small box, right", 16, []) { Tone = Patches.Lead() },
        ],
        Elements =
        [
            .. Parts.Select((p, i) => new ChartElement(new ElementId(p.Id), p.Name, p.Family, ElementKind.Voice, Width.Stereo)
            {
                Hears = p.Id switch
                {
                    "drums" => [new Hearing(new VoiceId("drums-kick")), new Hearing(new VoiceId("drums-snare")), new Hearing(new VoiceId("drums-hat"), new Decibels(-4), 0, new Pan(0.4)), new Hearing(new VoiceId("drums-open"), new Decibels(-4), 0, new Pan(0.4))],
                    "perc" => [new Hearing(new VoiceId("perc-high"), new Decibels(0), 0, new Pan(-0.5)), new Hearing(new VoiceId("perc-low"), new Decibels(0), 0, new Pan(0.5))],
                    _ => Patches.Wide(new VoiceId(p.Id), p.Family),
                },
                Port = i + 2,
                Ports = [i + 2],
                SendDb = p.SendDb,
                FaderDb = new Decibels(-4),
            }),
            External("ext-left", "External left", -1),
            External("ext-right", "External right", 1),
            new(new ElementId("room"), "Room return", Family.RoomAndReturn, ElementKind.Return, Width.Stereo) { Ports = [1], ReturnSeconds = 1.4 },
        ],
        Ports =
        [
            new(1, "Mix", 1, Width.Stereo, Tap.AfterMaster) { IsMain = true },
            .. Parts.Select((p, i) => new ChartPort(i + 2, p.Name, 2 * i + 3, Width.Stereo, Tap.AfterFader)),
            new(8, "External", 15, Width.Stereo, Tap.BeforeFader),
        ],
        Modes =
        [
            new(new ModeId("stereo"), "Built-in driver, stereo", [1], NeedsRestart: true),
            new(new ModeId("full"), "Full driver, sixteen channels", [.. Enumerable.Range(1, 8)], NeedsRestart: true),
        ],
        Settings =
        [
            new("Install the full driver and choose it in the USB menu.", "The box offers two channels: the mix.", SettingEffect.MainOnly),
            new("Switch the box off and on again.", "It goes on as before, with two channels.", SettingEffect.MainOnly),
            new("Set clock and start/stop to receive over USB.", "The box does not start with the recorder.", SettingEffect.NoStart),
            new("Turn the external input up until its meter moves.", "What is plugged in there is not recorded.", SettingEffect.NoExternal),
        ],
    };

    private static ChartElement External(string id, string name, double pan) =>
        new(new ElementId(id), name, Family.Keys, ElementKind.External, Width.Mono)
        {
            Hears = [new Hearing(new VoiceId(id))],
            Port = 8,
            Ports = [8],
            Pan = new Pan(pan),
            Group = "External",
        };
}
