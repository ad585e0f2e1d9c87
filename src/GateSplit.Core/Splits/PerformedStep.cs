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

    /// <summary>The highest number of a kind.</summary>
    /// <param name="bars">Bars of the pass.</param>
    public int MostNumber(int bars) => Kind switch { StepKind.Roll => 16, StepKind.Repeat => 32, StepKind.Variation => bars, _ => 0 };

    /// <summary>What in it does not fit in a pass of so many bars.</summary>
    internal IEnumerable<Misfit> Misfits(Split split, string place, int bars = PassSettings.MostBars)
    {
        if (!split.HasElement(Element))
        {
            yield return new Misfit($"{place}.element", $"There is no element {Element} in this split any more.");
        }

        if (!(FromBar >= 1 && FromBar < ToBar && ToBar <= bars + 1))
        {
            yield return new Misfit(place, $"It begins and ends between bar 1 and bar {bars + 1}, and begins first.");
        }

        if (Number < 1 || Number > MostNumber(bars))
        {
            yield return new Misfit($"{place}.number", Kind switch
            {
                StepKind.Roll => "A roll has 1 to 16 strokes a quarter.",
                StepKind.Repeat => "A repeat goes 1 to 32 times to a bar.",
                _ => $"A variation plays the notes of one of the bars 1 to {bars}.",
            });
        }
    }
}
