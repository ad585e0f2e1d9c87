namespace GateSplit.Core.Quantities;

/// <summary>Numbers as people type them.</summary>
public static class NumberText
{
    /// <summary>Reads a finite number with a point or a comma and any minus sign.</summary>
    /// <param name="text">What was typed; spaces around it do not count.</param>
    /// <param name="unit">The unit that may stand behind it, such as dB; empty for none.</param>
    /// <returns>The number, or null where there is none.</returns>
    public static double? Read(string? text, string unit = "")
    {
        var plain = (text ?? "").Trim();
        if (unit.Length > 0 && plain.EndsWith(unit, StringComparison.OrdinalIgnoreCase))
        {
            plain = plain[..^unit.Length].TrimEnd();
        }

        return double.TryParse(plain.Replace(',', '.').Replace('−', '-'), out var value) && double.IsFinite(value) ? value : null;
    }
}
