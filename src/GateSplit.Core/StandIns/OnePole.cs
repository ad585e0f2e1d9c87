using System.Runtime.CompilerServices;
using System.Runtime.Intrinsics;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.StandIns;

/// <summary>
/// A one-pole low-pass, y[n] = a y[n-1] + (1 - a) x[n], on eight samples at a time: the sums over the eight are made by
/// doubling (Hillis and Steele, "Data parallel algorithms", CACM 29 (1986)), and only the last one is waited for. Its state is
/// handed in, so that a loop keeps it in a register.
/// </summary>
internal readonly struct OnePole
{
    private readonly float _gain;
    private readonly Vector256<float> _later1; // a, and 0 where no sample comes one place later
    private readonly Vector256<float> _later2; // a^2, and 0 where none comes two places later
    private readonly Vector256<float> _later4;
    private readonly Vector256<float> _powers;

    /// <summary>A low-pass.</summary>
    /// <param name="hertz">Where it has fallen by 3 dB.</param>
    /// <param name="sampleRate">Frames a second.</param>
    public OnePole(double hertz, SampleRate sampleRate)
    {
        var a = Maths.OnePoleShare(hertz, sampleRate);
        _gain = (float)(1 - a);
        _later1 = Lanes.From(1, a);
        _later2 = Lanes.From(2, a * a);
        _later4 = Lanes.From(4, a * a * a * a);
        _powers = Lanes.Powers(a) * (float)a;
    }

    /// <summary>The next eight samples.</summary>
    /// <param name="x">What goes in.</param>
    /// <param name="last">The last sample that came out before them, eight times; 0 at rest.</param>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public Vector256<float> Next(Vector256<float> x, ref Vector256<float> last)
    {
        var y = x * _gain;
        y = Vector256.FusedMultiplyAdd(Vector256.Shuffle(y, Vector256.Create(0, 0, 1, 2, 3, 4, 5, 6)), _later1, y);
        y = Vector256.FusedMultiplyAdd(Vector256.Shuffle(y, Vector256.Create(0, 0, 0, 1, 2, 3, 4, 5)), _later2, y);
        y = Vector256.FusedMultiplyAdd(Vector256.Shuffle(y, Vector256.Create(0, 0, 0, 0, 0, 1, 2, 3)), _later4, y);
        y = Vector256.FusedMultiplyAdd(_powers, last, y);
        last = Vector256.Shuffle(y, Vector256.Create(7));
        return y;
    }
}
