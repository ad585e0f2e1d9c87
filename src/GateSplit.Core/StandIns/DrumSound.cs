using System.Numerics;
using System.Runtime.Intrinsics;
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
    private const double NoiseGain = 1.6;
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
    private readonly Vector256<uint> _metalSteps;
    private Vector256<uint> _metalPhases;
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
        for (var i = 0; i < MetalRatios.Length; i++)
        {
            _metalSteps = _metalSteps.WithElement(i, (uint)(patch.MetalHz * tune * MetalRatios[i] / sampleRate * 4294967296.0));
        }

        _burstSamples = (int)(BurstSeconds * sampleRate);
        _burstsLeft = patch.Bursts - 1;
        _choked = note.Choked - note.Start;
        _random = seed | 1;
    }

    /// <inheritdoc/>
    public bool AddTo(Span<float> samples)
    {
        if (_at < _choked)
        {
            var free = (int)Math.Min(samples.Length, _choked - _at);
            Add(samples[..free], 1);
            samples = samples[free..];
        }

        // Being cut off is a decay of its own on top of the others.
        Add(samples, _chokeFactor);
        return !IsOver;
    }

    private bool IsOver => _body <= Quiet && _noise <= Quiet && _metal <= Quiet && _burstsLeft <= 0;

    private void Add(Span<float> samples, double choke)
    {
        AddBody(samples, _bodyFactor * choke);
        AddNoise(samples, choke);
        AddMetal(samples, _metalFactor * choke);
        _at += samples.Length;
    }

    private static double OnePole(double hertz, int sampleRate)
    {
        var g = Maths.FilterGain(hertz, sampleRate);
        return g / (1 + g);
    }

    private void AddBody(Span<float> samples, double factor)
    {
        double body = _body, bend = _bend, phase = _phase, overtonePhase = _overtonePhase;
        double step = _bodyStep, depth = _bendDepth, bendFactor = _bendFactor, share = _bodyShare * _gain, overtone = _overtoneShare * _gain;
        foreach (ref var sample in samples)
        {
            if (body <= Quiet)
            {
                break;
            }

            var move = step * (1 + depth * bend);
            bend *= bendFactor;
            phase += move;
            overtonePhase += move * SkinOvertone;
            sample += (float)((share * Maths.FastSinTurns(phase) + overtone * Maths.FastSinTurns(overtonePhase)) * body);
            body *= factor;
        }

        (_body, _bend, _phase, _overtonePhase) = (body, bend, phase, overtonePhase);
    }

    private void AddNoise(Span<float> samples, double choke)
    {
        double noise = _noise, high1 = _highState1, high2 = _highState2, lowState = _lowState;
        double low = _low, high = _high, gain = _gain * NoiseGain, factor = _noiseFactor * choke;
        var random = _random;
        var at = _at;
        foreach (ref var sample in samples)
        {
            if (noise <= Quiet && _burstsLeft <= 0)
            {
                break;
            }

            random ^= random << 13;
            random ^= random >> 17;
            random ^= random << 5;
            var white = (int)random / 2147483648.0;
            high1 += high * (white - high1);
            var bright = white - high1;
            high2 += high * (bright - high2);
            lowState += low * (bright - high2 - lowState);
            var burst = 1.0;
            if (_burstsLeft > 0)
            {
                var within = (int)(at % _burstSamples);
                burst = 1 - 0.8 * within / _burstSamples;
                noise *= choke;
                if (within == _burstSamples - 1)
                {
                    _burstsLeft--;
                }
            }
            else
            {
                noise *= factor;
            }

            sample += (float)(lowState * noise * burst * gain);
            at++;
        }

        (_noise, _highState1, _highState2, _lowState, _random) = (noise, high1, high2, lowState, random);
    }

    private void AddMetal(Span<float> samples, double factor)
    {
        double metal = _metal, state = _metalState, high = _metalHigh, gain = _gain;
        var phases = _metalPhases;
        var steps = _metalSteps;
        foreach (ref var sample in samples)
        {
            if (metal <= Quiet)
            {
                break;
            }

            // Six squares at once: the top bit of a phase says which half of its turn a square is in.
            phases += steps;
            var low = BitOperations.PopCount(phases.ExtractMostSignificantBits());
            var value = (6 - 2 * low) / 6.0;
            state += high * (value - state);
            sample += (float)((value - state) * metal * gain);
            metal *= factor;
        }

        (_metal, _metalState, _metalPhases) = (metal, state, phases);
    }
}
