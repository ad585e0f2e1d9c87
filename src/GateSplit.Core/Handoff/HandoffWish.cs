using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Handoff;

/// <summary>What a person wants to leave, and in what shape.</summary>
public sealed record HandoffWish
{
    /// <summary>The most bars that can be named.</summary>
    public const int MostBars = 100_000;

    /// <summary>The files that are to leave, by their keys; null for what leaves where nobody has said anything.</summary>
    public ImmutableArray<string>? Files { get; init; }

    /// <summary>How stems and the sum of all lines are added up.</summary>
    public StemLevels Stems { get; init; }

    /// <summary>The first bar, from 1; null for the beginning of the files.</summary>
    public int? FromBar { get; init; }

    /// <summary>The last bar; null for the end of the files with their tails.</summary>
    public int? ToBar { get; init; }

    /// <summary>What the files are called.</summary>
    public string Pattern { get; init; } = FileNames.DefaultPattern;

    /// <summary>How they are stored.</summary>
    public string Format { get; init; } = HandoffFormat.AsPrinted.Value;

    /// <summary>Frames a second of all files; null for those they have.</summary>
    public SampleRate? SampleRate { get; init; }

    /// <summary>What does not fit, in a sentence; null if all does.</summary>
    public string? Trouble => (FromBar, ToBar) switch
    {
        ( < 1 or > MostBars, _) or (_, < 1 or > MostBars) => "Bars are counted from 1.",
        ({ } from, { } to) when to < from => "The last bar lies before the first.",
        _ => null,
    };
}
