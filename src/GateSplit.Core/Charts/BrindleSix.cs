using System.Collections.Immutable;

namespace GateSplit.Core.Charts;

/// <summary>A groovebox: USB 1-2 the mix, 3-14 six stereo parts, 15-16 the external input; it needs its full driver and a power cycle.</summary>
public static class BrindleSix
{
    private static readonly ImmutableArray<(string Id, string Name, Family Family, double? SendDb)> Parts =
    [
        ("drums", "Drums", Family.LowDrum, -16),
        ("perc", "Percussion", Family.TomAndPercussion, -12),
        ("bass", "Bass", Family.Bass, null),
        ("keys", "Keys", Family.Keys, -10),
        ("pad", "Pad", Family.Keys, -8),
        ("lead", "Lead", Family.Lead, -10),
    ];

    /// <summary>The chart.</summary>
    public static Chart Chart { get; } = new(
        "brindle-six",
        "Brindle Six",
        SourceKind.Hardware,
        "A groovebox with six stereo parts and an external input over sixteen USB channels, once its full driver is chosen and it was switched off and on.")
    {
        Master = new MasterPatch { ThresholdDb = -14, Ratio = 2, Drive = 0.2 },
        LatencyMs = 4.5,
        Clock = new ChartClock(Follows: true, Leads: true, StartStop: true),
        Voices =
        [
            new("drums-kick", "Drums, kick", 10, [36]) { Drum = Patches.Kick() },
            new("drums-snare", "Drums, snare", 10, [38]) { Drum = Patches.Snare() },
            new("drums-hat", "Drums, hat", 10, [42]) { Drum = Patches.Hat(0.07) },
            new("drums-open", "Drums, open hat", 10, [46]) { Drum = Patches.Hat(0.4) },
            new("perc-high", "Percussion, high", 9, [60]) { Drum = Patches.Tom(320, 0.2) },
            new("perc-low", "Percussion, low", 9, [61]) { Drum = Patches.Tom(210, 0.25) },
            new("bass", "Bass", 1, []) { Tone = Patches.Bass() },
            new("keys", "Keys", 2, []) { Tone = Patches.Keys() },
            new("pad", "Pad", 3, []) { Tone = Patches.Pad() },
            new("lead", "Lead", 4, []) { Tone = Patches.Lead() },
            new("ext-left", "Small box, left", 15, []) { Tone = Patches.Bell() },
            new("ext-right", "Small box, right", 16, []) { Tone = Patches.Lead() },
        ],
        Elements =
        [
            .. Parts.Select((p, i) => new ChartElement(p.Id, p.Name, p.Family, ElementKind.Voice, Width.Stereo)
            {
                Hears = p.Id switch
                {
                    "drums" => [new Hearing("drums-kick"), new Hearing("drums-snare"), new Hearing("drums-hat", -4, 0, 0.4), new Hearing("drums-open", -4, 0, 0.4)],
                    "perc" => [new Hearing("perc-high", 0, 0, -0.5), new Hearing("perc-low", 0, 0, 0.5)],
                    _ => [new Hearing(p.Id)],
                },
                Port = i + 2,
                Ports = [i + 2],
                SendDb = p.SendDb,
                FaderDb = -4,
            }),
            External("ext-left", "External left", -1),
            External("ext-right", "External right", 1),
            new("room", "Room return", Family.RoomAndReturn, ElementKind.Return, Width.Stereo) { Ports = [1], ReturnSeconds = 1.4 },
        ],
        Ports =
        [
            new(1, "Mix", 1, Width.Stereo, Tap.AfterMaster) { IsMain = true },
            .. Parts.Select((p, i) => new ChartPort(i + 2, p.Name, 2 * i + 3, Width.Stereo, Tap.AfterFader)),
            new(8, "External", 15, Width.Stereo, Tap.BeforeFader),
        ],
        Modes =
        [
            new("stereo", "Built-in driver, stereo", [1], NeedsRestart: true),
            new("full", "Full driver, sixteen channels", [.. Enumerable.Range(1, 8)], NeedsRestart: true),
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
        new(id, name, Family.Keys, ElementKind.External, Width.Mono)
        {
            Hears = [new Hearing(id)],
            Port = 8,
            Ports = [8],
            Pan = pan,
            Group = "External",
        };
}
