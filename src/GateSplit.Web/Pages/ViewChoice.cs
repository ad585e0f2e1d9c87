using System.Collections.Immutable;

namespace GateSplit.Web.Pages;

/// <summary>How somebody looks at a split: kept in the browser, session by session, and never a part of the split.</summary>
/// <param name="OnlyToMend">True to show only lines with something to mend.</param>
/// <param name="Fits">True to draw the whole split as high as the window.</param>
/// <param name="Folded">Groups that are drawn as one row, as "unit/group".</param>
/// <param name="Pass">The pass that is shown, 0 for all; null if nothing was chosen.</param>
public sealed record ViewChoice(bool OnlyToMend, bool Fits, ImmutableSortedSet<string> Folded, int? Pass)
{
    /// <summary>The cookie it is kept in.</summary>
    public const string CookieName = "split-look";

    private const int MostFolded = 200;

    /// <summary>Everything in full.</summary>
    public static ViewChoice Plain { get; } = new(false, false, [], null);

    /// <summary>The same after a switch: "mend", "fit", "fold:unit/group", "fold-all", "unfold-all", "pass:2".</summary>
    /// <param name="turn">Which switch.</param>
    /// <param name="groups">All groups there are.</param>
    public ViewChoice After(string turn, IEnumerable<string> groups) => turn switch
    {
        "mend" => this with { OnlyToMend = !OnlyToMend },
        "fit" => this with { Fits = !Fits },
        "fold-all" => this with { Folded = [.. groups] },
        "unfold-all" => this with { Folded = [] },
        _ when turn.StartsWith("fold:", StringComparison.Ordinal) && turn[5..] is var group =>
            this with { Folded = Folded.Contains(group) ? Folded.Remove(group) : Folded.Add(group) },
        _ when turn.StartsWith("pass:", StringComparison.Ordinal) && int.TryParse(turn.AsSpan(5), out var pass) => this with { Pass = pass },
        _ => this,
    };

    /// <summary>Reads the cookie; anything odd in it is left out.</summary>
    public static ViewChoice Read(string? text)
    {
        var parts = (text ?? "").Split('|', StringSplitOptions.RemoveEmptyEntries);
        return new ViewChoice(
            parts.Contains("mend"),
            parts.Contains("fit"),
            [.. parts.Where(p => p.StartsWith('/')).Take(MostFolded).Select(p => Uri.UnescapeDataString(p[1..]))],
            parts.FirstOrDefault(p => p.StartsWith("pass", StringComparison.Ordinal)) is { } shown && int.TryParse(shown.AsSpan(4), out var pass) ? pass : null);
    }

    /// <summary>Writes the cookie.</summary>
    public string Write() => string.Join('|', [
        .. OnlyToMend ? ["mend"] : Array.Empty<string>(),
        .. Fits ? ["fit"] : Array.Empty<string>(),
        .. Pass is { } pass ? [$"pass{pass}"] : Array.Empty<string>(),
        .. Folded.Take(MostFolded).Select(f => "/" + Uri.EscapeDataString(f))]);
}
