using GateSplit.Core.Sound;

namespace GateSplit.Core.Handoff;

/// <summary>How the files of a handoff are stored.</summary>
public static class HandoffFormat
{
    /// <summary>As they were printed.</summary>
    public const string AsPrinted = "as-printed";

    /// <summary>The choices with their names.</summary>
    public static readonly IReadOnlyList<(string Value, string Name)> Choices =
    [
        (AsPrinted, "as printed, byte for byte"),
        ("pcm16", "16 bit, with dither"),
        ("pcm24", "24 bit"),
        ("float32", "32 bit float"),
    ];

    /// <summary>The format to convert to; null to leave the files as they are.</summary>
    public static SampleFormat? Read(string? value) => value switch
    {
        "pcm16" => SampleFormat.Pcm16,
        "pcm24" => SampleFormat.Pcm24,
        "float32" => SampleFormat.Float32,
        _ => null,
    };
}
