using GateSplit.Core.Charts;

namespace GateSplit.Core.Splits;

/// <summary>A numbered row of the recorder's inputs.</summary>
/// <param name="Id">Short id, unique in the split.</param>
/// <param name="Label">What stands before the number: "USB", "Kit", "Bus".</param>
/// <param name="Kind">What sort of inputs they are.</param>
/// <param name="Count">How many.</param>
/// <param name="UnitId">The unit whose gate channel n arrives on input n; null for buses.</param>
public sealed record Bank(string Id, string Label, BankKind Kind, int Count, string? UnitId)
{
    /// <summary>"USB 3", or "USB 3-4" for a pair that begins there.</summary>
    public string InputName(int channel, Width width) => $"{Label} {(width == Width.Mono ? $"{channel}" : $"{channel}-{channel + 1}")}";
}
