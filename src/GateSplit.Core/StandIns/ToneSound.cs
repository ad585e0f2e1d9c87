using System.Runtime.CompilerServices;
using System.Runtime.Intrinsics;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>A held note: two detuned saws, a sine or a bell, an exponential envelope, and a low-pass that follows it.</summary>
internal sealed class ToneSound : VoiceSound
{
    private const int ControlFrames = 32;
    private const double BellRatio = 3.5;

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
    private readonly LowPass _lowPass = new();
    private double _envelope;
    private bool _attacking = true;
    private double _bellDepth = 1.6;
    private double _phase;
    private double _phase1 = 0.13;
    private double _phase2 = 0.61;
    private double _bellPhase;
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
        _lowPass.Tune(Cutoff());
    }

    /// <inheritdoc/>
    protected override bool IsOver => !_attacking && _envelope * _gain <= Quiet && (_at >= _length || _patch.Sustain == 0);

    /// <inheritdoc/>
    protected override void Render(Span<float> piece)
    {
        AddOscillators(Lanes.Groups(piece));
        for (var at = 0; at < piece.Length; at += ControlFrames)
        {
            Shape(Lanes.Groups(piece.Slice(at, ControlFrames)));
        }
    }

    private void AddOscillators(Span<Vector256<float>> groups)
    {
        float saw = (float)_patch.Saw * 0.5f, sine = (float)_patch.Sine, bell = (float)_patch.Bell;
        var fades = Lanes.Powers(_bellFactor);
        var fade8 = Lanes.EighthPower(_bellFactor);
        foreach (ref var group in groups)
        {
            if (saw > 0)
            {
                group += (Saw(ref _phase1, _step1) + Saw(ref _phase2, _step2)) * saw;
            }

            var turns = Next(ref _phase, _step);
            if (sine > 0)
            {
                group += Lanes.SinTurns(turns) * sine;
            }

            if (bell > 0)
            {
                var depth = fades * (float)(_bellDepth * 0.3);
                group += Lanes.SinTurns(turns + depth * Lanes.SinTurns(Next(ref _bellPhase, _step * BellRatio))) * bell;
                _bellDepth *= fade8;
            }
        }
    }

    /// <summary>The phases of the next eight samples, in turns; the first of them lies in the first turn.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static Vector256<float> Next(ref double phase, double step)
    {
        var turns = Lanes.OneToEight * (float)step + Vector256.Create((float)phase);
        phase += 8 * step;
        phase -= Math.Floor(phase);
        return turns;
    }

    /// <summary>A saw whose jump is rounded over two samples (polynomial band-limited step, Välimäki and Huovilainen 2007).</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static Vector256<float> Saw(ref double phase, double step)
    {
        var turns = Next(ref phase, step);
        turns -= Vector256.Floor(turns);
        var stretch = Vector256.Create((float)(1 / step));
        var one = Vector256<float>.One;
        var after = turns * stretch;
        var before = (turns - one) * stretch;
        var zero = Vector256<float>.Zero;
        var rounding =
            Vector256.ConditionalSelect(Vector256.LessThan(after, one), after + after - after * after - one, zero)
            + Vector256.ConditionalSelect(Vector256.GreaterThan(before, -one), before * before + before + before + one, zero);
        return turns + turns - one - rounding;
    }

    /// <summary>Low-pass and envelope over a few samples with one cutoff.</summary>
    private void Shape(Span<Vector256<float>> groups)
    {
        if (_patch.CutoffOctaves != 0)
        {
            _lowPass.Tune(Cutoff());
        }

        Span<float> levels = stackalloc float[ControlFrames];
        FillEnvelope(levels);
        var envelope = Lanes.Groups(levels);
        for (var i = 0; i < groups.Length; i++)
        {
            groups[i] = _lowPass.Next(groups[i]) * envelope[i];
        }
    }

    private double Cutoff() =>
        Maths.FilterGain(_patch.CutoffHz * Maths.Exp2(_patch.CutoffOctaves * _envelope), _sampleRate);

    /// <summary>The next levels of the envelope: a line up, then an exponential to the sustain level, then one to nothing.</summary>
    private void FillEnvelope(Span<float> levels)
    {
        var held = levels[..(int)Math.Clamp(_length - _at, 0, levels.Length)];
        var i = 0;
        for (; _attacking && i < held.Length; i++)
        {
            _envelope = Math.Min(1, _envelope + _attack);
            _attacking = _envelope < 1;
            held[i] = (float)(_envelope * _gain);
        }

        var above = _envelope - _patch.Sustain;
        var keep = 1 - _decay;
        foreach (ref var level in held[i..])
        {
            above *= keep;
            level = (float)((_patch.Sustain + above) * _gain);
        }

        var free = _patch.Sustain + above;
        foreach (ref var level in levels[held.Length..])
        {
            free *= _release;
            level = (float)(free * _gain);
        }

        _envelope = free;
        _attacking &= held.Length == levels.Length;
        _at += levels.Length;
    }
}
