using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Charts;

/// <summary>An instrument host on a tablet with six app-to-app ports; two of its nodes only send notes and make no sound.</summary>
public static class PocketWeir
{
    private static readonly ImmutableArray<(string Id, string Name, Family Family, int Channel, TonePatch Patch)> Nodes =
    [
        ("bass", "Silt bass", Family.Bass, 1, Patches.Bass()),
        ("keys", "Sluice keys", Family.Keys, 2, Patches.Keys()),
        ("pad", "Reach pad", Family.Keys, 3, Patches.Pad()),
        ("bell", "Weir bell", Family.Keys, 4, Patches.Bell()),
        ("lead", "Otter lead", Family.Lead, 5, Patches.Lead()),
    ];

    /// <summary>The chart.</summary>
    public static Chart Chart { get; } = new(
        new ChartId("pocket-weir"),
        "Pocket Weir",
        SourceKind.Tablet,
        "An instrument host on a tablet: six ports that are joined one by one to the recorder's, and nodes that only send notes and need no port.")
    {
        AssignedLeavesMain = true,
        LatencyMs = 6,
        Voices = [.. Nodes.Select(n => new ChartVoice(new VoiceId(n.Id), n.Name, n.Channel, []) { Tone = n.Patch })],
        Elements =
        [
            .. Nodes.Select(n => new ChartElement(new ElementId(n.Id), n.Name, n.Family, ElementKind.Voice, Width.Stereo)
            {
                Hears = Patches.Wide(new VoiceId(n.Id), n.Family), SendDb = n.Family == Family.Bass ? null : new Decibels(-14),
            }),
            new(new ElementId("echo"), "Echo return", Family.RoomAndReturn, ElementKind.Return, Width.Stereo) { ReturnSeconds = 2.1, EchoSeconds = 0.34 },
            new(new ElementId("steps"), "Stair notes", Family.Lead, ElementKind.NoteOnly, Width.Mono) { InMain = false, Group = "Notes" },
            new(new ElementId("chords"), "Tide notes", Family.Keys, ElementKind.NoteOnly, Width.Mono) { InMain = false, Group = "Notes" },
        ],
        Ports = [.. Enumerable.Range(1, 6).Select(n =>
            new ChartPort(n, n == 1 ? "Port 1 (main)" : $"Port {n}", 2 * n - 1, Width.Stereo, Tap.AfterFader) { IsMain = n == 1 })],
        Modes = [new ChartMode(new ModeId("joined"), "Six joined ports", [.. Enumerable.Range(1, 6)], NeedsRestart: false)],
        Settings =
        [
            new("Start the host before the recorder.", "The recorder does not see its ports.", SettingEffect.MainOnly),
            new("Join each port to one input and no more.", "A port that is taken already cannot be joined again."),
        ],
    };
}
