using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Charts;

/// <summary>Sub-groups inside the recorder, sent to its internal buses and recorded again as stems.</summary>
public static class RecorderGroups
{
    private static readonly ImmutableArray<(string Id, string Name, Family Family)> Groups =
    [
        ("drums", "Drum group", Family.LowDrum),
        ("bass", "Bass group", Family.Bass),
        ("keys", "Keys group", Family.Keys),
        ("lead", "Lead group", Family.Lead),
    ];

    /// <summary>The chart.</summary>
    public static Chart Chart { get; } = new(
        new ChartId("recorder-groups"),
        "Recorder groups",
        SourceKind.Recorder,
        "Sub-groups that are in the recorder already, sent to internal buses and recorded again as stems.")
    {
        AssignedLeavesMain = true,
        Voices =
        [
            new(new VoiceId("kick"), "Kick", 10, [35, 36]) { Drum = Patches.Kick() },
            new(new VoiceId("snare"), "Snare", 10, [38, 40]) { Drum = Patches.Snare() },
            new(new VoiceId("hat"), "Hat", 10, [42, 44, 46]) { Drum = Patches.Hat(0.08) },
            new(new VoiceId("bass"), "Bass", 1, []) { Tone = Patches.Bass() },
            new(new VoiceId("keys"), "Keys", 2, []) { Tone = Patches.Keys() },
            new(new VoiceId("lead"), "Lead", 4, []) { Tone = Patches.Lead() },
        ],
        Elements =
        [
            .. Groups.Select(g => new ChartElement(new ElementId(g.Id), g.Name, g.Family, ElementKind.Voice, Width.Stereo)
            {
                Hears = g.Id == "drums" ? [new Hearing(new VoiceId("kick")), new Hearing(new VoiceId("snare")), new Hearing(new VoiceId("hat"), new Decibels(-4), 0, new Pan(0.3))] : Patches.Wide(new VoiceId(g.Id), g.Family),
            }),
        ],
        Ports = [.. Enumerable.Range(1, 5).Select(n =>
            new ChartPort(n, n == 1 ? "Main output" : $"Stem bus {n - 1}", 2 * n - 1, Width.Stereo, n == 1 ? Tap.AfterMaster : Tap.AfterFader) { IsMain = n == 1 })],
        Modes = [new ChartMode(new ModeId("buses"), "Main output and four stem buses", [1, 2, 3, 4, 5], NeedsRestart: false)],
        Settings = [new("Send each group to its bus before making the new tracks.", "A new track listens to the bus it was made with, and may feed it: that howls.")],
    };
}
