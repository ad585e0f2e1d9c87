using System.Runtime.CompilerServices;
using System.Runtime.Intrinsics;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>
/// One hit of a struck voice: a body whose pitch falls, an overtone of the skin, filtered noise, and square metal partials.
/// It renders itself in pieces of a fixed length counted from its own start, so many samples can be computed side by side
/// and still nothing depends on the blocks they are asked for in.
/// </summary>
internal sealed class DrumSound
{
    /// <summary>Samples rendered at a time.</summary>
    private const int PieceFrames = 64;

    /// <summary>A part of a sound below this level, -94 dBFS, has died away.</summary>
    private const double Quiet = 2e-5;

    private const double SkinOvertone = 1.593; // ratio of the (1,1) to the (0,1) mode of an ideal membrane
    private const double BurstSeconds = 0.011;
    private const double ChokeSeconds = 0.02;
    private const float NoiseGain = 1.6f;
    private static readonly double[] MetalRatios = [1, 1.4471, 1.6170, 1.9265, 2.5028, 2.6637];

    private readonly float[] _piece = new float[PieceFrames];
    private int _used = PieceFrames;
    private readonly float _gain;
    private readonly float _bodyShare;
    private readonly float _overtoneShare;
    private readonly double _bodyStep;
    private readonly double _bendDepth;
    private readonly double _bendFactor;
    private readonly Vector256<float> _bendSums;
    private readonly double _bodyFactor;
    private readonly double _noiseFactor;
    private readonly double _metalFactor;
    private readonly double _chokeFactor;
    private readonly Vector256<float> _bodyPowers;
    private readonly Vector256<float> _noisePowers;
    private readonly Vector256<float> _metalPowers;
    private readonly double _body8;
    private readonly double _bend8;
    private readonly double _noise8;
    private readonly double _metal8;
    private readonly Vector256<uint>[] _metalTurns;
    private readonly uint[] _metalSteps;
    private readonly uint[] _metalPhases;
    private readonly int _burstSamples;
    private readonly long _choked;
    private OnePole _noiseHigh;
    private OnePole _noiseLow1;
    private OnePole _noiseLow2;
    private OnePole _metalLow;
    private Vector256<uint> _random;
    private double _body;
    private double _noise;
    private double _metal;
    private double _choke = 1;
    private double _bend = 1;
    private double _phase;
    private double _overtonePhase;
    private int _burstsLeft;
    private long _at;

    public DrumSound(DrumPatch patch, UnitVoice shape, PlayedNote note, int sampleRate, uint seed)
    {
        var tune = Maths.Exp2(shape.TuneSemitones / 12);
        _gain = (float)(note.Gain * new Sound.Decibels(shape.LevelDb).Ratio);
        _bodyStep = patch.BodyHz * tune / sampleRate;
        _bendDepth = Maths.Exp2(patch.BendOctaves) - 1;
        _bendFactor = Maths.DecayFactor(patch.BendSeconds, sampleRate);
        var bends = Lanes.Powers(_bendFactor);
        for (var i = 0; i < Lanes.Count; i++)
        {
            _bendSums = _bendSums.WithElement(i, (i > 0 ? _bendSums.GetElement(i - 1) : 0) + bends.GetElement(i));
        }

        _bodyFactor = Maths.DecayFactor(patch.BodyDecaySeconds * shape.DecayScale, sampleRate);
        _noiseFactor = Maths.DecayFactor(patch.NoiseDecaySeconds * shape.DecayScale, sampleRate);
        _metalFactor = Maths.DecayFactor(patch.MetalDecaySeconds * shape.DecayScale, sampleRate);
        _chokeFactor = Maths.DecayFactor(ChokeSeconds, sampleRate);
        (_bodyPowers, _noisePowers, _metalPowers) = (Lanes.Powers(_bodyFactor), Lanes.Powers(_noiseFactor), Lanes.Powers(_metalFactor));
        (_body8, _bend8) = (Lanes.EighthPower(_bodyFactor), Lanes.EighthPower(_bendFactor));
        (_noise8, _metal8) = (Lanes.EighthPower(_noiseFactor), Lanes.EighthPower(_metalFactor));
        _noiseHigh = new OnePole(patch.NoiseHighHz, sampleRate);
        _noiseLow1 = _noiseLow2 = new OnePole(patch.NoiseLowHz, sampleRate);
        _metalLow = new OnePole(patch.MetalHz * tune * 6, sampleRate);
        _bodyShare = (float)patch.BodyLevel;
        _overtoneShare = (float)patch.OvertoneLevel;
        _body = patch.BodyLevel + patch.OvertoneLevel > 0 ? 1 : 0;
        _noise = patch.NoiseLevel;
        _metal = patch.MetalLevel;
        _metalSteps = [.. MetalRatios.Select(r => (uint)(patch.MetalHz * tune * r / sampleRate * 4294967296.0))];
        _metalTurns = [.. _metalSteps.Select(s => Vector256.Create(1u, 2, 3, 4, 5, 6, 7, 8) * s)];
        _metalPhases = new uint[MetalRatios.Length];
        _burstSamples = (int)(BurstSeconds * sampleRate);
        _burstsLeft = patch.Bursts - 1;
        _choked = note.ChokedAfter;
        for (var i = 0; i < Lanes.Count; i++)
        {
            _random = _random.WithElement(i, Scramble(seed + (uint)i) | 1);
        }
    }

    /// <summary>Adds its next samples.</summary>
    /// <returns>False once it has died away.</returns>
    public bool AddTo(Span<float> samples)
    {
        while (!samples.IsEmpty)
        {
            if (_used == PieceFrames)
            {
                if (IsOver)
                {
                    return false;
                }

                Array.Clear(_piece);
                Render(_piece);
                _used = 0;
            }

            var count = Math.Min(PieceFrames - _used, samples.Length);
            Mixing.AddScaled(samples[..count], _piece.AsSpan(_used, count), 1);
            _used += count;
            samples = samples[count..];
        }

        return _used < PieceFrames || !IsOver;
    }

    /// <summary>True once nothing is left to hear.</summary>
    private bool IsOver =>
        _choke <= Quiet || (IsQuiet(_body) && IsQuiet(_noise) && IsQuiet(_metal) && _burstsLeft <= 0);

    /// <summary>Adds the next piece.</summary>
    private void Render(Span<float> piece)
    {
        var groups = Lanes.Groups(piece);
        if (!IsQuiet(_body))
        {
            AddBody(groups);
        }

        if (!IsQuiet(_noise) || _burstsLeft > 0)
        {
            AddNoise(groups);
        }

        if (!IsQuiet(_metal))
        {
            AddMetal(groups);
        }

        _at += piece.Length;
        if (_at > _choked)
        {
            Choke(piece[(int)Math.Max(0, piece.Length - (_at - _choked))..]);
        }
    }

    private bool IsQuiet(double level) => level * _choke * _gain <= Quiet;

    /// <summary>The finaliser of MurmurHash3: neighbouring seeds give unlike noise.</summary>
    private static uint Scramble(uint x)
    {
        x = (x ^ (x >> 16)) * 0x85EBCA6Bu;
        x = (x ^ (x >> 13)) * 0xC2B2AE35u;
        return x ^ (x >> 16);
    }

    /// <summary>Being cut off is a decay of its own on top of the others.</summary>
    private void Choke(Span<float> samples)
    {
        foreach (ref var sample in samples)
        {
            _choke *= _chokeFactor;
            sample *= (float)_choke;
        }
    }

    private void AddBody(Span<Vector256<float>> groups)
    {
        float share = _bodyShare * _gain, overtone = _overtoneShare * _gain;
        foreach (ref var group in groups)
        {
            var moved = Lanes.OneToEight * (float)_bodyStep + _bendSums * (float)(_bodyStep * _bendDepth * _bend);
            var value = Lanes.SinTurns(moved + Vector256.Create((float)_phase)) * share;
            if (overtone > 0)
            {
                value += Lanes.SinTurns(moved * (float)SkinOvertone + Vector256.Create((float)_overtonePhase)) * overtone;
            }

            group += value * _bodyPowers * (float)_body;
            var turn = _bodyStep * (8 + _bendDepth * _bend * _bendSums.GetElement(7));
            _phase = Fraction(_phase + turn);
            _overtonePhase = Fraction(_overtonePhase + turn * SkinOvertone);
            _bend *= _bend8;
            _body *= _body8;
        }
    }

    private void AddNoise(Span<Vector256<float>> groups)
    {
        Span<float> bursts = stackalloc float[_burstsLeft > 0 ? PieceFrames : 0];
        FillBursts(bursts);
        var levels = Lanes.Groups(bursts);
        var random = _random;
        var gain = _gain * NoiseGain;
        OnePole high = _noiseHigh, low1 = _noiseLow1, low2 = _noiseLow2;
        for (var i = 0; i < groups.Length; i++)
        {
            random ^= random << 13;
            random ^= random >> 17;
            random ^= random << 5;
            var value = Vector256.ConvertToSingle(random.AsInt32()) * (1 / 2147483648f);
            value -= low1.Next(value);
            value -= low2.Next(value);
            groups[i] += high.Next(value) * (levels.IsEmpty ? _noisePowers * ((float)_noise * gain) : levels[i]);
            _noise *= levels.IsEmpty ? _noise8 : 1;
        }

        (_random, _noiseHigh, _noiseLow1, _noiseLow2) = (random, high, low1, low2);
    }

    /// <summary>The levels of a piece of a clap: a few short falls, and behind the last of them the long one.</summary>
    private void FillBursts(Span<float> levels)
    {
        var gain = _gain * NoiseGain;
        var at = _at;
        foreach (ref var level in levels)
        {
            if (_burstsLeft > 0)
            {
                var within = (int)(at++ % _burstSamples);
                level = (float)(_noise * (1 - 0.8 * within / _burstSamples)) * gain;
                _burstsLeft -= within == _burstSamples - 1 ? 1 : 0;
            }
            else
            {
                level = (float)_noise * gain;
                _noise *= _noiseFactor;
            }
        }
    }

    private void AddMetal(Span<Vector256<float>> groups)
    {
        var low = _metalLow;
        foreach (ref var group in groups)
        {
            // The top bit of a phase says which half of its turn a square is in.
            var halves = Vector256<uint>.Zero;
            for (var i = 0; i < _metalPhases.Length; i++)
            {
                halves += (_metalTurns[i] + Vector256.Create(_metalPhases[i])) >> 31;
                _metalPhases[i] += 8 * _metalSteps[i];
            }

            var value = Vector256<float>.One - Vector256.ConvertToSingle(halves.AsInt32()) * (1 / 3f);
            group += (value - low.Next(value)) * _metalPowers * (float)(_metal * _gain);
            _metal *= _metal8;
        }

        _metalLow = low;
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static double Fraction(double x) => x - Math.Floor(x);
}
