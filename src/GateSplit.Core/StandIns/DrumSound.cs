using System.Runtime.CompilerServices;
using System.Runtime.Intrinsics;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
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
    private readonly Vector256<uint>[] _metalPhases; // of eight samples
    private readonly Vector256<uint>[] _metalSteps; // to the next eight
    private readonly int _burstSamples;
    private readonly Frames _choked;
    private readonly OnePole _noiseHigh;
    private readonly OnePole _noiseLow;
    private readonly OnePole _metalLow;
    private Vector256<float> _noiseHighLast;
    private Vector256<float> _noiseLowLast1;
    private Vector256<float> _noiseLowLast2;
    private Vector256<float> _metalLowLast;
    private Vector256<uint> _random;
    private double _body;
    private double _noise;
    private double _metal;
    private double _choke = 1;
    private double _bend = 1;
    private ulong _phase;
    private ulong _overtonePhase;
    private int _burstsLeft;
    private Frames _at;

    public DrumSound(DrumPatch patch, UnitVoice shape, PlayedNote note, SampleRate sampleRate, uint seed)
    {
        var tune = Maths.Exp2(shape.TuneSemitones / 12);
        _gain = (float)(note.Gain * shape.LevelDb.Ratio);
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
        _noiseLow = new OnePole(patch.NoiseLowHz, sampleRate);
        _metalLow = new OnePole(patch.MetalHz * tune * 6, sampleRate);
        _bodyShare = (float)patch.BodyLevel;
        _overtoneShare = (float)patch.OvertoneLevel;
        _body = patch.BodyLevel + patch.OvertoneLevel > 0 ? 1 : 0;
        _noise = patch.NoiseLevel;
        _metal = patch.MetalLevel;
        uint[] steps = [.. MetalRatios.Select(r => (uint)(patch.MetalHz * tune * r / sampleRate * 4294967296.0))];
        _metalPhases = [.. steps.Select(s => Vector256.Create(1u, 2, 3, 4, 5, 6, 7, 8) * s)];
        _metalSteps = [.. steps.Select(s => Vector256.Create(8 * s))];
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
            Choke(piece[(int)Math.Max(0, piece.Length - (_at - _choked).Count)..]);
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

    // What a loop changes it keeps in locals: a field would be stored and loaded again for each group.
    private void AddBody(Span<Vector256<float>> groups)
    {
        float share = _bodyShare * _gain, overtone = _overtoneShare * _gain;
        double bend = _bend, body = _body;
        ulong phase = _phase, overtonePhase = _overtonePhase;
        double step = _bodyStep, depth = _bodyStep * _bendDepth, bentStep = _bodyStep * _bendDepth * _bendSums.GetElement(7);
        var steps = Lanes.OneToEight * (float)step;
        foreach (ref var group in groups)
        {
            var moved = Vector256.FusedMultiplyAdd(_bendSums, Vector256.Create((float)(depth * bend)), steps);
            Vector256<float> value = Lanes.SinTurns<Lanes8>(moved + Vector256.Create(Turns(phase)));
            value *= share;
            if (overtone > 0)
            {
                Vector256<float> over = Lanes.SinTurns<Lanes8>(Vector256.FusedMultiplyAdd(moved, Vector256.Create((float)SkinOvertone), Vector256.Create(Turns(overtonePhase))));
                value = Vector256.FusedMultiplyAdd(over, Vector256.Create(overtone), value);
            }

            group = Vector256.FusedMultiplyAdd(value, _bodyPowers * (float)body, group);
            var turn = step * 8 + bentStep * bend;
            phase += FixedPoint(turn);
            overtonePhase += FixedPoint(turn * SkinOvertone);
            bend *= _bend8;
            body *= _body8;
        }

        (_phase, _overtonePhase, _bend, _body) = (phase, overtonePhase, bend, body);
    }

    private void AddNoise(Span<Vector256<float>> groups)
    {
        Span<float> bursts = stackalloc float[_burstsLeft > 0 ? PieceFrames : 0];
        FillBursts(bursts);
        var levels = Lanes.Groups(bursts);
        var random = _random;
        var gain = _gain * NoiseGain;
        var noise = _noise;
        var (high, low1, low2) = (_noiseHighLast, _noiseLowLast1, _noiseLowLast2);
        for (var i = 0; i < groups.Length; i++)
        {
            random ^= random << 13;
            random ^= random >> 17;
            random ^= random << 5;
            var value = Vector256.ConvertToSingle(random.AsInt32()) * (1 / 2147483648f);
            value -= _noiseLow.Next(value, ref low1);
            value -= _noiseLow.Next(value, ref low2);
            value = _noiseHigh.Next(value, ref high);
            if (levels.IsEmpty)
            {
                groups[i] = Vector256.FusedMultiplyAdd(value, _noisePowers * ((float)noise * gain), groups[i]);
                noise *= _noise8;
            }
            else
            {
                groups[i] += value * levels[i];
            }
        }

        (_random, _noiseHighLast, _noiseLowLast1, _noiseLowLast2) = (random, high, low1, low2);
        _noise = levels.IsEmpty ? noise : _noise;
    }

    /// <summary>The levels of a piece of a clap: a few short falls, and behind the last of them the long one.</summary>
    private void FillBursts(Span<float> levels)
    {
        var gain = _gain * NoiseGain;
        var at = _at.Count;
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
        // The top bit of a phase says which half of its turn a square is in.
        Span<Vector256<uint>> halves = stackalloc Vector256<uint>[PieceFrames / Lanes.Count];
        halves.Clear();
        for (var partial = 0; partial < _metalPhases.Length; partial++)
        {
            var (phase, step) = (_metalPhases[partial], _metalSteps[partial]);
            foreach (ref var half in halves)
            {
                half += phase >> 31;
                phase += step;
            }

            _metalPhases[partial] = phase;
        }

        var low = _metalLowLast;
        var metal = _metal;
        for (var i = 0; i < groups.Length; i++)
        {
            var value = Vector256<float>.One - Vector256.ConvertToSingle(halves[i].AsInt32()) * (1 / 3f);
            groups[i] = Vector256.FusedMultiplyAdd(value - _metalLow.Next(value, ref low), _metalPowers * (float)(metal * _gain), groups[i]);
            metal *= _metal8;
        }

        (_metalLowLast, _metal) = (low, metal);
    }

    /// <summary>Turns below 2^15 as a phase of 2^-48 turns, of which whole turns are cut off.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static ulong FixedPoint(double turns) => (ulong)(long)(turns * 281474976710656.0);

    /// <summary>The fraction of a turn, from -1/2 to 1/2.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static float Turns(ulong phase) => (int)(phase >> 16) * (1 / 4294967296f);
}
