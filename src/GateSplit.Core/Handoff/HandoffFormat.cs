using System.Collections.Immutable;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Handoff;

/// <summary>How the files of a handoff are stored.</summary>
/// <param name="Value">Names it in forms and addresses.</param>
/// <param name="Name">Its name for people.</param>
/// <param name="Container">The kind of file.</param>
/// <param name="Sample">The sample format to convert to; null to leave the samples as they are.</param>
public sealed record HandoffFormat(string Value, string Name, IContainer Container, SampleFormat? Sample)
{
    /// <summary>As they were printed.</summary>
    public static HandoffFormat AsPrinted { get; } = new("as-printed", "as printed, byte for byte", Containers.Wave, null);

    /// <summary>All there are.</summary>
    public static ImmutableArray<HandoffFormat> All { get; } =
    [
        AsPrinted,
        .. from container in Containers.All
           from sample in container.Samples
           select new HandoffFormat(
               container == Containers.Wave ? Word(sample) : $"{container.Id}-{Word(sample)}",
               $"{container.Name} {Words(sample)}".Trim(),
               container,
               sample),
    ];

    /// <summary>The one of this name; as printed for any other.</summary>
    public static HandoffFormat Read(string? value) => All.FirstOrDefault(f => f.Value == value) ?? AsPrinted;

    private static string Word(SampleFormat sample) => sample.ToString().ToLowerInvariant();

    private static string Words(SampleFormat sample) => sample switch
    {
        SampleFormat.Pcm16 => "16 bit, with dither",
        SampleFormat.Pcm24 => "24 bit",
        SampleFormat.Float32 => "32 bit float",
        _ => sample.ToString(),
    };
}
