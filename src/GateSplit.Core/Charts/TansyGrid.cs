using System.Collections.Immutable;

namespace GateSplit.Core.Charts;

/// <summary>Six groups of twelve pads on twenty stereo ports: a pad follows its group, a group the main mix on port 1.</summary>
public static class TansyGrid
{
    private const int Pads = 12;
    private const int FirstKey = 36;
    private const int Ports = 20;

    private static readonly ImmutableArray<(string Letter, Family Family, Func<int, (DrumPatch? Drum, TonePatch? Tone)> Sound)> Groups =
    [
        ("A", Family.LowDrum, n => (Patches.Kick(42 + 3 * n, 0.35 + 0.03 * n), null)),
        ("B", Family.Snare, n => (n % 3 == 2 ? Patches.Clap() : Patches.Snare(170 + 9 * n), null)),
        ("C", Family.HatAndCymbal, n => (n < 8 ? Patches.Hat(0.05 + 0.05 * n) : Patches.Cymbal(250 + 20 * n), null)),
        ("D", Family.TomAndPercussion, n => (n % 2 == 0 ? Patches.Tom(80 + 16 * n) : Patches.Click(600 + 90 * n), null)),
        ("E", Family.Bass, _ => (null, Patches.Bass())),
        ("F", Family.Keys, n => (null, n % 2 == 0 ? Patches.Keys() : Patches.Bell())),
    ];

    /// <summary>The chart. Pad n of the group on channel g plays on key 36 + n - 1.</summary>
    public static Chart Chart { get; } = new(
        new ChartId("tansy-grid"),
        "Tansy Grid",
        SourceKind.PlugIn,
        "Six groups of twelve pads on twenty stereo outputs; a pad follows its group, and a group the main mix on output 1.")
    {
        AssignedLeavesMain = true,
        Groups = [.. Groups.Select(g => new ChartGroup($"Group {g.Letter}"))],
        Voices =
        [
            .. from g in Enumerable.Range(0, Groups.Length)
               from n in Enumerable.Range(0, Pads)
               let sound = Groups[g].Sound(n)
               select new ChartVoice(new VoiceId(Id(g, n)), Name(g, n), g + 1, [FirstKey + n]) { Drum = sound.Drum, Tone = sound.Tone },
        ],
        Elements =
        [
            .. from g in Enumerable.Range(0, Groups.Length)
               from n in Enumerable.Range(0, Pads)
               select new ChartElement(new ElementId(Id(g, n)), Name(g, n), Groups[g].Family, ElementKind.Voice, Width.Mono)
               {
                   Hears = [new Hearing(new VoiceId(Id(g, n)))],
                   Group = $"Group {Groups[g].Letter}",
               },
        ],
        Ports = [.. Enumerable.Range(1, Ports).Select(n =>
            new ChartPort(n, n == 1 ? "Main" : $"Out {n}", 2 * n - 1, Width.Stereo, n == 1 ? Tap.AfterMaster : Tap.AfterFader) { IsMain = n == 1 })],
        Modes = [new ChartMode(new ModeId("all"), "Twenty stereo outputs", [.. Enumerable.Range(1, Ports)], NeedsRestart: false)],
        Settings =
        [
            new("Open the instrument with its twenty outputs.", "Only the main pair comes back into the recorder.", SettingEffect.MainOnly),
            new("Set the output of a whole group on the group page, that of a single pad on the pad page.", "A setting made on the group page moves every pad that follows the group."),
        ],
    };

    private static string Id(int group, int pad) => $"{char.ToLowerInvariant(Groups[group].Letter[0])}{pad + 1}";

    private static string Name(int group, int pad) => $"{Groups[group].Letter}{pad + 1}";
}
