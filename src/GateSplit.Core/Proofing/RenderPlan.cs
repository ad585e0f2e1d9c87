using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Proofing;

/// <summary>How a mended file is made from a printed one: where each of its frames is taken from, and what becomes of its channels.</summary>
/// <param name="Start">The place in the printed file that the first frame is taken from, in frames, with fractions; may lie before it.</param>
/// <param name="Step">Frames of the printed file from one frame to the next: 1 but for drift.</param>
/// <param name="Frames">How many frames the mended file has.</param>
/// <param name="Gains">A row for each channel of the mended file: what it takes of each channel of the printed one.</param>
/// <param name="Dc">What is taken off each channel of the printed file.</param>
/// <param name="FadeIn">Frames of a fade at the start.</param>
/// <param name="FadeOut">Frames of a fade at the end.</param>
public sealed record RenderPlan(
    double Start, double Step, Frames Frames, ImmutableArray<ImmutableArray<double>> Gains, ImmutableArray<double> Dc, Frames FadeIn = default, Frames FadeOut = default)
{
    /// <summary>The file as it is.</summary>
    public static RenderPlan AsItIs(int channels, Frames frames) => new(
        0, 1, frames, [.. Enumerable.Range(0, channels).Select(r => ImmutableArray.CreateRange(Enumerable.Range(0, channels).Select(c => r == c ? 1.0 : 0.0)))], [.. Enumerable.Repeat(0.0, channels)]);

    /// <summary>The same earlier, and less slow.</summary>
    /// <param name="earlier">Frames by which it becomes earlier, with fractions; what lies before its start then is lost.</param>
    /// <param name="slow">By how much it ran slow, as a share.</param>
    public RenderPlan Placed(double earlier, double slow) => this with
    {
        Start = Start + Step * earlier,
        Step = Step * (1 + slow),
        Frames = new(Math.Max(0, (long)Math.Round((Frames.Count - earlier) / (1 + slow)))),
    };

    /// <summary>True if nothing is changed.</summary>
    /// <param name="frames">Frames of the printed file.</param>
    public bool IsAsItIs(Frames frames) => Start == 0 && Frames == frames && IsCopy;

    /// <summary>True if every sample of it is one of the printed file, only elsewhere.</summary>
    internal bool IsCopy => KeepsSamples && Gains.Length == Dc.Length && Gains.Select((row, r) => row[r] == 1).All(same => same);

    /// <summary>True if every sample of it is one of the printed file, upright or upside down, or 0.</summary>
    internal bool KeepsSamples =>
        Step == 1 && Start == Math.Round(Start) && FadeIn == 0 && FadeOut == 0 && Dc.All(d => d == 0)
        && Gains.All(row => row.Count(g => g != 0) <= 1 && row.All(g => g is 0 or 1 or -1));
}
