using System.Runtime.CompilerServices;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>A held note: two detuned saws, a sine or a bell, an exponential envelope, and a low-pass that follows it.</summary>
internal sealed class ToneSound : ISound
{
    private const double Quiet = 3e-5;
    private const int ControlStep = 16;
    private const double Resonance = 0.8; // damping of the low-pass; 1.41 is flat

    private readonly TonePatch _patch;
    private readonly int _sampleRate;
    private readonly double _gain;
    private readonly double _step;
    private readonly double _step1;
    private readonly double _step2;
    private readonly double _attack;
    private readonly double _decay;
    private readonly double _release;
    private readonly double _bellFactor;
    private readonly long _length;
    private double _envelope;
    private bool _attacking = true;
    private double _bellDepth = 1.6;
    private double _phase;
    private double _phase1 = 0.13;
    private double _phase2 = 0.61;
    private double _bellPhase;
    private double _g;
    private double _damping;
    private double _state1;
    private double _state2;
    private long _at;

    public ToneSound(TonePatch patch, UnitVoice shape, PlayedNote note, int sampleRate)
    {
        _patch = patch;
        _sampleRate = sampleRate;
        _gain = note.Gain * patch.Level * new Sound.Decibels(shape.LevelDb).Ratio;
        _step = 440 * Maths.Exp2((note.Key - 69 + patch.Semitones + shape.TuneSemitones) / 12.0) / sampleRate;
        var detune = Maths.Exp2(patch.DetuneCents / 2400);
        _step1 = _step * detune;
        _step2 = _step / detune;
        _attack = 1 / Math.Max(1, patch.AttackSeconds * sampleRate);
        _decay = 1 - Maths.DecayFactor(patch.DecaySeconds * shape.DecayScale, sampleRate);
        _release = Maths.DecayFactor(patch.ReleaseSeconds * shape.DecayScale, sampleRate);
        _bellFactor = Maths.DecayFactor(patch.DecaySeconds * shape.DecayScale * 0.7, sampleRate);
        _length = note.End - note.Start;
    }

    /// <inheritdoc/>
    public bool AddTo(Span<float> samples)
    {
        foreach (ref var sample in samples)
        {
            if (IsOver)
            {
                return false;
            }

            if (_at % ControlStep == 0)
            {
                _g = Maths.FilterGain(_patch.CutoffHz * Maths.Exp2(_patch.CutoffOctaves * _envelope), _sampleRate);
                _damping = 1 / (1 + _g * (Resonance + _g));
            }

            sample += (float)(Filter(Oscillators()) * Envelope() * _gain);
            _at++;
        }

        return !IsOver;
    }

    private bool IsOver => !_attacking && _envelope <= Quiet && (_at >= _length || _patch.Sustain == 0);

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private double Oscillators()
    {
        double value = 0;
        if (_patch.Saw > 0)
        {
            value += _patch.Saw * 0.5 * (Saw(ref _phase1, _step1) + Saw(ref _phase2, _step2));
        }

        _phase += _step;
        if (_patch.Sine > 0)
        {
            value += _patch.Sine * Maths.FastSinTurns(_phase);
        }

        if (_patch.Bell > 0)
        {
            _bellPhase += _step * 3.5;
            _bellDepth *= _bellFactor;
            value += _patch.Bell * Maths.FastSinTurns(_phase + 1 + _bellDepth * 0.3 * Maths.FastSinTurns(_bellPhase));
        }

        return value;
    }

    /// <summary>A saw whose jump is rounded over two samples (polynomial band-limited step, Välimäki and Huovilainen 2007).</summary>
    private static double Saw(ref double phase, double step)
    {
        phase += step;
        phase -= Math.Floor(phase);
        var value = 2 * phase - 1;
        if (phase < step)
        {
            var t = phase / step;
            value -= t + t - t * t - 1;
        }
        else if (phase > 1 - step)
        {
            var t = (phase - 1) / step;
            value -= t * t + t + t + 1;
        }

        return value;
    }

    /// <summary>A state-variable low-pass with trapezoidal integrators (Zavalishin, "The Art of VA Filter Design").</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private double Filter(double value)
    {
        var high = (value - (Resonance + _g) * _state1 - _state2) * _damping;
        var band = _g * high + _state1;
        _state1 = _g * high + band;
        var low = _g * band + _state2;
        _state2 = _g * band + low;
        return low;
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private double Envelope()
    {
        if (_at >= _length)
        {
            _attacking = false;
            _envelope *= _release;
        }
        else if (_attacking)
        {
            _envelope += _attack;
            if (_envelope >= 1)
            {
                _envelope = 1;
                _attacking = false;
            }
        }
        else
        {
            _envelope += (_patch.Sustain - _envelope) * _decay;
        }

        return _envelope;
    }
}
