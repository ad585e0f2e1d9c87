using GateSplit.Core.Proofing;
using GateSplit.Core.Sound;
using GateSplit.Data;
using Microsoft.Extensions.Caching.Memory;

namespace GateSplit.Web.Sessions;

/// <summary>The waveforms of takes. Their overviews are kept in memory for a while, since whoever zooms asks for them again and again.</summary>
/// <param name="store">The audio store.</param>
/// <param name="takes">The takes.</param>
/// <param name="mended">Mended tracks.</param>
public sealed class Waveforms(IAudioStore store, TakeStore takes, MendedTracks mended) : IDisposable
{
    private const long MostBytes = 128 << 20;
    private readonly MemoryCache _overviews = new(new MemoryCacheOptions { SizeLimit = MostBytes });

    /// <summary>What names a track as its mends make it; a printed file is named by its hash.</summary>
    public static string Name(long takeId, string trackId, string mends) => $"{takeId}:{mends}:{trackId}";

    /// <summary>Opens a waveform.</summary>
    /// <param name="name">The hash of a printed file, or what <see cref="Name"/> says.</param>
    /// <returns>Null if there is none such.</returns>
    public async Task<OpenWaveform?> Open(string name)
    {
        if (name.Split(':', 3) is not [var take, var mends, var track])
        {
            return Open(name, await OverviewOf(name), null);
        }

        return long.TryParse(take, out var takeId) && await mended.Find(takeId, track, mends) is { } line
            ? Open(line.Printed.Hash, line.Printed.OverviewHash, line.Plan)
            : null;
    }

    /// <summary>Opens the waveform of a track.</summary>
    public OpenWaveform? Open(MendedLine line) => Open(line.Printed.Hash, line.Printed.OverviewHash, line.IsAsPrinted ? null : line.Plan);

    /// <inheritdoc/>
    public void Dispose() => _overviews.Dispose();

    private OpenWaveform? Open(string hash, string? overviewHash, RenderPlan? plan)
    {
        if (overviewHash is null || store.Find(overviewHash) is not { } overviewPath)
        {
            return null;
        }

        var overview = _overviews.GetOrCreate(overviewHash, entry =>
        {
            var bytes = File.ReadAllBytes(overviewPath);
            entry.Size = bytes.Length;
            return Overview.FromBytes(bytes);
        });
        return OpenWaveform.Of(overview!, store.Find(hash) is { } path ? WaveReader.Open(path).Value : null, plan);
    }

    private Task<string?> OverviewOf(string hash) => _overviews.GetOrCreateAsync($"of {hash}", entry =>
    {
        entry.Size = hash.Length;
        return takes.Overview(hash);
    });
}
