using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>
/// The notes of all voices that hold them: two detuned saws, a sine or a bell, an exponential envelope, and a low-pass that
/// follows it. Notes are worked out side by side, one in each lane, whatever voices they are of, in pieces that lie on a
/// grid of frames: so a note sounds the same whatever sounds beside it and in whatever blocks it is asked for. The notes
/// of a voice are added in the order in which they begin.
/// </summary>
/// <typeparam name="V">As many lanes as the machine has.</typeparam>
internal sealed class HeldNotes<V> : IHeldNotes
    where V : struct, ILanes<V>
{
    /// <summary>Frames of a piece. Envelope and low-pass run straight within one: 0.7 ms at 48 kHz.</summary>
    private const int PieceFrames = 32;

    /// <summary>A note below this level, -94 dBFS, has died away.</summary>
    private const double Quiet = 2e-5;

    private const double BellRatio = 3.5;
    private const double BellTurns = 0.48; // by which the lower sine moves the phase of the upper one
    private const double NearNyquist = 0.48; // of the sample rate: what folds over to here, the low-pass takes
    private const int MostFolded = 24; // what is farther away from the pitch has no size
    private const double Folded = 0.0003; // of full scale: -70 dB
    private const double High = 0.014; // in turns a sample, 670 Hz at 48 kHz: from here on, what of a saw's jump folds over would be heard
    private const int MostPartials = (int)(0.5 / High);
    private static readonly float QuarterTurn = BitConverter.Int32BitsToSingle(1 << 30); // as the step of a phase
    private const float Half = 1 / 2147483648f; // of a turn, as the step of a phase
    private const float Damping = 0.8f; // of the low-pass; 1.41 is flat

    private readonly ImmutableArray<HeldVoice> _voices;
    private readonly SampleRate _sampleRate;
    private readonly List<Group> _groups = [];
    private readonly List<(Group Group, int Lane, int Voice)> _sounding = [];
    private readonly V[][] _pieces;
    private readonly bool[] _heard;
    private (PlayedNote Note, int Voice)[] _notes;
    private long _pieceNumber = long.MinValue;
    private int _next;

    /// <summary>Takes the voices.</summary>
    public HeldNotes(ImmutableArray<HeldVoice> voices, SampleRate sampleRate)
    {
        (_voices, _sampleRate) = (voices, sampleRate);
        _pieces = [.. voices.Select(_ => new V[PieceFrames / V.Count])];
        _heard = new bool[voices.Length];
        _notes = [.. voices.SelectMany((v, i) => v.Notes.Select(n => (n, i))).OrderBy(n => n.n.Start)];
    }

    /// <inheritdoc/>
    public void Render(Frames start, ReadOnlySpan<Memory<float>> into)
    {
        var frames = into[0].Length;
        for (var at = 0; at < frames;)
        {
            var (piece, within) = (start + at).In(PieceFrames);
            var count = Math.Min(PieceFrames - within, frames - at);
            if (piece != _pieceNumber)
            {
                if (_sounding.Count == 0 && (_next == _notes.Length || _notes[_next].Note.Start >= start + frames))
                {
                    foreach (var voice in into)
                    {
                        voice.Span[at..].Clear(); // nothing begins before the end of this stretch
                    }

                    return;
                }

                _pieceNumber = piece;
                Play(start + at - within);
            }

            for (var voice = 0; voice < into.Length; voice++)
            {
                var target = into[voice].Span.Slice(at, count);
                if (_heard[voice])
                {
                    MemoryMarshal.Cast<V, float>(_pieces[voice].AsSpan()).Slice(within, count).CopyTo(target);
                }
                else
                {
                    target.Clear();
                }
            }

            at += count;
        }
    }

    /// <inheritdoc/>
    public void SkipTo(Frames frame)
    {
        bool Sounds((PlayedNote Note, int Voice) n)
        {
            var (_, patch, shapeAt) = _voices[n.Voice];
            var ring = 2 * Math.Max(patch.ReleaseSeconds, patch.Sustain == 0 ? patch.DecaySeconds : 0) * _sampleRate * shapeAt(n.Note.Start).DecayScale;
            return n.Note.Start >= frame || n.Note.End + new Frames((long)ring) >= frame;
        }

        _notes = [.. _notes.Where(Sounds)];
        if (_notes.Length > 0 && _notes[0].Note.Start < frame)
        {
            var unheard = new float[(frame - _notes[0].Note.Start).Count];
            Render(_notes[0].Note.Start, [.. _voices.Select(_ => unheard.AsMemory())]);
        }
    }

    /// <summary>
    /// How far the phase of a bell is moved, so that what folds over stays unheard: the partial that is k times the lower pitch away from the
    /// upper one has the size J_k(x), which is below (x/2)^k / k! (J. Chowning, "The synthesis of complex audio spectra by means of frequency modulation").
    /// </summary>
    /// <param name="turn">The pitch, in turns a sample.</param>
    private static double BellDepth(double turn)
    {
        var (factorial, least) = (1.0, BellTurns);
        for (var k = 1; k <= MostFolded; k++)
        {
            factorial *= k;
            var folded = turn * (1 + BellRatio * k) % 1;
            if (turn * (1 + BellRatio * k) > 0.5 && Math.Min(folded, 1 - folded) < NearNyquist)
            {
                least = Math.Min(least, Maths.Exp2(Maths.Log2(Folded * factorial) / k) / Math.PI);
            }
        }

        return least;
    }

    /// <summary>Works out the piece that begins at a frame.</summary>
    private void Play(Frames frame)
    {
        for (; _next < _notes.Length && _notes[_next].Note.Start < frame + PieceFrames; _next++)
        {
            var (note, voice) = _notes[_next];
            var (_, patch, shapeAt) = _voices[voice];
            var shape = shapeAt(note.Start);
            var turn = 440 * Maths.Exp2((note.Key - 69 + patch.Semitones + shape.TuneSemitones) / 12.0) / _sampleRate;
            var (bell, high) = (patch.Bell > 0, turn >= High);
            var group = _groups.Find(g => g.Takes(bell, high));
            if (group is null)
            {
                _groups.Add(group = new Group(bell, high, _sampleRate));
            }

            _sounding.Add((group, group.Begin(note, patch, shape, turn, (int)(note.Start - frame).Count), voice));
        }

        var ended = false;
        foreach (var group in _groups)
        {
            ended |= group.Play(frame);
        }

        Array.Clear(_heard);
        foreach (var (group, lane, voice) in CollectionsMarshal.AsSpan(_sounding))
        {
            group.AddLane(lane, _pieces[voice], ref _heard[voice]);
        }

        if (ended)
        {
            _sounding.RemoveAll(s => s.Group.Ends(s.Lane, frame + PieceFrames));
        }
    }

    /// <summary>Notes side by side.</summary>
    /// <param name="bell">True for bells, which take longest.</param>
    /// <param name="high">True for notes so high that saws are added up from their partials.</param>
    /// <param name="sampleRate">Frames a second.</param>
    private sealed class Group(bool bell, bool high, SampleRate sampleRate)
    {
        private readonly Note?[] _notes = new Note?[V.Count];
        private readonly V[] _samples = new V[PieceFrames];
        private readonly V[] _lanes = new V[PieceFrames]; // the same, lane after lane
        private V _gain;
        private V _envelope; // of 1, before the next piece
        private V _factor; // the envelope of the piece after it is this much of it
        private V _add; // and this besides
        private V _quiet; // once it lies below this, a note has ended
        private readonly Frames[] _turns = new Frames[V.Count]; // the frame from which on this is not so
        private Frames _nextTurn; // the first of these
        private readonly V[] _partials = new V[high ? MostPartials : 0]; // the size of each partial of a saw; 0 for those above half the sample rate
        private int _most; // how many of these any lane has
        private V _sawGain;
        private V _sineGain;
        private V _bellGain;
        private V _cutoff; // in turns a sample
        private V _octaves;
        private V _phase;
        private V _phase1;
        private V _phase2;
        private V _bentPhase; // of a bell, bent by the one below
        private V _bellPhase;
        private V _step;
        private V _step1;
        private V _step2;
        private V _bellStep;
        private Jump _jump1;
        private Jump _jump2;
        private V _bellDepth;
        private V _bellFade;
        private V _state1;
        private V _state2;
        private int _count;

        /// <summary>True if there is space for a note of this kind.</summary>
        public bool Takes(bool ofBell, bool ofHigh) => _count < V.Count && bell == ofBell && high == ofHigh;

        /// <summary>Takes a note into a free lane.</summary>
        /// <param name="played">The note.</param>
        /// <param name="patch">How it sounds.</param>
        /// <param name="shape">How its voice is set.</param>
        /// <param name="turn">Its pitch, in turns a sample.</param>
        /// <param name="at">Its first sample in the piece that comes next.</param>
        /// <returns>The lane.</returns>
        public int Begin(PlayedNote played, TonePatch patch, UnitVoice shape, double turn, int at)
        {
            var lane = Array.IndexOf(_notes, null);
            _notes[lane] = new Note(patch, shape, played, sampleRate);
            _count++;
            _turns[lane] = _nextTurn = new Frames(long.MinValue);
            _gain = _gain.With(lane, _notes[lane]!.Gain);
            _sawGain = _sawGain.With(lane, (float)patch.Saw * 0.5f * Half);
            _sineGain = _sineGain.With(lane, (float)patch.Sine);
            _bellGain = _bellGain.With(lane, (float)patch.Bell);
            _cutoff = _cutoff.With(lane, (float)(patch.CutoffHz / sampleRate));
            _octaves = _octaves.With(lane, (float)patch.CutoffOctaves);
            var detune = Maths.Exp2(patch.DetuneCents / 2400);
            Turn(ref _phase, ref _step, lane, 0, turn, at);
            Turn(ref _phase1, ref _step1, lane, 0.63, turn * detune, at);
            Turn(ref _phase2, ref _step2, lane, 0.11, turn / detune, at);
            Turn(ref _bentPhase, ref _step, lane, 0, turn, at);
            Turn(ref _bellPhase, ref _bellStep, lane, 0, turn * BellRatio, at);
            (_jump1, _jump2) = (_jump1.With(lane, turn * detune), _jump2.With(lane, turn / detune));
            _most = Math.Max(_most, Math.Min((int)(0.5 / turn), _partials.Length)); // a lane with fewer begins with zeros, which add nothing
            for (var n = 1; n <= _partials.Length; n++)
            {
                // A saw that jumps at half a turn is the sum of sin(2 pi n x) 2 / (pi n), every second one upside down (Fourier).
                _partials[n - 1] = _partials[n - 1].With(lane, n * turn * detune < 0.5 ? (float)((n % 2 == 1 ? 2 : -2) / (Math.PI * n * Half)) : 0);
            }

            _bellDepth = _bellDepth.With(lane, (float)BellDepth(turn));
            _bellFade = _bellFade.With(lane, (float)Maths.DecayFactor(patch.DecaySeconds * shape.DecayScale * 0.7, sampleRate));
            return lane;
        }

        /// <summary>Works the piece out that begins at a frame.</summary>
        /// <returns>True if notes end with it.</returns>
        public bool Play(Frames frame)
        {
            if (_count == 0)
            {
                return false;
            }

            var open = _envelope;
            _envelope = V.MultiplyAdd(open, _factor, _add);
            var level = open * _gain;
            var slope = (_envelope - open) * _gain * V.Of(1f / PieceFrames);
            if (frame >= _nextTurn)
            {
                _nextTurn = Frames.Never;
                for (var lane = 0; lane < V.Count; lane++)
                {
                    if (_notes[lane] is { } note)
                    {
                        if (frame >= _turns[lane])
                        {
                            var line = note.Line(frame, open.At(lane));
                            (level, slope) = (level.With(lane, (float)line.Level), slope.With(lane, (float)line.Slope));
                            Expect(lane, note, frame + PieceFrames, line.Envelope);
                        }

                        _nextTurn = Frames.Min(_nextTurn, _turns[lane]);
                    }
                }
            }

            Sound(level, slope, open);
            return V.AnyBelow(_envelope, _quiet);
        }

        /// <summary>Adds a note's samples to a piece, or begins it with them.</summary>
        public void AddLane(int lane, V[] piece, ref bool begun)
        {
            var samples = _lanes.AsSpan(lane * piece.Length, piece.Length);
            for (var i = 0; i < piece.Length; i++)
            {
                piece[i] = begun ? piece[i] + samples[i] : samples[i];
            }

            begun = true;
        }

        /// <summary>True, and the lane is free again, if its note has died away before a frame.</summary>
        public bool Ends(int lane, Frames frame)
        {
            if (_envelope.At(lane) >= _quiet.At(lane))
            {
                return false;
            }

            _notes[lane] = null;
            _gain = _gain.With(lane, 0);
            _envelope = _envelope.With(lane, 0);
            _factor = _factor.With(lane, 0);
            _add = _add.With(lane, 0);
            _quiet = _quiet.With(lane, 0);
            _sawGain = _sawGain.With(lane, 0);
            _sineGain = _sineGain.With(lane, 0);
            _bellGain = _bellGain.With(lane, 0);
            _state1 = _state1.With(lane, 0);
            _state2 = _state2.With(lane, 0);
            _count--;
            return true;
        }

        /// <summary>Sets how the envelope of a lane goes on from a frame.</summary>
        private void Expect(int lane, Note note, Frames frame, double envelope)
        {
            (var factor, var add, var quiet, _turns[lane]) = note.GoesOn(frame, envelope);
            _envelope = _envelope.With(lane, (float)envelope);
            _factor = _factor.With(lane, (float)factor);
            _add = _add.With(lane, (float)add);
            _quiet = _quiet.With(lane, (float)quiet);
        }

        private void Sound(V level, V slope, V open)
        {
            // The low-pass is a state-variable filter with trapezoidal integrators (Zavalishin, "The Art of VA Filter
            // Design"), whose output is the mean of its second state before and after a sample.
            var from = Coefficients(open);
            var to = Coefficients(_envelope);
            if (bell)
            {
                Bells();
            }

            if (high)
            {
                HighSaws();
            }

            SawsAndSines();
            var half = V.Of(0.5f); // for that mean
            Filter(from, to, level * half, slope * half, _gain * half);
            V.Transpose(_samples, _lanes);
        }

        private void Bells()
        {
            var (phase, bellPhase, step, bellStep, fade, gain) = (_bentPhase, _bellPhase, _step, _bellStep, _bellFade, _bellGain);
            var depth = V.AtLeast(_bellDepth, V.Of(1e-9f)); // numbers far smaller are slow
            foreach (ref var sample in _samples.AsSpan())
            {
                phase = V.Turned(phase, step);
                bellPhase = V.Turned(bellPhase, bellStep);
                sample = Lanes.SinTurns(V.MultiplyAdd(depth, Lanes.Sin(bellPhase), Lanes.Turns(phase))) * gain;
                depth *= fade;
            }

            (_bentPhase, _bellPhase, _bellDepth) = (phase, bellPhase, depth);
        }

        /// <summary>Sines, and saws that are not high, added to what is there.</summary>
        private void SawsAndSines()
        {
            var (phase1, phase2, step1, step2, jump1, jump2, sawGain) = (_phase1, _phase2, _step1, _step2, _jump1, _jump2, _sawGain);
            var (phase, step, sineGain) = (_phase, _step, _sineGain);
            bool begun = bell || high, saws = !high && V.AnyBelow(default, sawGain), sines = V.AnyBelow(default, sineGain);
            foreach (ref var sample in _samples.AsSpan())
            {
                var x = begun ? sample : default;
                if (saws)
                {
                    phase1 = V.Turned(phase1, step1);
                    phase2 = V.Turned(phase2, step2);
                    var (x1, square1) = jump1.Saw(phase1);
                    var (x2, square2) = jump2.Saw(phase2);
                    x = V.MultiplyAdd(x1 + x2 - V.MultiplyAdd(square1, x1, square2 * x2), sawGain, x);
                }

                if (sines)
                {
                    phase = V.Turned(phase, step);
                    x = V.MultiplyAdd(Lanes.Sin(phase), sineGain, x);
                }

                sample = x;
            }

            (_phase1, _phase2, _phase) = (phase1, phase2, phase);
        }

        /// <summary>
        /// Saws as the sums of their partials (C. Clenshaw, "A note on the summation of Chebyshev series"), added to bells. Two samples of two
        /// saws go side by side, since each sum waits for itself.
        /// </summary>
        private void HighSaws()
        {
            if (!V.AnyBelow(default, _sawGain))
            {
                _samples.AsSpan(0, bell ? 0 : PieceFrames).Clear();
                return;
            }

            var (phase1, phase2, step1, step2, gain) = (_phase1, _phase2, _step1, _step2, _sawGain);
            var partials = _partials.AsSpan(0, _most);
            for (var at = 0; at < PieceFrames; at += 2)
            {
                var (early1, early2) = (V.Turned(phase1, step1), V.Turned(phase2, step2));
                (phase1, phase2) = (V.Turned(early1, step1), V.Turned(early2, step2));
                V a1 = TwiceCosine(early1), a2 = TwiceCosine(early2), b1 = TwiceCosine(phase1), b2 = TwiceCosine(phase2);
                V a1Sum = default, a1Last = default, a2Sum = default, a2Last = default, b1Sum = default, b1Last = default, b2Sum = default, b2Last = default;
                for (var n = partials.Length - 1; n >= 0; n--)
                {
                    var size = partials[n];
                    (a1Sum, a1Last) = (V.MultiplyAdd(a1, a1Sum, size - a1Last), a1Sum);
                    (a2Sum, a2Last) = (V.MultiplyAdd(a2, a2Sum, size - a2Last), a2Sum);
                    (b1Sum, b1Last) = (V.MultiplyAdd(b1, b1Sum, size - b1Last), b1Sum);
                    (b2Sum, b2Last) = (V.MultiplyAdd(b2, b2Sum, size - b2Last), b2Sum);
                }

                var early = V.MultiplyAdd(a1Sum, Lanes.Sin(early1), a2Sum * Lanes.Sin(early2));
                var late = V.MultiplyAdd(b1Sum, Lanes.Sin(phase1), b2Sum * Lanes.Sin(phase2));
                _samples[at] = V.MultiplyAdd(early, gain, bell ? _samples[at] : default);
                _samples[at + 1] = V.MultiplyAdd(late, gain, bell ? _samples[at + 1] : default);
            }

            (_phase1, _phase2) = (phase1, phase2);
        }

        private static V TwiceCosine(V phase)
        {
            var cosine = Lanes.Sin(V.Turned(phase, V.Of(QuarterTurn)));
            return cosine + cosine;
        }

        /// <summary>Puts all of it through low-pass and envelope.</summary>
        /// <remarks>A loop of its own: the low-pass waits for itself, and would hold up the oscillators.</remarks>
        private void Filter((V Keep, V Pass, V Reach) from, (V Keep, V Pass, V Reach) to, V level, V slope, V top)
        {
            var (state1, state2) = (_state1, _state2);
            var (keep, pass, reach) = from;
            var step = V.Of(1f / PieceFrames);
            var (keepStep, passStep, reachStep) = ((to.Keep - keep) * step, (to.Pass - pass) * step, (to.Reach - reach) * step);
            foreach (ref var sample in _samples.AsSpan())
            {
                var x = sample;
                level += slope;
                var before = state2;
                state2 = V.MultiplyAdd(pass, state1, V.MultiplyAdd(reach, x - state2, state2));
                state1 = V.MultiplyAdd(keep, state1, pass * (x - before));
                sample = (before + state2) * V.Min(V.Max(level, default), top);
                keep += keepStep;
                pass += passStep;
                reach += reachStep;
            }

            (_state1, _state2) = (state1, state2);
        }

        /// <summary>What the low-pass is made of at an opening of the envelope.</summary>
        private (V Keep, V Pass, V Reach) Coefficients(V open)
        {
            var g = Lanes.FilterGain(Lanes.Exp2(open * _octaves) * _cutoff);
            var a1 = V.Of(1) / (V.Of(1) + g * (g + V.Of(Damping)));
            var pass = (a1 + a1) * g;
            return (a1 + a1 - V.Of(1), pass, pass * g);
        }

        /// <summary>Sets an oscillator so that it begins its way at a sample of the piece to come.</summary>
        private static void Turn(ref V phases, ref V steps, int lane, double phase, double turn, int at)
        {
            var step = (uint)(ulong)(turn * 4294967296.0);
            steps = steps.With(lane, BitConverter.UInt32BitsToSingle(step));
            phases = phases.With(lane, BitConverter.UInt32BitsToSingle((uint)(ulong)(phase * 4294967296.0) - step * (uint)at));
        }
    }

    /// <summary>
    /// A saw from -2^31 to 2^31 whose jump is rounded over two samples: x (1 - w^2), where w rises from 0 to 1 in the sample
    /// before the jump and falls again in the one after it (polynomial band-limited step, Välimäki and Huovilainen 2007;
    /// there the square has the sign of x, which is as good as x itself where w is not 0).
    /// </summary>
    private struct Jump
    {
        private V _stretch; // samples in 2^31
        private V _offset;

        /// <summary>The same with one lane set.</summary>
        public readonly Jump With(int lane, double turn) => new()
        {
            _stretch = _stretch.With(lane, (float)(Half / turn / 2)),
            _offset = _offset.With(lane, (float)(1 - 1 / (2 * turn))),
        };

        /// <summary>The saw at a phase, 0 at 0 and its jump at half a turn, and the share of it that its rounding takes off.</summary>
        [MethodImpl(MethodImplOptions.AggressiveInlining)]
        public readonly (V X, V Square) Saw(V phase)
        {
            var x = V.Signed(phase);
            var w = V.Max(V.MultiplyAdd(V.Abs(x), _stretch, _offset), default);
            return (x, w * w);
        }
    }

    /// <summary>The envelope of one note: a line up, then an exponential to the sustain level, then one to nothing.</summary>
    private sealed class Note(TonePatch patch, UnitVoice shape, PlayedNote note, SampleRate sampleRate)
    {
        private readonly double _attack = 1 / Math.Max(1, patch.AttackSeconds * sampleRate);
        private readonly double _keep = Maths.Log2(Maths.DecayFactor(patch.DecaySeconds * shape.DecayScale, sampleRate)); // octaves by which it falls in a sample
        private readonly double _release = Maths.Log2(Maths.DecayFactor(patch.ReleaseSeconds * shape.DecayScale, sampleRate));
        private bool _attacking = true;

        /// <summary>The level of an envelope of 1.</summary>
        public float Gain { get; } = (float)(note.Gain * patch.Level * shape.LevelDb.Ratio);

        /// <summary>The line from a frame to the end of the piece that begins there.</summary>
        /// <param name="frame">The frame.</param>
        /// <param name="before">The envelope before it.</param>
        /// <returns>The level before the piece, what each of its samples adds to it, and the envelope behind it.</returns>
        public (double Level, double Slope, double Envelope) Line(Frames frame, double before)
        {
            var at = (frame - note.Start).Count;
            var held = (int)Math.Clamp((note.End - frame).Count, 0, PieceFrames);
            double level = before, slope = 0, after;
            if (_attacking && held > 0)
            {
                // In the first piece the line begins behind the start of the piece, and what lies below 0 is cut off.
                level = at < 0 ? _attack * at : before;
                after = Math.Min(1, level + _attack * held);
                slope = _attack;
            }
            else
            {
                after = patch.Sustain + (before - patch.Sustain) * Maths.Exp2(_keep * held);
            }

            _attacking &= after < 1 && held == PieceFrames;
            if (held < PieceFrames)
            {
                after *= Maths.Exp2(_release * (PieceFrames - held));
                slope = 0;
            }

            return (level * Gain, (slope == 0 ? (after - level) / PieceFrames : slope) * Gain, after);
        }

        /// <summary>How the envelope goes on from one piece to the next.</summary>
        /// <param name="frame">Where a piece begins.</param>
        /// <param name="envelope">The envelope there.</param>
        /// <returns>The share of it that is left after a piece, what is added, below which the note has ended, and the frame of the first piece for which this is not so.</returns>
        public (double Factor, double Add, double Quiet, Frames Turn) GoesOn(Frames frame, double envelope)
        {
            if (_attacking)
            {
                var pieces = (long)((1 - envelope) / (_attack * PieceFrames));
                return (1, _attack * PieceFrames, 0, Frames.Min(frame + new Frames(pieces * PieceFrames), note.End - PieceFrames + 1));
            }

            if (frame >= note.End)
            {
                return (Maths.Exp2(_release * PieceFrames), 0, Quiet / Gain, Frames.Never);
            }

            var keep = Maths.Exp2(_keep * PieceFrames);
            return (keep, patch.Sustain * (1 - keep), patch.Sustain == 0 ? Quiet / Gain : 0, note.End - PieceFrames + 1);
        }
    }
}
