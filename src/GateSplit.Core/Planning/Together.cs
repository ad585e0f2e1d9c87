using GateSplit.Core.Charts;

namespace GateSplit.Core.Planning;

/// <summary>Lines that belong into one pass: several microphones of one drum, which make one sound only together.</summary>
internal static class Together
{
    /// <summary>What the lines that belong together have in common; null for an element that stands alone.</summary>
    public static string? Of(ChartElement element) =>
        element.Kind == ElementKind.Microphone && element.Hears.Where(h => !h.Bleed).ToList() is [var only] ? only.VoiceId.Value : null;
}
