namespace GateSplit.Core.Charts;

/// <summary>A chart to begin with: some drums in a row, each on a mono port of its own after a main pair.</summary>
public static class ChartSketch
{
    private const int FirstKey = 36;

    /// <summary>Makes one.</summary>
    /// <param name="id">Its id.</param>
    /// <param name="name">Its name.</param>
    /// <param name="elements">How many elements, 1 to 64.</param>
    public static Chart Of(ChartId id, string name, int elements) => new(id, name, SourceKind.Hardware, "A new chart.")
    {
        Voices = [.. Enumerable.Range(1, elements).Select(n => new ChartVoice(new VoiceId($"v{n}"), $"Voice {n}", 10, [FirstKey + n - 1]) { Drum = Patches.Tom(60 + 12 * n) })],
        Elements =
        [
            .. Enumerable.Range(1, elements).Select(n => new ChartElement(new ElementId($"v{n}"), $"Voice {n}", Family.TomAndPercussion, ElementKind.Voice, Width.Mono)
            {
                Hears = [new Hearing(new VoiceId($"v{n}"))], Port = n + 1,
            }),
        ],
        Ports =
        [
            new ChartPort(1, "Main", 1, Width.Stereo, Tap.AfterMaster) { IsMain = true },
            .. Enumerable.Range(1, elements).Select(n => new ChartPort(n + 1, $"Out {n}", n + 2, Width.Mono, Tap.AfterFader)),
        ],
        Modes = [new ChartMode(new ModeId("all"), "All outputs", [.. Enumerable.Range(1, elements + 1)], NeedsRestart: false)],
    };

    /// <summary>An id made of a name: small letters and digits, everything else a hyphen.</summary>
    public static ChartId IdOf(string name)
    {
        var id = string.Concat(name.ToLowerInvariant().Select(c => char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c) ? c : '-')).Trim('-');
        return new ChartId(id.Length == 0 ? "chart" : id[..Math.Min(id.Length, 60)]);
    }
}
