using GateSplit.Core.Quantities;

namespace GateSplit.Core.Signal;

/// <summary>
/// What a path does to a pair of channels: out.L = LL in.L + LR in.R, out.R = RL in.L + RR in.R, as ratios of
/// amplitudes. A mono signal is the left channel alone.
/// </summary>
/// <param name="LL">From left to left.</param>
/// <param name="LR">From right to left.</param>
/// <param name="RL">From left to right.</param>
/// <param name="RR">From right to right.</param>
public readonly record struct Gain2x2(double LL, double LR, double RL, double RR)
{
    /// <summary>Nothing passes.</summary>
    public static Gain2x2 Zero => default;

    /// <summary>Both channels pass unchanged.</summary>
    public static Gain2x2 Unity => new(1, 0, 0, 1);

    /// <summary>True if nothing passes.</summary>
    public bool IsZero => LL == 0 && LR == 0 && RL == 0 && RR == 0;

    /// <summary>The largest of the four, as a ratio.</summary>
    public double Largest => Math.Max(Math.Max(Math.Abs(LL), Math.Abs(LR)), Math.Max(Math.Abs(RL), Math.Abs(RR)));

    /// <summary>True if anything arrives on the left.</summary>
    public bool ReachesLeft => LL != 0 || LR != 0;

    /// <summary>True if anything arrives on the right.</summary>
    public bool ReachesRight => RL != 0 || RR != 0;

    /// <summary>The path <paramref name="first"/> followed by this one.</summary>
    public Gain2x2 After(Gain2x2 first) => new(
        LL * first.LL + LR * first.RL,
        LL * first.LR + LR * first.RR,
        RL * first.LL + RR * first.RL,
        RL * first.LR + RR * first.RR);

    /// <summary>Two paths side by side.</summary>
    public static Gain2x2 operator +(Gain2x2 a, Gain2x2 b) => new(a.LL + b.LL, a.LR + b.LR, a.RL + b.RL, a.RR + b.RR);

    /// <summary>The path at another level.</summary>
    public static Gain2x2 operator *(double ratio, Gain2x2 a) => new(ratio * a.LL, ratio * a.LR, ratio * a.RL, ratio * a.RR);

    /// <summary>
    /// A mono signal panned into a pair with equal power: theta = (pan + 1) pi / 4, left cos, right sin; hard over
    /// gives exactly 1 and 0.
    /// </summary>
    /// <param name="pan">Where to.</param>
    public static Gain2x2 Panned(Pan pan)
    {
        var theta = (pan.Value + 1) * Math.PI / 4;
        return pan.Value switch
        {
            -1 => new Gain2x2(1, 0, 0, 0),
            1 => new Gain2x2(0, 0, 1, 0),
            _ => new Gain2x2(Math.Cos(theta), 0, Math.Sin(theta), 0),
        };
    }

    /// <summary>The balance of a pair: the far side is turned down, the near side stays.</summary>
    /// <param name="balance">-1 left to 1 right.</param>
    public static Gain2x2 Balanced(Pan balance) => new(Math.Min(1, 1 - balance.Value), 0, 0, Math.Min(1, 1 + balance.Value));

    /// <summary>A pair into one channel: half of each side.</summary>
    public static Gain2x2 SumToMono => new(0.5, 0.5, 0, 0);
}
