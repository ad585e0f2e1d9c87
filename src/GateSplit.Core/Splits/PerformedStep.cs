namespace GateSplit.Core.Splits;

/// <summary>A roll, repeat or variation that is performed during a pass.</summary>
/// <param name="Element">Whose notes it changes.</param>
/// <param name="Kind">What it does.</param>
/// <param name="FromBar">Where it begins, from 1; 3.5 is the middle of the third bar.</param>
/// <param name="ToBar">Where it ends.</param>
/// <param name="Number">Strokes a quarter, 1 to 16; parts of a bar, 1 to 32; or the bar whose notes are played.</param>
public sealed record PerformedStep(ElementRef Element, StepKind Kind, double FromBar, double ToBar, int Number)
{
    /// <summary>The most a split has.</summary>
    public const int Most = 1000;

    /// <summary>"roll, 8 a quarter, bar 3 to 3.5".</summary>
    public string Words => FormattableString.Invariant($"{Kind switch { StepKind.Roll => $"roll, {Number} a quarter", StepKind.Repeat => $"repeat, {Number} to a bar", _ => $"variation, as in bar {Number}" }}, bar {FromBar:0.###} to {ToBar:0.###}");
}
