using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Charts;

/// <summary>A sampler whose ports the user declares, mono and stereo mixed; new ones exist only after it was loaded again.</summary>
public static class FennelSampler
{
    private static readonly ImmutableArray<(string Id, string Name, Family Family, int Key, DrumPatch Patch, Decibels? SendDb)> Hits =
    [
        ("kick", "Boot kick", Family.LowDrum, 36, Patches.Kick(50, 0.4), null),
        ("snare", "Slate snare", Family.Snare, 38, Patches.Snare(), new Decibels(-14)),
        ("clap", "Deck clap", Family.Snare, 39, Patches.Clap(), new Decibels(-12)),
        ("hat", "Tin hat", Family.HatAndCymbal, 42, Patches.Hat(0.07), null),
        ("shaker", "Grit shaker", Family.TomAndPercussion, 70, Patches.Shaker(), null),
        ("block", "Oak block", Family.TomAndPercussion, 76, Patches.Click(920), new Decibels(-16)),
    ];

    private static readonly ImmutableArray<(string Id, string Name, Family Family, int Channel, TonePatch Patch, Width Width, Decibels? SendDb)> Held =
    [
        ("bass", "Cellar bass", Family.Bass, 1, Patches.Bass(), Width.Mono, null),
        ("keys", "Parlour keys", Family.Keys, 2, Patches.Keys(), Width.Stereo, new Decibels(-12)),
        ("pad", "Frost pad", Family.Keys, 3, Patches.Pad(), Width.Stereo, new Decibels(-9)),
        ("lead", "Reed lead", Family.Lead, 4, Patches.Lead(), Width.Mono, new Decibels(-12)),
    ];

    /// <summary>The chart.</summary>
    public static Chart Chart { get; } = new(
        new ChartId("fennel-sampler"),
        "Fennel Sampler",
        SourceKind.PlugIn,
        "A sampler whose outputs you declare yourself, mono or stereo; a new output exists only once the instrument was loaded again.")
    {
        AssignedLeavesMain = true,
        DeclaresPorts = true,
        LatencyMs = 0,
        Voices =
        [
            .. Hits.Select(h => new ChartVoice(new VoiceId(h.Id), h.Name, 10, [h.Key]) { Drum = h.Patch }),
            .. Held.Select(h => new ChartVoice(new VoiceId(h.Id), h.Name, h.Channel, []) { Tone = h.Patch }),
        ],
        Elements =
        [
            .. Hits.Select(h => new ChartElement(new ElementId(h.Id), h.Name, h.Family, ElementKind.Voice, Width.Mono)
            {
                Hears = [new Hearing(new VoiceId(h.Id))], Group = "Drums", SendDb = h.SendDb, FaderDb = new Decibels(-6),
                Insert = h.Id == "clap" ? new InsertPatch("Grain") { HoldHz = 11000, Bits = 7, Drive = 0.4 } : null,
            }),
            .. Held.Select(h => new ChartElement(new ElementId(h.Id), h.Name, h.Family, ElementKind.Voice, h.Width)
            {
                Hears = h.Width == Width.Stereo ? Patches.Wide(new VoiceId(h.Id), h.Family) : [new Hearing(new VoiceId(h.Id))], Group = "Tones", SendDb = h.SendDb, FaderDb = new Decibels(-6),
                Insert = h.Id == "keys" ? new InsertPatch("Grain") { HoldHz = 16000, Bits = 9, Drive = 0.2 } : null,
            }),
            new(new ElementId("plate"), "Plate return", Family.RoomAndReturn, ElementKind.Return, Width.Stereo) { ReturnSeconds = 1.6 },
        ],
        Ports = [new ChartPort(1, "Main", 1, Width.Stereo, Tap.AfterFader) { IsMain = true }],
        Modes = [new ChartMode(new ModeId("declared"), "Declared outputs", [1], NeedsRestart: true)],
        Settings =
        [
            new("Declare the outputs first, save, and load the instrument again; load the sounds after that.", "The recorder sees only the outputs that were there when the instrument was loaded.", SettingEffect.MainOnly),
            new("Send the plate to an output of its own.", "It lands on the main output, on top of whatever is there."),
        ],
    };
}
