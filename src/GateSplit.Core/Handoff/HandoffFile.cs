using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Handoff;

/// <summary>One file of audio that leaves.</summary>
/// <param name="Key">Names it in forms: "line:t3", "stem:g1", "mix".</param>
/// <param name="Kind">What it is.</param>
/// <param name="Number">Its place among those of its kind, from 1.</param>
/// <param name="Path">Where it lies in the handoff: "lines/01 Kick.wav".</param>
/// <param name="Track">What it holds, by its name.</param>
/// <param name="Elements">The elements in it, all of them.</param>
/// <param name="Source">Where it came from, in words.</param>
/// <param name="Take">The take, or the takes, it is of.</param>
/// <param name="Recipe">How it is made.</param>
/// <param name="Format">How its samples are stored.</param>
/// <param name="Container">The kind of file, by its id.</param>
/// <param name="Label">What it says of itself.</param>
public sealed record HandoffFile(
    string Key, HandoffKind Kind, int Number, string Path, string Track, string Elements, string Source, string Take, FileRecipe Recipe, AudioFormat Format, string Container, FileLabel Label)
{
    /// <summary>True if it is the stored file, byte for byte.</summary>
    public bool AsStored { get; init; }

    /// <summary>True if anything in it was mended.</summary>
    public bool Mended { get; init; }

    /// <summary>The family of what it carries; null if mixed.</summary>
    public Family? Family { get; init; }

    /// <summary>The groups that its track is in, in words.</summary>
    public string Groups { get; init; } = "";

    /// <summary>The fader of its track in the mix, with those of its groups; null where that is already in the file.</summary>
    public Decibels? Level { get; init; }

    /// <summary>The pan of its track in the mix; null where that is already in the file.</summary>
    public Pan? Pan { get; init; }

    /// <summary>The pass it was recorded in; null for a sum.</summary>
    public int? Pass { get; init; }

    /// <summary>A remark of its take.</summary>
    public string Remark { get; init; } = "";

    /// <summary>What proof says of it.</summary>
    public string Verdict { get; init; } = "";

    /// <summary>How loud it is; null until somebody has measured it.</summary>
    public HandoffLevels? Levels { get; init; }

    /// <summary>Its length.</summary>
    public Frames Frames => Recipe.Frames;
}
