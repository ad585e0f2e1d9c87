using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>Makes mended files.</summary>
public static class TakeRenderer
{
    private const int BlockFrames = 1 << 16;

    /// <summary>Writes a mended file beside its name, which it takes when it is complete.</summary>
    /// <param name="from">The printed file.</param>
    /// <param name="plan">What becomes of it.</param>
    /// <param name="path">The mended file; its folder exists.</param>
    /// <param name="label">What the file says of itself; null for nothing.</param>
    /// <param name="progress">Told the share done, 0 to 1; may be null.</param>
    /// <param name="cancel">Stops it and leaves nothing behind.</param>
    /// <exception cref="IOException">The disk refuses.</exception>
    public static void Render(WaveReader from, RenderPlan plan, string path, FileLabel? label = null, IProgress<double>? progress = null, CancellationToken cancel = default)
    {
        var mended = new MendedRecording(from, plan);
        using var writer = new WaveWriter(path, mended.Format, plan.Frames, label);
        var bytes = new byte[BlockFrames * mended.Format.BytesPerFrame];
        for (Frames at = 0; at < plan.Frames;)
        {
            cancel.ThrowIfCancellationRequested();
            var frames = mended.Read(at, bytes);
            writer.Write(bytes.AsSpan(0, frames * mended.Format.BytesPerFrame));
            at += frames;
            progress?.Report((double)at.Count / plan.Frames.Count);
        }

        writer.Finish();
        writer.TakeName();
    }
}
