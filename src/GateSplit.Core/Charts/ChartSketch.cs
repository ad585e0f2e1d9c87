namespace GateSplit.Core.Charts;

/// <summary>A chart to begin with: some drums in a row, each on a mono port of its own after a main pair.</summary>
public static class ChartSketch
{
    private const int FirstKey = 36;

    /// <summary>The channel behind the main pair.</summary>
    public const int FirstChannel = 3;

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

    /// <summary>
    /// Makes one of a list of names, one a line: "Kick", or "Kick 36" with the key that plays it; a line that ends in a colon begins a group, and a
    /// blank line ends it. Keys count upward from 36 where none is said.
    /// </summary>
    /// <param name="id">Its id.</param>
    /// <param name="name">Its name.</param>
    /// <param name="list">The list.</param>
    /// <param name="width">Of every element and its port.</param>
    /// <param name="first">The channel on which the first element sits; the main mix is on 1-2, and outputs between are nobody's.</param>
    /// <returns>The chart, or a sentence about what in the list makes none.</returns>
    public static Result<Chart> OfNames(ChartId id, string name, string list, Width width = Width.Mono, int first = FirstChannel)
    {
        if (first is < FirstChannel or > ChartRules.MostChannels)
        {
            return new Refusal($"The main mix is on 1-2, so the first element sits on {FirstChannel} or higher, up to {ChartRules.MostChannels}.");
        }

        var elements = new List<(string Name, int? Key, string? Group)>();
        string? group = null;
        foreach (var line in list.ReplaceLineEndings("\n").Split('\n').Select(l => l.Trim()))
        {
            if (line.Length == 0)
            {
                group = null;
            }
            else if (line.EndsWith(':'))
            {
                group = line[..^1].Trim();
            }
            else
            {
                var parts = line.Split([' ', '\t', ',', ';'], StringSplitOptions.RemoveEmptyEntries);
                var key = parts.Length > 1 && int.TryParse(parts[^1], out var typed) && typed is >= FirstKey - 12 and <= 127 ? typed : (int?)null;
                elements.Add((key is null ? line : line[..line.LastIndexOf(parts[^1], StringComparison.Ordinal)].TrimEnd(' ', '\t', ',', ';'), key, group));
            }
        }

        if (elements.Count is < 1 or > Most)
        {
            return new Refusal($"A list makes 1 to {Most} elements, one a line; this one has {elements.Count}.");
        }

        var taken = elements.Select(e => e.Key).OfType<int>().ToHashSet();
        var free = new Queue<int>(Enumerable.Range(FirstKey, 128 - FirstKey).Where(k => !taken.Contains(k)));
        var sketch = Of(id, name, elements.Count);
        var between = Enumerable.Range(FirstChannel, first - FirstChannel).Select(n => new ChartPort(n - 1, $"Out {n}", n, Width.Mono, Tap.AfterFader)).ToList();
        var chart = sketch with
        {
            Voices = [.. sketch.Voices.Select((v, i) => v with { Name = elements[i].Name, Keys = [elements[i].Key ?? (free.TryDequeue(out var next) ? next : 127)] })],
            Elements =
            [
                .. sketch.Elements.Select((e, i) => e with
                {
                    Name = elements[i].Name, Family = FamilyOf(elements[i].Name), Group = elements[i].Group, Width = width, Port = e.Port + between.Count,
                }),
            ],
            Ports =
            [
                sketch.Ports[0],
                .. between,
                .. sketch.Ports.Skip(1).Select((p, i) => p with { Number = p.Number + between.Count, Name = elements[i].Name, Width = width, FirstChannel = first + i * (int)width }),
            ],
            Modes = [sketch.Modes[0] with { Ports = [.. Enumerable.Range(1, 1 + between.Count + elements.Count)] }],
            Groups = [.. elements.Select(e => e.Group).OfType<string>().Distinct().Select(g => new ChartGroup(g))],
        };
        return ChartRules.Trouble(chart) is { } trouble ? new Refusal(trouble) : chart;
    }

    /// <summary>The most elements of a chart to begin with.</summary>
    public const int Most = 64;

    /// <summary>What a name is to the ear, where it says so.</summary>
    private static Family FamilyOf(string name) => Families.FirstOrDefault(f => f.Words.Any(w => name.Contains(w, StringComparison.OrdinalIgnoreCase))) is { Words: not null } found
        ? found.Family
        : Family.TomAndPercussion;

    private static readonly (Family Family, string[] Words)[] Families =
    [
        (Family.LowDrum, ["kick", "bass drum"]),
        (Family.Snare, ["snare", "rim", "clap"]),
        (Family.HatAndCymbal, ["hat", "cymbal", "ride", "crash", "splash"]),
        (Family.Bass, ["bass", "sub"]),
        (Family.Keys, ["keys", "piano", "organ", "pad", "string", "chord"]),
        (Family.Lead, ["lead", "melody", "arp"]),
        (Family.RoomAndReturn, ["room", "reverb", "delay", "return", "ambience"]),
    ];

    /// <summary>An id made of a name: small letters and digits, everything else a hyphen.</summary>
    public static ChartId IdOf(string name)
    {
        var id = string.Concat(name.ToLowerInvariant().Select(c => char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c) ? c : '-')).Trim('-');
        return new ChartId(id.Length == 0 ? "chart" : id[..Math.Min(id.Length, 60)]);
    }
}
