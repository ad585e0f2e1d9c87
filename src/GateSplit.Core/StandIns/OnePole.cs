using System.Runtime.CompilerServices;
using System.Runtime.Intrinsics;

namespace GateSplit.Core.StandIns;

/// <summary>
/// A one-pole low-pass, y[n] = a y[n-1] + (1 - a) x[n], on eight samples at a time: the sums over the eight are made by
/// doubling (Hillis and Steele, "Data parallel algorithms", CACM 29 (1986)), and only the last one is waited for. Its state is
/// handed in, so that a loop keeps it in a register.
/// </summary>
internal readonly struct OnePole
{
    private readonly float _gain;
    private readonly float _a1;
    private readonly float _a2;
    private readonly float _a4;
    private readonly Vector256<float> _powers;

    /// <summary>A low-pass.</summary>
    /// <param name="hertz">Where it has fallen by 3 dB.</param>
    /// <param name="sampleRate">Frames a second.</param>
    public OnePole(double hertz, int sampleRate)
    {
        var a = Maths.OnePoleShare(hertz, sampleRate);
        _gain = (float)(1 - a);
        _a1 = (float)a;
        _a2 = (float)(a * a);
        _a4 = (float)(a * a * a * a);
        _powers = Lanes.Powers(a) * (float)a;
    }

    /// <summary>The next eight samples.</summary>
    /// <param name="x">What goes in.</param>
    /// <param name="last">The last sample that came out before them, eight times; 0 at rest.</param>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public Vector256<float> Next(Vector256<float> x, ref Vector256<float> last)
    {
        var y = x * _gain;
        y += Lanes.Later1(y) * _a1;
        y += Lanes.Later2(y) * _a2;
        y += Lanes.Later4(y) * _a4;
        y += _powers * last;
        last = Vector256.Shuffle(y, Vector256.Create(7));
        return y;
    }
}
