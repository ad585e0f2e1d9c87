using System.Runtime.CompilerServices;
using System.Runtime.Intrinsics;

namespace GateSplit.Core.StandIns;

/// <summary>
/// A state-variable low-pass with trapezoidal integrators (Zavalishin, "The Art of VA Filter Design"), worked out for
/// eight samples at a time: each input adds its own response, and the two states add theirs.
/// </summary>
internal sealed class LowPass
{
    private const double Resonance = 0.8; // damping; 1.41 is flat

    private readonly float[] _response = new float[2 * Lanes.Count]; // eight zeros, then the answer to one input
    private Vector256<float> _fromState1;
    private Vector256<float> _fromState2;
    private Vector256<float> _toState1;
    private Vector256<float> _toState2;
    private (double A11, double A12, double A21, double A22) _eighth;
    private double _state1;
    private double _state2;

    /// <summary>Moves the cutoff; the states stay.</summary>
    /// <param name="g">tan(pi f / rate).</param>
    public void Tune(double g)
    {
        var gd = g / (1 + g * (Resonance + g));
        double a11 = 1 - 2 * gd * (Resonance + g), a12 = -2 * gd, b1 = 2 * gd;
        double a21 = 2 * g * (1 - gd * (Resonance + g)), a22 = 1 - 2 * g * gd, b2 = 2 * g * gd;

        // Column by column the matrix to the power n: what the states become when nothing comes in.
        double p1 = 1, q1 = 0, p2 = 0, q2 = 1;
        _response[Lanes.Count] = (float)(b2 / 2);
        for (var n = 0; n < Lanes.Count; n++)
        {
            _toState1 = _toState1.WithElement(7 - n, (float)(b1 * p1 + b2 * p2));
            _toState2 = _toState2.WithElement(7 - n, (float)(b1 * q1 + b2 * q2));
            (double p1Next, double q1Next) = (a11 * p1 + a12 * q1, a21 * p1 + a22 * q1);
            (double p2Next, double q2Next) = (a11 * p2 + a12 * q2, a21 * p2 + a22 * q2);
            double r1 = (q1 + q1Next) / 2, r2 = (q2 + q2Next) / 2;
            _fromState1 = _fromState1.WithElement(n, (float)r1);
            _fromState2 = _fromState2.WithElement(n, (float)r2);
            if (n < 7)
            {
                _response[Lanes.Count + 1 + n] = (float)(b1 * r1 + b2 * r2);
            }

            (p1, q1, p2, q2) = (p1Next, q1Next, p2Next, q2Next);
        }

        _eighth = (p1, p2, q1, q2);
    }

    /// <summary>The next eight samples.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public Vector256<float> Next(Vector256<float> x)
    {
        var even = _fromState1 * (float)_state1 + Answer(x, 0);
        var odd = _fromState2 * (float)_state2 + Answer(x, 1);
        even += Answer(x, 2);
        odd += Answer(x, 3);
        even += Answer(x, 4);
        odd += Answer(x, 5);
        even += Answer(x, 6);
        odd += Answer(x, 7);
        (_state1, _state2) = (
            _eighth.A11 * _state1 + _eighth.A12 * _state2 + Vector256.Sum(x * _toState1),
            _eighth.A21 * _state1 + _eighth.A22 * _state2 + Vector256.Sum(x * _toState2));
        return even + odd;
    }

    /// <summary>What the input at one place adds to itself and to all that follow.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private Vector256<float> Answer(Vector256<float> x, int place) =>
        Vector256.LoadUnsafe(ref _response[0], (nuint)(Lanes.Count - place)) * x.GetElement(place);
}
