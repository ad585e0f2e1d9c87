using System.Collections.Immutable;
using System.Text.RegularExpressions;
using GateSplit.Core.Edits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>One thing a check has to say about a split.</summary>
/// <param name="Severity">How much it matters.</param>
/// <param name="Place">What it is about.</param>
/// <param name="Sentence">What will happen, and what to do.</param>
public sealed partial record Finding(Severity Severity, Place Place, string Sentence)
{
    /// <summary>What it is about beside its place: the other tracks of lines that are exchanged or shifted together.</summary>
    public ImmutableArray<Place> Also { get; init; } = [];

    /// <summary>Everything it is about.</summary>
    public IEnumerable<Place> Places => Also.Prepend(Place);

    /// <summary>All names of a list of which the sentence may tell only the first; empty where it tells them all.</summary>
    public ImmutableArray<string> Names { get; init; } = [];

    /// <summary>The check that found it.</summary>
    public string Check { get; init; } = "";

    /// <summary>Why it is meant to be so; null if nobody accepted it.</summary>
    public string? Accepted { get; init; }

    /// <summary>Tells it from all other findings of the same look.</summary>
    public string Id { get; init; } = "";

    /// <summary>The <see cref="Id"/> of the finding that explains this one, so that its fix mends both; null for a cause.</summary>
    public string? Under { get; init; }

    /// <summary>True if it should be mended before recording; what only follows from another is mended with that.</summary>
    public bool ToMend => Severity >= Severity.Warning && Accepted is null && Under is null;

    /// <summary>What the fix does, as a label for its button; null where there is none.</summary>
    public string? FixLabel { get; init; }

    /// <summary>The edit that mends it; null where none can be computed.</summary>
    public Edit? Fix { get; init; }

    /// <summary>Names this finding as long as it is found.</summary>
    public string Key => $"{Check}@{Place}";

    /// <summary>A finding worth knowing.</summary>
    public static Finding Note(Place place, string sentence) => new(Severity.Note, place, sentence);

    /// <summary>A finding that spoils the recording.</summary>
    public static Finding Warning(Place place, string sentence) => new(Severity.Warning, place, sentence);

    /// <summary>A finding with which no pass can run.</summary>
    public static Finding Stop(Place place, string sentence) => new(Severity.Stop, place, sentence);

    /// <summary>The same finding, about other places as well.</summary>
    public Finding AndAbout(IEnumerable<Place> places) => this with { Also = [.. places] };

    /// <summary>The same finding with all names of its list, so that those its sentence leaves out can be seen.</summary>
    public Finding Naming(IEnumerable<string> names) => Shortened().IsMatch(Sentence) ? this with { Names = [.. names] } : this;

    [GeneratedRegex(@" and \d+ more\b", RegexOptions.None, 1000)]
    private static partial Regex Shortened();

    /// <summary>The same finding with a way to mend it.</summary>
    public Finding WithFix(string label, Edit fix) => this with { FixLabel = label, Fix = fix };
}
