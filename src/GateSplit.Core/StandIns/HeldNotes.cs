using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>
/// The notes of the voices of a source that hold them: two detuned saws, a sine or a bell, an exponential envelope, and a
/// low-pass that follows it. Eight notes are worked out side by side, one in each lane, whatever voices they are of, in
/// pieces that lie on a grid of frames: so a note sounds the same whatever sounds beside it and in whatever blocks it is
/// asked for. The notes of a voice are added in the order in which they begin.
/// </summary>
internal sealed class HeldNotes
{
    /// <summary>Frames of a piece. The envelope runs straight and the low-pass stands still within one: 0.7 ms at 48 kHz.</summary>
    private const int PieceFrames = 32;

    /// <summary>A note below this level, -94 dBFS, has died away.</summary>
    private const double Quiet = 2e-5;

    private const double BellRatio = 3.5;
    private const float Damping = 0.8f; // of the low-pass; 1.41 is flat

    private readonly ImmutableArray<HeldVoice> _voices;
    private readonly int _sampleRate;
    private readonly List<Lanes8> _groups = [];
    private readonly List<(Lanes8 Group, int Lane, int Voice)> _sounding = [];
    private readonly float[][] _pieces;
    private readonly bool[] _heard;
    private (PlayedNote Note, int Voice)[] _notes;
    private long _pieceNumber = long.MinValue;
    private int _next;

    /// <summary>Takes the voices of a source.</summary>
    public HeldNotes(ImmutableArray<HeldVoice> voices, int sampleRate)
    {
        (_voices, _sampleRate) = (voices, sampleRate);
        _pieces = [.. voices.Select(_ => new float[PieceFrames])];
        _heard = new bool[voices.Length];
        _notes = [.. voices.SelectMany((v, i) => v.Notes.Select(n => (n, i))).OrderBy(n => n.n.Start)];
    }

    /// <summary>Works the next samples out.</summary>
    /// <param name="start">The frame of the first; it follows the last of the stretch before.</param>
    /// <param name="into">For each voice where they go: silence until then.</param>
    public void Render(long start, ReadOnlySpan<Memory<float>> into)
    {
        var frames = into[0].Length;
        for (var at = 0; at < frames;)
        {
            var piece = Math.DivRem(start + at, PieceFrames, out var within);
            if (within < 0)
            {
                (piece, within) = (piece - 1, within + PieceFrames);
            }

            var count = (int)Math.Min(PieceFrames - within, frames - at);
            if (piece != _pieceNumber)
            {
                if (_sounding.Count == 0 && (_next == _notes.Length || _notes[_next].Note.Start >= start + frames))
                {
                    return; // nothing begins before the end of this stretch
                }

                _pieceNumber = piece;
                Play(piece * PieceFrames);
            }

            for (var voice = 0; voice < into.Length; voice++)
            {
                if (_heard[voice])
                {
                    _pieces[voice].AsSpan((int)within, count).CopyTo(into[voice].Span[at..]);
                }
            }

            at += count;
        }
    }

    /// <summary>Goes to a frame before the first sample is asked for: what was struck earlier sounds as if it had been heard.</summary>
    public void SkipTo(long frame)
    {
        bool Sounds((PlayedNote Note, int Voice) n)
        {
            var (_, patch, shapeAt) = _voices[n.Voice];
            var ring = 2 * Math.Max(patch.ReleaseSeconds, patch.Sustain == 0 ? patch.DecaySeconds : 0) * _sampleRate * shapeAt(n.Note.Start).DecayScale;
            return n.Note.Start >= frame || n.Note.End + (long)ring >= frame;
        }

        _notes = [.. _notes.Where(Sounds)];
        if (_notes.Length > 0 && _notes[0].Note.Start < frame)
        {
            var unheard = new float[frame - _notes[0].Note.Start];
            Render(_notes[0].Note.Start, [.. _voices.Select(_ => unheard.AsMemory())]);
        }
    }

    /// <summary>Works out the piece that begins at a frame.</summary>
    private void Play(long frame)
    {
        for (; _next < _notes.Length && _notes[_next].Note.Start < frame + PieceFrames; _next++)
        {
            var (note, voice) = _notes[_next];
            var (_, patch, shapeAt) = _voices[voice];
            var group = _groups.Find(g => g.Takes(patch));
            if (group is null)
            {
                _groups.Add(group = new Lanes8(patch, _sampleRate));
            }

            _sounding.Add((group, group.Begin(note, patch, shapeAt(note.Start), (int)(note.Start - frame)), voice));
        }

        foreach (var group in _groups)
        {
            group.Play();
        }

        Array.Clear(_heard);
        for (var i = 0; i < _sounding.Count; i++)
        {
            var (group, lane, voice) = _sounding[i];
            group.AddLane(lane, _pieces[voice], begin: !_heard[voice]);
            _heard[voice] = true;
        }

        _sounding.RemoveAll(s => s.Group.Ends(s.Lane));
    }

    /// <summary>Eight notes side by side.</summary>
    private sealed class Lanes8(TonePatch like, int sampleRate)
    {
        private readonly Note?[] _notes = new Note?[Lanes.Count];
        private readonly Vector256<float>[] _samples = new Vector256<float>[PieceFrames];
        private readonly bool _saw = like.Saw > 0;
        private readonly bool _sine = like.Sine > 0;
        private readonly bool _bell = like.Bell > 0;
        private Vector256<float> _sawGain;
        private Vector256<float> _sineGain;
        private Vector256<float> _bellGain;
        private Vector256<float> _cutoff; // in turns a sample
        private Vector256<float> _octaves;
        private Vector256<uint> _phase;
        private Vector256<uint> _phase1;
        private Vector256<uint> _phase2;
        private Vector256<uint> _bellPhase;
        private Vector256<uint> _step;
        private Vector256<uint> _step1;
        private Vector256<uint> _step2;
        private Vector256<uint> _bellStep;
        private Jump _jump1;
        private Jump _jump2;
        private Vector256<float> _bellDepth;
        private Vector256<float> _bellFade;
        private Vector256<float> _state1;
        private Vector256<float> _state2;
        private int _count;

        /// <summary>True if there is room for a note of this kind: with the same oscillators.</summary>
        public bool Takes(TonePatch patch) => _count < Lanes.Count && _saw == patch.Saw > 0 && _sine == patch.Sine > 0 && _bell == patch.Bell > 0;

        /// <summary>Takes a note into a free lane.</summary>
        /// <param name="played">The note.</param>
        /// <param name="patch">How it sounds.</param>
        /// <param name="shape">How its voice is set.</param>
        /// <param name="at">Its first sample in the piece that comes next.</param>
        /// <returns>The lane.</returns>
        public int Begin(PlayedNote played, TonePatch patch, UnitVoice shape, int at)
        {
            var lane = Array.IndexOf(_notes, null);
            _notes[lane] = new Note(patch, shape, played, sampleRate, at);
            _count++;
            _sawGain = _sawGain.WithElement(lane, (float)patch.Saw * 0.5f);
            _sineGain = _sineGain.WithElement(lane, (float)patch.Sine);
            _bellGain = _bellGain.WithElement(lane, (float)patch.Bell);
            _cutoff = _cutoff.WithElement(lane, (float)(patch.CutoffHz / sampleRate));
            _octaves = _octaves.WithElement(lane, (float)patch.CutoffOctaves);
            var turn = 440 * Maths.Exp2((played.Key - 69 + patch.Semitones + shape.TuneSemitones) / 12.0) / sampleRate;
            var detune = Maths.Exp2(patch.DetuneCents / 2400);
            Turn(ref _phase, ref _step, lane, 0, turn, at);
            Turn(ref _phase1, ref _step1, lane, 0.13, turn * detune, at);
            Turn(ref _phase2, ref _step2, lane, 0.61, turn / detune, at);
            Turn(ref _bellPhase, ref _bellStep, lane, 0, turn * BellRatio, at);
            (_jump1, _jump2) = (_jump1.With(lane, turn * detune), _jump2.With(lane, turn / detune));
            _bellDepth = _bellDepth.WithElement(lane, 0.48f);
            _bellFade = _bellFade.WithElement(lane, (float)Maths.DecayFactor(patch.DecaySeconds * shape.DecayScale * 0.7, sampleRate));
            return lane;
        }

        /// <summary>Works the next piece out.</summary>
        public void Play()
        {
            if (_count == 0)
            {
                return;
            }

            Span<float> level = stackalloc float[Lanes.Count], slope = stackalloc float[Lanes.Count], top = stackalloc float[Lanes.Count], open = stackalloc float[Lanes.Count];
            for (var lane = 0; lane < Lanes.Count; lane++)
            {
                if (_notes[lane] is { } note)
                {
                    open[lane] = (float)note.Envelope;
                    (level[lane], slope[lane]) = note.NextPiece();
                    top[lane] = note.Top;
                }
            }

            Sound(Lanes.Groups(level)[0], Lanes.Groups(slope)[0], Lanes.Groups(top)[0], Lanes.Groups(open)[0]);
        }

        /// <summary>Adds a note's samples to a piece, or begins it with them.</summary>
        public void AddLane(int lane, Span<float> piece, bool begin)
        {
            ReadOnlySpan<float> samples = MemoryMarshal.Cast<Vector256<float>, float>(_samples.AsSpan())[lane..];
            for (var i = 0; i < PieceFrames; i++)
            {
                piece[i] = begin ? samples[i * Lanes.Count] : piece[i] + samples[i * Lanes.Count];
            }
        }

        /// <summary>True, and the lane is free again, if its note has died away.</summary>
        public bool Ends(int lane)
        {
            if (!_notes[lane]!.IsOver)
            {
                return false;
            }

            _notes[lane] = null;
            _sawGain = _sawGain.WithElement(lane, 0);
            _sineGain = _sineGain.WithElement(lane, 0);
            _bellGain = _bellGain.WithElement(lane, 0);
            _state1 = _state1.WithElement(lane, 0);
            _state2 = _state2.WithElement(lane, 0);
            _count--;
            return true;
        }

        private void Sound(Vector256<float> level, Vector256<float> slope, Vector256<float> top, Vector256<float> open)
        {
            // The low-pass is a state-variable filter with trapezoidal integrators (Zavalishin, "The Art of VA Filter
            // Design"), whose output is the mean of its second state before and after a sample.
            var g = Lanes.FilterGain(Lanes.Exp2(open * _octaves) * _cutoff);
            var a1 = Vector256<float>.One / (Vector256<float>.One + g * (g + Vector256.Create(Damping)));
            var keep = a1 + a1 - Vector256<float>.One;
            var pass = (a1 + a1) * g;
            var reach = pass * g;
            (level, slope, top) = (level * 0.5f, slope * 0.5f, top * 0.5f); // halves, for that mean
            var samples = _samples;
            var (phase, phase1, phase2, bellPhase) = (_phase, _phase1, _phase2, _bellPhase);
            var depth = Vector256.ConditionalSelect(Vector256.LessThan(_bellDepth, Vector256.Create(1e-9f)), Vector256<float>.Zero, _bellDepth); // see Still
            var (state1, state2) = (_state1, _state2);
            for (var i = 0; i < samples.Length; i++)
            {
                var value = Vector256<float>.Zero;
                if (_saw)
                {
                    phase1 += _step1;
                    phase2 += _step2;
                    value = (_jump1.Saw(phase1) + _jump2.Saw(phase2)) * _sawGain;
                }

                if (_sine || _bell)
                {
                    phase += _step;
                    if (_sine)
                    {
                        value += Lanes.Sin(phase) * _sineGain;
                    }

                    if (_bell)
                    {
                        bellPhase += _bellStep;
                        value += Lanes.SinTurns(Lanes.OneAndTurns(phase) + depth * Lanes.Sin(bellPhase)) * _bellGain;
                        depth *= _bellFade;
                    }
                }

                level += slope;
                var envelope = Vector256.MinNative(Vector256.MaxNative(level, Vector256<float>.Zero), top);
                var high = value - state2;
                var before = state2;
                state2 += pass * state1 + reach * high;
                state1 = keep * state1 + pass * high;
                samples[i] = (before + state2) * envelope;
            }

            (_phase, _phase1, _phase2, _bellPhase) = (phase, phase1, phase2, bellPhase);
            (_state1, _state2, _bellDepth) = (state1, state2, depth);
        }

        /// <summary>Sets an oscillator so that it begins its way at a sample of the piece to come.</summary>
        private static void Turn(ref Vector256<uint> phases, ref Vector256<uint> steps, int lane, double phase, double turn, int at)
        {
            var step = (uint)(ulong)(turn * 4294967296.0);
            steps = steps.WithElement(lane, step);
            phases = phases.WithElement(lane, (uint)(ulong)(phase * 4294967296.0) - step * (uint)at);
        }
    }

    /// <summary>
    /// The jump of a saw, rounded over two samples (polynomial band-limited step, Välimäki and Huovilainen 2007), for a
    /// phase that is read as a number from 1 to 2.
    /// </summary>
    private struct Jump
    {
        private Vector256<float> _stretch; // samples a turn
        private Vector256<float> _after;
        private Vector256<float> _before;

        /// <summary>The same with one lane set.</summary>
        public readonly Jump With(int lane, double turn) => new()
        {
            _stretch = _stretch.WithElement(lane, (float)(1 / turn)),
            _after = _after.WithElement(lane, (float)(1 + 1 / turn)),
            _before = _before.WithElement(lane, (float)(1 - 2 / turn)),
        };

        /// <summary>The saw at a phase.</summary>
        [MethodImpl(MethodImplOptions.AggressiveInlining)]
        public readonly Vector256<float> Saw(Vector256<uint> phase)
        {
            var x = Lanes.OneAndTurns(phase);
            var samples = x * _stretch;
            var after = Vector256.MaxNative(_after - samples, Vector256<float>.Zero); // falls from 1 to 0 in the sample after the jump
            var before = Vector256.MaxNative(_before + samples, Vector256<float>.Zero); // rises from 0 to 1 in the one before it
            return x + x - Vector256.Create(3f) + after * after - before * before;
        }
    }

    /// <summary>The envelope of one note: a line up, then an exponential to the sustain level, then one to nothing.</summary>
    private sealed class Note
    {
        /// <summary>An envelope that moves by less in a piece stands still: numbers near the smallest that there are cost a hundred times as much.</summary>
        private const double Still = 1e-12;

        private readonly TonePatch _patch;
        private readonly double _gain;
        private readonly double _attack;
        private readonly double _keep; // octaves by which a level falls in a sample
        private readonly double _release;
        private readonly double _keepPiece; // what is left of it after a piece
        private readonly double _releasePiece;
        private readonly long _length;
        private bool _attacking = true;
        private long _at;

        public Note(TonePatch patch, UnitVoice shape, PlayedNote note, int sampleRate, int at)
        {
            _patch = patch;
            _gain = note.Gain * patch.Level * new Sound.Decibels(shape.LevelDb).Ratio;
            _attack = 1 / Math.Max(1, patch.AttackSeconds * sampleRate);
            _keep = Maths.Log2(Maths.DecayFactor(patch.DecaySeconds * shape.DecayScale, sampleRate));
            _release = Maths.Log2(Maths.DecayFactor(patch.ReleaseSeconds * shape.DecayScale, sampleRate));
            (_keepPiece, _releasePiece) = (Maths.Exp2(_keep * PieceFrames), Maths.Exp2(_release * PieceFrames));
            _length = note.End - note.Start;
            _at = -at;
        }

        /// <summary>0 to 1.</summary>
        public double Envelope { get; private set; }

        /// <summary>No sample lies above this.</summary>
        public float Top => (float)_gain;

        /// <summary>True once nothing is left to hear.</summary>
        public bool IsOver => !_attacking && Envelope * _gain <= Quiet && (_at >= _length || _patch.Sustain == 0);

        /// <summary>The level before the next piece and what each of its samples adds to it.</summary>
        public (float Level, float Slope) NextPiece()
        {
            var before = Envelope;
            var held = (int)Math.Clamp(_length - _at, 0, PieceFrames);
            double level = before, slope;
            if (_attacking && held > 0)
            {
                // In the first piece the line begins behind the start of the piece, and what lies below 0 is cut off.
                level = before == 0 ? _attack * Math.Min(_at, 0) : before;
                Envelope = Math.Min(1, level + _attack * held);
                slope = _attack;
            }
            else
            {
                Envelope = _patch.Sustain + (before - _patch.Sustain) * (held == PieceFrames ? _keepPiece : Maths.Exp2(_keep * held));
                slope = 0;
            }

            _attacking &= Envelope < 1 && held == PieceFrames;
            if (held < PieceFrames)
            {
                Envelope *= held == 0 ? _releasePiece : Maths.Exp2(_release * (PieceFrames - held));
                slope = 0;
            }

            if (slope == 0 && Math.Abs(Envelope - level) > Still)
            {
                slope = (Envelope - level) / PieceFrames;
            }

            _at += PieceFrames;
            return ((float)(level * _gain), (float)(slope * _gain));
        }
    }
}
