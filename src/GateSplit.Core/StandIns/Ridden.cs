using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>
/// What rides do to an element: the filter and mutes change it for every tap; the level only behind its fader; the send
/// only on its way to the shared effect. The filter is a two-pole low-pass (Simper, "Solving the continuous SVF equations
/// using trapezoidal integration", 2013) whose frequency moves on the grid of the ride.
/// </summary>
internal sealed class Ridden
{
    private const double Damping = 1.4142135623730951; // flat up to the frequency

    private readonly RideCurve? _filter;
    private readonly RideCurve? _mute;
    private readonly RideCurve? _level;
    private readonly RideCurve? _send;
    private readonly SampleRate _sampleRate;
    private readonly double[,] _states = new double[2, 2];
    private readonly float[][] _after = [[], []];
    private readonly float[][] _sent = [[], []];
    private float[] _gains = [];

    private Ridden(RideCurve? filter, RideCurve? mute, RideCurve? level, RideCurve? send, SampleRate sampleRate) =>
        (_filter, _mute, _level, _send, _sampleRate) = (filter, mute, level, send, sampleRate);

    /// <summary>True if its level is ridden.</summary>
    public bool MovesLevel => _level is not null;

    /// <summary>True if its send is ridden.</summary>
    public bool MovesSend => _send is not null;

    /// <summary>The rides of an element; null if it has none of this kind.</summary>
    public static Ridden? Of(ChartElement element, IReadOnlyDictionary<(ElementId, RideControl), RideCurve> curves, SampleRate sampleRate)
    {
        RideCurve? Of(RideControl control) => curves.GetValueOrDefault((element.Id, control));
        var ridden = new Ridden(Of(RideControl.Filter), Of(RideControl.Mute), Of(RideControl.Level), Of(RideControl.Send), sampleRate);
        return ridden._filter is null && ridden._mute is null && ridden._level is null && ridden._send is null ? null : ridden;
    }

    /// <summary>One side behind the fader, after <see cref="Process"/>.</summary>
    public ReadOnlySpan<float> AfterFader(int side, int frames) => _after[side].AsSpan(0, frames);

    /// <summary>One side on its way to the shared effect, after <see cref="Process"/>.</summary>
    public ReadOnlySpan<float> Sent(int side, int frames) => _sent[side].AsSpan(0, frames);

    /// <summary>Moves a stretch.</summary>
    /// <param name="start">Its first frame.</param>
    /// <param name="left">Left, in place.</param>
    /// <param name="right">Right, in place; empty for mono.</param>
    public void Process(Frames start, Span<float> left, Span<float> right)
    {
        var frames = left.Length;
        if (_gains.Length < frames)
        {
            _gains = new float[frames];
        }

        var gains = _gains.AsSpan(0, frames);
        if (_filter is not null)
        {
            Filter(start, left, 0);
            Filter(start, right, 1);
        }

        if (_mute is not null)
        {
            _mute.Fill(start, gains, value => value >= 0.5 ? 0 : 1);
            Multiply(left, gains, left);
            Multiply(right, gains, right);
        }

        if (_level is not null)
        {
            _level.Fill(start, gains, value => new Decibels(value).Ratio);
            Put(left, gains, ref _after[0]);
            Put(right, gains, ref _after[1]);
        }

        if (_send is not null)
        {
            _send.Fill(start, gains, value => new Decibels(value).Ratio);
            Put(MovesLevel ? AfterFader(0, frames) : left, gains, ref _sent[0]);
            Put(right.IsEmpty ? right : MovesLevel ? AfterFader(1, frames) : right, gains, ref _sent[1]);
        }
    }

    private static void Put(ReadOnlySpan<float> samples, ReadOnlySpan<float> gains, ref float[] into)
    {
        if (into.Length < samples.Length)
        {
            into = new float[samples.Length];
        }

        Multiply(samples, gains, into);
    }

    private static void Multiply(ReadOnlySpan<float> samples, ReadOnlySpan<float> gains, Span<float> into)
    {
        for (var i = 0; i < samples.Length; i++)
        {
            into[i] = samples[i] * gains[i];
        }
    }

    private void Filter(Frames start, Span<float> samples, int side)
    {
        var (one, two) = (_states[side, 0], _states[side, 1]);
        for (var i = 0; i < samples.Length;)
        {
            // Within a cell of the grid the frequency stands still.
            var (_, within) = (start + i).In(RideCurve.Grid);
            var g = Maths.FilterGain(_filter!.At(start + i - within), _sampleRate);
            var a1 = 1 / (1 + g * (g + Damping));
            for (var end = Math.Min(samples.Length, i + RideCurve.Grid - within); i < end; i++)
            {
                var high = samples[i] - two;
                var band = a1 * one + g * a1 * high;
                var low = two + g * a1 * one + g * g * a1 * high;
                one = 2 * band - one;
                two = 2 * low - two;
                samples[i] = (float)low;
            }
        }

        (_states[side, 0], _states[side, 1]) = (one, two);
    }
}
