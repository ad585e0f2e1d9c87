using System.Numerics.Tensors;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>How a file's level rises, stretch by stretch: enough to find where one recording lies in another, whatever its level.</summary>
internal static class FluxEnvelope
{
    /// <summary>Stretches a second.</summary>
    public const int Rate = 200;

    private const double Floor = 1e-4; // of full scale: what is under it does not rise
    private const int BlockStretches = 400;

    /// <summary>Reads a file once.</summary>
    /// <returns>A value for each stretch of 5 ms: by how much the log of its energy is above that of the one before, 0 where it falls.</returns>
    public static float[] Of(IMonoSound sound, CancellationToken cancel)
    {
        var rate = sound.Rate.Hz;
        var count = (int)(sound.Frames.Count * Rate / rate);
        var flux = new float[count];
        var block = new float[(long)BlockStretches * rate / Rate + 2];
        var before = Math.Log(Floor * Floor);
        for (var at = 0; at < count; at += BlockStretches)
        {
            cancel.ThrowIfCancellationRequested();
            var start = (long)at * rate / Rate;
            sound.Read(start, block);
            for (var i = at; i < Math.Min(count, at + BlockStretches); i++)
            {
                var (first, end) = ((int)((long)i * rate / Rate - start), (int)((i + 1L) * rate / Rate - start));
                var level = Math.Log(TensorPrimitives.SumOfSquares(block.AsSpan(first, end - first)) / (end - first) + Floor * Floor);
                flux[i] = (float)Math.Max(0, level - before);
                before = level;
            }
        }

        return flux;
    }
}
