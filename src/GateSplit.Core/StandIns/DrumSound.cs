using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>A struck voice: a body whose pitch falls, an overtone of the skin, filtered noise, and square metal partials.</summary>
internal sealed class DrumSound : ISound
{
    private const double SkinOvertone = 1.593; // ratio of the (1,1) to the (0,1) mode of an ideal membrane
    private const double Quiet = 3e-5;
    private const double BurstSeconds = 0.011;
    private const double ChokeSeconds = 0.02;
    private static readonly double[] MetalRatios = [1, 1.4471, 1.6170, 1.9265, 2.5028, 2.6637];

    private readonly double _gain;
    private readonly double _bodyStep;
    private readonly double _bendDepth;
    private readonly double _bendFactor;
    private readonly double _bodyFactor;
    private readonly double _noiseFactor;
    private readonly double _metalFactor;
    private readonly double _chokeFactor;
    private readonly double _low;
    private readonly double _high;
    private readonly double _metalHigh;
    private readonly double _bodyShare;
    private readonly double _overtoneShare;
    private readonly uint[] _metalSteps = new uint[6];
    private readonly uint[] _metalPhases = new uint[6];
    private readonly int _burstSamples;
    private readonly long _choked;
    private double _body;
    private double _noise;
    private double _metal;
    private double _bend = 1;
    private double _phase;
    private double _overtonePhase;
    private double _lowState;
    private double _highState1;
    private double _highState2;
    private double _metalState;
    private double _choke = 1;
    private int _burstsLeft;
    private long _at;
    private uint _random;

    public DrumSound(DrumPatch patch, UnitVoice shape, PlayedNote note, int sampleRate, uint seed)
    {
        var tune = Maths.Exp2(shape.TuneSemitones / 12);
        _gain = note.Gain * new Sound.Decibels(shape.LevelDb).Ratio;
        _bodyStep = patch.BodyHz * tune / sampleRate;
        _bendDepth = Maths.Exp2(patch.BendOctaves) - 1;
        _bendFactor = Maths.DecayFactor(patch.BendSeconds, sampleRate);
        _bodyFactor = Maths.DecayFactor(patch.BodyDecaySeconds * shape.DecayScale, sampleRate);
        _noiseFactor = Maths.DecayFactor(patch.NoiseDecaySeconds * shape.DecayScale, sampleRate);
        _metalFactor = Maths.DecayFactor(patch.MetalDecaySeconds * shape.DecayScale, sampleRate);
        _chokeFactor = Maths.DecayFactor(ChokeSeconds, sampleRate);
        _low = OnePole(patch.NoiseHighHz, sampleRate);
        _high = OnePole(patch.NoiseLowHz, sampleRate);
        _metalHigh = OnePole(patch.MetalHz * tune * 6, sampleRate);
        _bodyShare = patch.BodyLevel;
        _overtoneShare = patch.OvertoneLevel;
        _body = patch.BodyLevel + patch.OvertoneLevel > 0 ? 1 : 0;
        _noise = patch.NoiseLevel;
        _metal = patch.MetalLevel;
        for (var i = 0; i < 6; i++)
        {
            _metalSteps[i] = (uint)(patch.MetalHz * tune * MetalRatios[i] / sampleRate * 4294967296.0);
        }

        _burstSamples = (int)(BurstSeconds * sampleRate);
        _burstsLeft = patch.Bursts - 1;
        _choked = note.Choked - note.Start;
        _random = seed | 1;
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

            double value = 0;
            if (_body > Quiet)
            {
                value += Body();
            }

            if (_noise > Quiet || _burstsLeft > 0)
            {
                value += Noise();
            }

            if (_metal > Quiet)
            {
                value += Metal();
            }

            if (_at >= _choked)
            {
                _choke *= _chokeFactor;
            }

            sample += (float)(value * _gain * _choke);
            _at++;
        }

        return !IsOver;
    }

    private bool IsOver => _choke <= Quiet || (_body <= Quiet && _noise <= Quiet && _metal <= Quiet && _burstsLeft <= 0);

    private static double OnePole(double hertz, int sampleRate)
    {
        var g = Maths.FilterGain(hertz, sampleRate);
        return g / (1 + g);
    }

    private double Body()
    {
        var step = _bodyStep * (1 + _bendDepth * _bend);
        _bend *= _bendFactor;
        _phase += step;
        var value = _bodyShare * Maths.SinTurns(_phase);
        if (_overtoneShare > 0)
        {
            _overtonePhase += step * SkinOvertone;
            value += _overtoneShare * Maths.SinTurns(_overtonePhase);
        }

        value *= _body;
        _body *= _bodyFactor;
        return value;
    }

    private double Noise()
    {
        _random ^= _random << 13;
        _random ^= _random >> 17;
        _random ^= _random << 5;
        var white = (int)_random / 2147483648.0;
        _highState1 += _high * (white - _highState1);
        var bright = white - _highState1;
        _highState2 += _high * (bright - _highState2);
        _lowState += _low * (bright - _highState2 - _lowState);
        var burst = 1.0;
        if (_burstsLeft > 0)
        {
            var within = (int)(_at % _burstSamples);
            burst = 1 - 0.8 * within / _burstSamples;
            if (within == _burstSamples - 1)
            {
                _burstsLeft--;
            }
        }
        else
        {
            _noise *= _noiseFactor;
        }

        return _lowState * _noise * burst * 1.6;
    }

    private double Metal()
    {
        var sum = 0;
        for (var i = 0; i < 6; i++)
        {
            _metalPhases[i] += _metalSteps[i];
            sum += _metalPhases[i] < 0x80000000 ? 1 : -1;
        }

        var value = sum / 6.0;
        _metalState += _metalHigh * (value - _metalState);
        value = (value - _metalState) * _metal;
        _metal *= _metalFactor;
        return value;
    }
}
