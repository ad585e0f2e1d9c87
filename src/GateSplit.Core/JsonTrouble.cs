using System.Text.Json;

namespace GateSplit.Core;

/// <summary>What is said of JSON that cannot be read.</summary>
public static class JsonTrouble
{
    /// <summary>What the reader's messages say before they name what is missing; it is told nowhere else.</summary>
    private const string Missing = "including: ";

    /// <summary>A sentence with the place, as far as the reader knows it. Its line is that of the object it was about to build, so it counts only where there is no place.</summary>
    public static string Of(JsonException e)
    {
        var place = e.Path is { Length: > 2 } path ? $"{path[2..]}: " : "";
        var at = e.Message.IndexOf(Missing, StringComparison.Ordinal);
        return (at, place.Length, e.LineNumber) switch
        {
            ( >= 0, _, _) => $"{place}{e.Message[(at + Missing.Length)..].Split(". ")[0].TrimEnd('.')} is missing.",
            (_, > 0, _) => $"{place}the value is not of the kind that belongs there.",
            (_, _, { } line) => $"Line {line + 1} is not JSON that can be read.",
            _ => "This is not JSON that can be read.",
        };
    }
}
