using System.Numerics.Tensors;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>Makes mended files, block by block. What is only moved by whole frames keeps its samples bit by bit.</summary>
public static class TakeRenderer
{
    private const int BlockFrames = 8192;

    /// <summary>Writes a mended file beside its name, which it takes when it is complete.</summary>
    /// <param name="from">The printed file.</param>
    /// <param name="plan">What becomes of it.</param>
    /// <param name="path">The mended file; its folder exists.</param>
    /// <param name="broadcast">Its bext chunk; null for none.</param>
    /// <param name="progress">Told the share done, 0 to 1; may be null.</param>
    /// <param name="cancel">Stops it and leaves nothing behind.</param>
    /// <exception cref="IOException">The disk refuses.</exception>
    public static void Render(WaveReader from, RenderPlan plan, string path, BroadcastInfo? broadcast = null, IProgress<double>? progress = null, CancellationToken cancel = default)
    {
        var format = from.Format with { Channels = plan.Gains.Length };
        using var writer = new WaveWriter(path, format, plan.Frames, broadcast);
        var written = 0L;
        foreach (var block in Blocks(from, plan, cancel))
        {
            writer.Write(block.Span);
            written += block.Length;
            progress?.Report((double)written / Math.Max(1, format.Bytes(plan.Frames).Count));
        }

        writer.Finish();
        writer.TakeName();
    }

    /// <summary>The samples of a mended file.</summary>
    /// <param name="from">The printed file.</param>
    /// <param name="plan">What becomes of it.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>Interleaved frames in the printed file's sample format; each piece holds until the next is asked for.</returns>
    public static IEnumerable<ReadOnlyMemory<byte>> Blocks(WaveReader from, RenderPlan plan, CancellationToken cancel = default) =>
        plan.IsCopy ? Copied(from, plan, cancel) : Worked(from, plan, cancel);

    private static IEnumerable<ReadOnlyMemory<byte>> Copied(WaveReader from, RenderPlan plan, CancellationToken cancel)
    {
        var format = from.Format;
        var bytes = new byte[BlockFrames * format.BytesPerFrame];
        for (var at = 0L; at < plan.Frames.Count; at += BlockFrames)
        {
            cancel.ThrowIfCancellationRequested();
            var count = (int)Math.Min(BlockFrames, plan.Frames.Count - at);
            var block = bytes.AsSpan(0, count * format.BytesPerFrame);
            block.Fill(format.Sample == SampleFormat.Pcm8 ? (byte)0x80 : (byte)0);
            var source = at + (long)plan.Start;
            var (first, end) = (Math.Max(0, source), Math.Min(from.Frames.Count, source + count));
            if (end > first)
            {
                from.Read(new Frames(first), block.Slice((int)(first - source) * format.BytesPerFrame, (int)(end - first) * format.BytesPerFrame));
            }

            yield return bytes.AsMemory(0, block.Length);
        }
    }

    private static IEnumerable<ReadOnlyMemory<byte>> Worked(WaveReader from, RenderPlan plan, CancellationToken cancel)
    {
        var format = from.Format with { Channels = plan.Gains.Length };
        var channels = Enumerable.Range(0, from.Format.Channels).Select(c => new MonoReader(from, c)).ToArray();
        var moved = plan.Step != 1 || plan.Start != Math.Round(plan.Start);
        var inputs = channels.Select(_ => new float[BlockFrames]).ToArray();
        var (wide, output) = (new float[(int)(BlockFrames * plan.Step) + 4 * Interpolator.Reach], new float[BlockFrames]);
        var bytes = new byte[BlockFrames * format.BytesPerFrame];
        for (var at = 0L; at < plan.Frames.Count; at += BlockFrames)
        {
            cancel.ThrowIfCancellationRequested();
            var count = (int)Math.Min(BlockFrames, plan.Frames.Count - at);
            var place = plan.Start + at * plan.Step;
            for (var channel = 0; channel < channels.Length; channel++)
            {
                if (moved)
                {
                    var whole = (long)Math.Floor(place) - Interpolator.Reach;
                    channels[channel].Read(whole, wide);
                    Interpolator.Fill(place - whole, plan.Step, wide, inputs[channel].AsSpan(0, count));
                }
                else
                {
                    channels[channel].Read((long)place, inputs[channel].AsSpan(0, count));
                }

                TensorPrimitives.Subtract(inputs[channel].AsSpan(0, count), (float)plan.Dc[channel], inputs[channel].AsSpan(0, count));
            }

            for (var row = 0; row < plan.Gains.Length; row++)
            {
                var mixed = output.AsSpan(0, count);
                mixed.Clear();
                for (var channel = 0; channel < channels.Length; channel++)
                {
                    if (plan.Gains[row][channel] != 0)
                    {
                        TensorPrimitives.MultiplyAdd(inputs[channel].AsSpan(0, count), (float)plan.Gains[row][channel], mixed, mixed);
                    }
                }

                Fade(mixed, at, plan);
                SampleCodec.Encode(mixed, format, row, bytes);
            }

            yield return bytes.AsMemory(0, count * format.BytesPerFrame);
        }
    }

    /// <summary>A raised cosine at both ends.</summary>
    private static void Fade(Span<float> samples, long at, RenderPlan plan)
    {
        for (var i = 0; i < samples.Length && at + i < plan.FadeIn.Count; i++)
        {
            samples[i] *= (float)(0.5 - 0.5 * Math.Cos(Math.PI * (at + i + 0.5) / plan.FadeIn.Count));
        }

        for (var i = (int)Math.Max(0, plan.Frames.Count - plan.FadeOut.Count - at); i < samples.Length; i++)
        {
            samples[i] *= (float)(0.5 - 0.5 * Math.Cos(Math.PI * (plan.Frames.Count - at - i - 0.5) / plan.FadeOut.Count));
        }
    }
}
