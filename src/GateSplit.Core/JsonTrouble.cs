using System.Text.Json;

namespace GateSplit.Core;

/// <summary>What is said of JSON that cannot be read.</summary>
public static class JsonTrouble
{
    /// <summary>What the reader's messages say before they name what is missing; it is told nowhere else.</summary>
    private const string Missing = "including: ";

    /// <summary>True of what reading JSON throws: it is none, it does not fit, or a letter in it is only half there.</summary>
    public static bool IsTrouble(Exception e) => e is JsonException or InvalidOperationException;

    /// <summary>A sentence with the place, as far as the reader knows it. Its line is that of the object it was about to build, so it counts only where there is no place.</summary>
    /// <param name="e">What the reader threw: a <see cref="JsonException"/>, or an <see cref="InvalidOperationException"/> of half a letter.</param>
    public static string Of(Exception e)
    {
        if (e is not JsonException json)
        {
            return "It holds half of a letter, which is no text.";
        }

        var place = json.Path is { Length: > 2 } path ? $"{path[2..]}: " : "";
        var at = e.Message.IndexOf(Missing, StringComparison.Ordinal);
        return (at, place.Length, json.LineNumber) switch
        {
            ( >= 0, _, _) => $"{place}{e.Message[(at + Missing.Length)..].Split(". ")[0].TrimEnd('.')} is missing.",
            (_, > 0, _) => $"{place}the value is not of the kind that belongs there.",
            (_, _, { } line) => $"Line {line + 1} is not JSON that can be read.",
            _ => "This is not JSON that can be read.",
        };
    }
}
