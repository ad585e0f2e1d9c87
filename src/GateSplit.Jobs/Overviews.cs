using GateSplit.Core.Sound;
using GateSplit.Data;

namespace GateSplit.Jobs;

/// <summary>The waveforms of takes. One that is not in the store any more is made anew from its audio.</summary>
/// <param name="store">The audio store.</param>
/// <param name="takes">The takes.</param>
public sealed class Overviews(IAudioStore store, TakeStore takes)
{
    private readonly SemaphoreSlim _one = new(1);

    /// <summary>A track whose overview is in the store, as long as its audio is.</summary>
    public async Task<TakeTrack> Restored(TakeTrack track, CancellationToken cancel)
    {
        if (store.Find(track.OverviewHash) is not null || store.Find(track.Hash) is null)
        {
            return track;
        }

        await _one.WaitAsync(cancel);
        try
        {
            if (store.Find(track.OverviewHash) is not null || WaveReader.Open(store.Find(track.Hash) ?? "") is not { Ok: true, Value: var wave })
            {
                return track;
            }

            using (wave)
            {
                return track with { OverviewHash = await Make(track.Hash, wave, cancel) };
            }
        }
        finally
        {
            _one.Release();
        }
    }

    private async Task<string> Make(string hash, WaveReader wave, CancellationToken cancel)
    {
        var folder = $"overview-{Guid.NewGuid():N}";
        try
        {
            var path = Path.Combine(store.Staging(folder), hash);
            await File.WriteAllBytesAsync(path, FileMeasure.Of(wave, null, cancel).Overview.ToBytes(), cancel);
            var overview = await store.NameOf(path, cancel);
            store.Adopt(path, overview);
            await takes.SetOverview(hash, overview);
            return overview;
        }
        finally
        {
            store.Discard(folder);
        }
    }
}
