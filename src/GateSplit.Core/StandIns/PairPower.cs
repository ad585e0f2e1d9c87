using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;

namespace GateSplit.Core.StandIns;

/// <summary>How strong a pair of channels is, and how alike its sides are: enough to tell what any 2x2 gain makes of it.</summary>
/// <param name="Left">Sum of the squares, left.</param>
/// <param name="Right">Sum of the squares, right.</param>
/// <param name="Both">Sum of the products of left and right.</param>
/// <param name="Frames">How many samples were added up.</param>
public readonly record struct PairPower(double Left, double Right, double Both, Frames Frames)
{
    /// <summary>The same with more samples added up.</summary>
    /// <param name="left">Samples.</param>
    /// <param name="right">As many samples; empty for mono.</param>
    public PairPower And(ReadOnlySpan<float> left, ReadOnlySpan<float> right)
    {
        double ll = 0, rr = 0, lr = 0;
        for (var i = 0; i < left.Length; i++)
        {
            double a = left[i], b = right.IsEmpty ? 0 : right[i];
            ll += a * a;
            rr += b * b;
            lr += a * b;
        }

        return new PairPower(Left + ll, Right + rr, Both + lr, Frames + left.Length);
    }

    /// <summary>RMS of both sides together: of a mono signal, its own.</summary>
    public Decibels Rms => Decibels.FromRatio(Math.Sqrt((Left + Right) / Math.Max(1, Frames.Count)));

    /// <summary>What is left after a gain: |L'|^2 = LL^2 |L|^2 + 2 LL LR L.R + LR^2 |R|^2, and so on.</summary>
    public PairPower After(Gain2x2 gain) => new(
        gain.LL * gain.LL * Left + 2 * gain.LL * gain.LR * Both + gain.LR * gain.LR * Right,
        gain.RL * gain.RL * Left + 2 * gain.RL * gain.RR * Both + gain.RR * gain.RR * Right,
        gain.LL * gain.RL * Left + (gain.LL * gain.RR + gain.LR * gain.RL) * Both + gain.LR * gain.RR * Right,
        Frames);
}
