namespace GateSplit.Core.Charts;

/// <summary>A lead synth with one stereo output, meant to be played through a loopback with rides.</summary>
public static class SiskinMono
{
    /// <summary>The chart.</summary>
    public static Chart Chart { get; } = new(
        new ChartId("siskin-mono"),
        "Siskin Mono",
        SourceKind.PlugIn,
        "A lead synth with one stereo output, played like hardware through a pair that is looped back, so that its rides are recorded.")
    {
        Voices = [new(new VoiceId("lead"), "Siskin lead", 1, []) { Tone = Patches.Lead() with { Sine = 0.2, CutoffHz = 600, CutoffOctaves = 2.4 } }],
        Elements = [new(new ElementId("lead"), "Siskin lead", Family.Lead, ElementKind.Voice, Width.Stereo) { Hears = Patches.Wide(new VoiceId("lead"), Family.Lead) }],
        Ports = [new(1, "Output", 1, Width.Stereo, Tap.AfterMaster) { IsMain = true }],
        Modes = [new(new ModeId("stereo"), "Stereo", [1], NeedsRestart: false)],
        Settings =
        [
            new("Send the instrument's track to the looped pair and nothing else.", "Whatever else plays on that pair is recorded with it."),
            new("Listen by the second path, not by the track that records.", "It is heard twice, or it howls."),
        ],
    };
}
