using System.Numerics.Tensors;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>
/// A printed file as its mends make it, made while it is read. What is only moved by whole frames keeps its samples bit by bit; what is
/// reckoned anew and stored in 16 bit is dithered. The bytes of a place do not depend on what was read before it. Not for several threads.
/// </summary>
public sealed class MendedRecording : IRecording
{
    /// <summary>Always the same frames are reckoned together, so that rounding and dither are the same from wherever they are read.</summary>
    private const int BlockFrames = 8192;

    private readonly WaveReader _from;
    private readonly RenderPlan _plan;
    private readonly Worked? _worked;
    private long _held = -1;

    /// <summary>Begins with nothing read.</summary>
    /// <param name="from">The printed file; stays the caller's.</param>
    /// <param name="plan">What becomes of it.</param>
    public MendedRecording(WaveReader from, RenderPlan plan)
    {
        _from = from;
        _plan = plan;
        Format = FormatOf(from.Format, plan);
        _worked = plan.IsCopy ? null : new(from, plan, Format);
    }

    /// <inheritdoc/>
    public AudioFormat Format { get; }

    /// <inheritdoc/>
    public Frames Frames => _plan.Frames;

    /// <summary>The shape of a mended file: that of the printed one, but what is reckoned anew is 16 or 24 bit or 32 bit float.</summary>
    /// <param name="printed">The shape of the printed file.</param>
    /// <param name="plan">What becomes of it.</param>
    public static AudioFormat FormatOf(AudioFormat printed, RenderPlan plan) => printed with
    {
        Channels = plan.Gains.Length,
        Sample = plan.IsCopy ? printed.Sample : printed.Sample switch
        {
            SampleFormat.Pcm8 => SampleFormat.Pcm16,
            SampleFormat.Pcm32 or SampleFormat.Float64 => SampleFormat.Float32,
            var sample => sample,
        },
    };

    /// <inheritdoc/>
    public int Read(Frames startFrame, Span<byte> into)
    {
        var frame = Format.BytesPerFrame;
        var frames = (int)Math.Min(into.Length / frame, Math.Max(0, (Frames - startFrame).Count));
        if (_worked is null)
        {
            Copy(startFrame.Count, into[..(frames * frame)]);
            return frames;
        }

        for (var done = 0; done < frames;)
        {
            var at = startFrame.Count + done;
            var block = at / BlockFrames;
            if (_held != block)
            {
                _worked.Make(block * BlockFrames, (int)Math.Min(BlockFrames, Frames.Count - block * BlockFrames));
                _held = block;
            }

            var skipped = (int)(at - block * BlockFrames);
            var count = Math.Min(frames - done, BlockFrames - skipped);
            _worked.Bytes.AsSpan(skipped * frame, count * frame).CopyTo(into[(done * frame)..]);
            done += count;
        }

        return frames;
    }

    private void Copy(long at, Span<byte> into)
    {
        var frame = Format.BytesPerFrame;
        into.Fill(Format.Sample == SampleFormat.Pcm8 ? (byte)0x80 : (byte)0);
        var source = at + (long)_plan.Start;
        var (first, end) = (Math.Max(0, source), Math.Min(_from.Frames.Count, source + into.Length / frame));
        if (end > first)
        {
            _from.Read(new Frames(first), into.Slice((int)(first - source) * frame, (int)(end - first) * frame));
        }
    }

    /// <summary>The reckoning of blocks.</summary>
    private sealed class Worked
    {
        private readonly RenderPlan _plan;
        private readonly AudioFormat _format;
        private readonly MonoReader[] _channels;
        private readonly float[][] _inputs;
        private readonly float[] _wide;
        private readonly float[] _output = new float[BlockFrames];
        private readonly bool _moved;
        private readonly bool _dithered;

        public Worked(WaveReader from, RenderPlan plan, AudioFormat format)
        {
            _plan = plan;
            _format = format;
            _channels = [.. Enumerable.Range(0, from.Format.Channels).Select(c => new MonoReader(from, c))];
            _inputs = [.. _channels.Select(_ => new float[BlockFrames])];
            _moved = plan.Step != 1 || plan.Start != Math.Round(plan.Start);
            _wide = new float[_moved ? (int)(BlockFrames * plan.Step) + 4 * Interpolator.Reach : 0];
            _dithered = format.Sample == SampleFormat.Pcm16 && !plan.KeepsSamples;
            Bytes = new byte[BlockFrames * format.BytesPerFrame];
        }

        public byte[] Bytes { get; }

        public void Make(long at, int count)
        {
            for (var channel = 0; channel < _channels.Length; channel++)
            {
                Fetch(channel, at, _inputs[channel].AsSpan(0, count));
            }

            for (var row = 0; row < _plan.Gains.Length; row++)
            {
                var mixed = _output.AsSpan(0, count);
                mixed.Clear();
                for (var channel = 0; channel < _channels.Length; channel++)
                {
                    if (_plan.Gains[row][channel] != 0)
                    {
                        TensorPrimitives.MultiplyAdd(_inputs[channel].AsSpan(0, count), (float)_plan.Gains[row][channel], mixed, mixed);
                    }
                }

                Fade(mixed, at);
                if (_dithered)
                {
                    new Dither((uint)(at / BlockFrames * _plan.Gains.Length + row + 1)).Apply(mixed);
                }

                SampleCodec.Encode(mixed, _format, row, Bytes);
            }
        }

        private void Fetch(int channel, long at, Span<float> into)
        {
            var place = _plan.Start + at * _plan.Step;
            if (_moved)
            {
                var whole = (long)Math.Floor(place) - Interpolator.Reach;
                _channels[channel].Read(whole, _wide);
                Interpolator.Fill(place - whole, _plan.Step, _wide, into);
            }
            else
            {
                _channels[channel].Read((long)place, into);
            }

            TensorPrimitives.Subtract(into, (float)_plan.Dc[channel], into);
        }

        /// <summary>A raised cosine at both ends.</summary>
        private void Fade(Span<float> samples, long at)
        {
            for (var i = 0; i < samples.Length && at + i < _plan.FadeIn.Count; i++)
            {
                samples[i] *= (float)(0.5 - 0.5 * Math.Cos(Math.PI * (at + i + 0.5) / _plan.FadeIn.Count));
            }

            for (var i = (int)Math.Max(0, _plan.Frames.Count - _plan.FadeOut.Count - at); i < samples.Length; i++)
            {
                samples[i] *= (float)(0.5 - 0.5 * Math.Cos(Math.PI * (_plan.Frames.Count - at - i - 0.5) / _plan.FadeOut.Count));
            }
        }
    }
}
