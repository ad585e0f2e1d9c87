using GateSplit.Core.Proofing;
using GateSplit.Core.Sound;

namespace GateSplit.Web.Sessions;

/// <summary>A waveform with the file it is read from, until it is closed.</summary>
/// <param name="Wave">The waveform.</param>
/// <param name="File">The file; null where it is gone.</param>
public sealed record OpenWaveform(IWaveform Wave, WaveReader? File) : IDisposable
{
    /// <summary>A printed file, or what mends make of it.</summary>
    /// <param name="overview">The overview of the printed file.</param>
    /// <param name="file">The printed file; null where it is gone.</param>
    /// <param name="plan">What mends make of it; null for nothing.</param>
    public static OpenWaveform Of(Overview overview, WaveReader? file, RenderPlan? plan)
    {
        var printed = new FileWaveform(overview, file);
        return new(plan is null || file is null ? printed : new MendedWaveform(printed, plan, new MendedRecording(file, plan)), file);
    }

    /// <inheritdoc/>
    public void Dispose() => File?.Dispose();
}
