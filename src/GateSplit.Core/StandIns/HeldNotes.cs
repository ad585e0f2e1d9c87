using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using System.Runtime.Intrinsics;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>
/// The notes of a voice that holds them: two detuned saws, a sine or a bell, an exponential envelope, and a low-pass that
/// follows it. Eight notes are worked out side by side, one in each lane, in pieces that lie on a grid of frames: so a
/// note sounds the same whatever sounds beside it and in whatever blocks it is asked for.
/// </summary>
internal sealed class HeldNotes : INotePlayer
{
    /// <summary>Frames of a piece. The envelope runs straight and the low-pass stands still within one: 0.7 ms at 48 kHz.</summary>
    private const int PieceFrames = 32;

    /// <summary>A note below this level, -94 dBFS, has died away.</summary>
    private const double Quiet = 2e-5;

    private const double BellRatio = 3.5;
    private const float Damping = 0.8f; // of the low-pass; 1.41 is flat

    private readonly ImmutableArray<PlayedNote> _notes;
    private readonly TonePatch _patch;
    private readonly Func<long, UnitVoice> _shapeAt;
    private readonly int _sampleRate;
    private readonly List<Lanes8> _groups = [];
    private readonly Vector256<float>[] _sums = new Vector256<float>[PieceFrames];
    private readonly float[] _piece = new float[PieceFrames];
    private long _pieceNumber = long.MinValue;
    private int _next;

    public HeldNotes(ImmutableArray<PlayedNote> notes, TonePatch patch, Func<long, UnitVoice> shapeAt, int sampleRate) =>
        (_notes, _patch, _shapeAt, _sampleRate) = (notes, patch, shapeAt, sampleRate);

    /// <inheritdoc/>
    public void Render(long start, Span<float> samples)
    {
        while (!samples.IsEmpty)
        {
            var piece = Math.DivRem(start, PieceFrames, out var within);
            if (within < 0)
            {
                (piece, within) = (piece - 1, within + PieceFrames);
            }

            var count = (int)Math.Min(PieceFrames - within, samples.Length);
            if (piece != _pieceNumber)
            {
                if (_groups.TrueForAll(g => g.IsIdle) && (_next == _notes.Length || _notes[_next].Start >= start + samples.Length))
                {
                    return; // nothing begins before the end of this stretch
                }

                _pieceNumber = piece;
                Play(piece * PieceFrames);
            }

            _piece.AsSpan((int)within, count).CopyTo(samples);
            start += count;
            samples = samples[count..];
        }
    }

    /// <inheritdoc/>
    public void SkipTo(long frame)
    {
        var ring = (long)(2 * Math.Max(_patch.ReleaseSeconds, _patch.Sustain == 0 ? _patch.DecaySeconds : 0) * _sampleRate);
        long Gone(PlayedNote note) => note.End + (long)(ring * _shapeAt(note.Start).DecayScale);
        while (_next < _notes.Length && _notes[_next].Start < frame && Gone(_notes[_next]) < frame)
        {
            _next++;
        }

        if (_next < _notes.Length && _notes[_next].Start < frame)
        {
            Render(_notes[_next].Start, new float[frame - _notes[_next].Start]);
        }
    }

    /// <summary>Works out the piece that begins at a frame.</summary>
    private void Play(long frame)
    {
        for (; _next < _notes.Length && _notes[_next].Start < frame + PieceFrames; _next++)
        {
            var note = _notes[_next];
            var group = _groups.Find(g => g.HasRoom);
            if (group is null)
            {
                _groups.Add(group = new Lanes8(_patch, _sampleRate));
            }

            group.Begin(note, _shapeAt(note.Start), (int)(note.Start - frame));
        }

        Array.Clear(_sums);
        var sounds = false;
        foreach (var group in _groups)
        {
            if (!group.IsIdle)
            {
                group.AddTo(_sums);
                sounds = true;
            }
        }

        if (!sounds)
        {
            Array.Clear(_piece);
            return;
        }

        for (var i = 0; i < PieceFrames; i++)
        {
            _piece[i] = Lanes.Sum(_sums[i]);
        }
    }

    /// <summary>Eight notes side by side.</summary>
    private sealed class Lanes8(TonePatch patch, int sampleRate)
    {
        private readonly Note?[] _notes = new Note?[Lanes.Count];
        private Vector256<uint> _phase;
        private Vector256<uint> _phase1;
        private Vector256<uint> _phase2;
        private Vector256<uint> _bellPhase;
        private Vector256<uint> _step;
        private Vector256<uint> _step1;
        private Vector256<uint> _step2;
        private Vector256<uint> _bellStep;
        private Vector256<float> _stretch1;
        private Vector256<float> _stretch2;
        private Vector256<float> _bellDepth;
        private Vector256<float> _bellFade;
        private Vector256<float> _alive; // 1 in lanes that have a note, 0 in those that rest
        private Vector256<float> _state1;
        private Vector256<float> _state2;
        private int _count;

        public bool HasRoom => _count < Lanes.Count;

        public bool IsIdle => _count == 0;

        /// <summary>Takes a note into a free lane.</summary>
        /// <param name="played">The note.</param>
        /// <param name="shape">How its voice is set.</param>
        /// <param name="at">Its first sample in the piece that comes next.</param>
        public void Begin(PlayedNote played, UnitVoice shape, int at)
        {
            var lane = Array.IndexOf(_notes, null);
            var note = new Note(patch, shape, played, sampleRate, at);
            _notes[lane] = note;
            _count++;
            var turn = 440 * Maths.Exp2((played.Key - 69 + patch.Semitones + shape.TuneSemitones) / 12.0) / sampleRate;
            var detune = Maths.Exp2(patch.DetuneCents / 2400);
            Turn(ref _phase, ref _step, lane, 0, turn, at);
            Turn(ref _phase1, ref _step1, lane, 0.13, turn * detune, at);
            Turn(ref _phase2, ref _step2, lane, 0.61, turn / detune, at);
            Turn(ref _bellPhase, ref _bellStep, lane, 0, turn * BellRatio, at);
            _stretch1 = _stretch1.WithElement(lane, (float)(1 / (turn * detune)));
            _stretch2 = _stretch2.WithElement(lane, (float)(detune / turn));
            _bellDepth = _bellDepth.WithElement(lane, 0.48f);
            _bellFade = _bellFade.WithElement(lane, (float)Maths.DecayFactor(patch.DecaySeconds * shape.DecayScale * 0.7, sampleRate));
            _alive = _alive.WithElement(lane, 1);
        }

        /// <summary>Adds a piece, each lane into its own lane of the sums.</summary>
        public void AddTo(Span<Vector256<float>> sums)
        {
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

            Sound(sums, Lanes.Groups(level)[0], Lanes.Groups(slope)[0], Lanes.Groups(top)[0], Lanes.Groups(open)[0]);
            for (var lane = 0; lane < Lanes.Count; lane++)
            {
                if (_notes[lane] is { IsOver: true })
                {
                    _notes[lane] = null;
                    _alive = _alive.WithElement(lane, 0);
                    _state1 = _state1.WithElement(lane, 0);
                    _state2 = _state2.WithElement(lane, 0);
                    _count--;
                }
            }
        }

        private void Sound(Span<Vector256<float>> sums, Vector256<float> level, Vector256<float> slope, Vector256<float> top, Vector256<float> open)
        {
            // The low-pass is a state-variable filter with trapezoidal integrators (Zavalishin, "The Art of VA Filter Design").
            var g = Lanes.FilterGain(Lanes.Exp2(open * (float)patch.CutoffOctaves) * (float)(patch.CutoffHz / sampleRate));
            var a1 = Vector256<float>.One / (Vector256<float>.One + g * (g + Vector256.Create(Damping)));
            var a2 = g * a1;
            var a3 = g * a2;
            float saw = (float)patch.Saw * 0.5f, sine = (float)patch.Sine, bell = (float)patch.Bell;
            var (phase, phase1, phase2, bellPhase) = (_phase, _phase1, _phase2, _bellPhase);
            var depth = Vector256.ConditionalSelect(Vector256.LessThan(_bellDepth, Vector256.Create(1e-9f)), Vector256<float>.Zero, _bellDepth); // see Still
            var (state1, state2) = (_state1, _state2);
            for (var i = 0; i < sums.Length; i++)
            {
                var value = Vector256<float>.Zero;
                if (saw > 0)
                {
                    phase1 += _step1;
                    phase2 += _step2;
                    value = (Saw(phase1, _stretch1) + Saw(phase2, _stretch2)) * saw;
                }

                if (sine > 0 || bell > 0)
                {
                    phase += _step;
                    var turns = Lanes.Turns(phase);
                    if (sine > 0)
                    {
                        value += Lanes.SinTurns(turns) * sine;
                    }

                    if (bell > 0)
                    {
                        bellPhase += _bellStep;
                        value += Lanes.SinTurns(turns + depth * Lanes.SinTurns(Lanes.Turns(bellPhase))) * bell;
                        depth *= _bellFade;
                    }
                }

                level += slope;
                var envelope = Vector256.MinNative(Vector256.MaxNative(level, Vector256<float>.Zero), top);
                var high = value * _alive - state2;
                var band = a1 * state1 + a2 * high;
                var low = state2 + a2 * state1 + a3 * high;
                state1 = band + band - state1;
                state2 = low + low - state2;
                sums[i] += low * envelope;
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

        /// <summary>A saw whose jump is rounded over two samples (polynomial band-limited step, Välimäki and Huovilainen 2007).</summary>
        [MethodImpl(MethodImplOptions.AggressiveInlining)]
        private static Vector256<float> Saw(Vector256<uint> phase, Vector256<float> stretch)
        {
            var one = Vector256<float>.One;
            var zero = Vector256<float>.Zero;
            var turns = Lanes.Turns(phase);
            var after = Vector256.MaxNative(one - turns * stretch, zero); // falls from 1 to 0 in the sample after the jump
            var before = Vector256.MaxNative(one + (turns - one) * stretch, zero); // rises from 0 to 1 in the one before it
            return turns + turns - one + after * after - before * before;
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
