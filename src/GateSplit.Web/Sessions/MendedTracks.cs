using System.Globalization;
using System.IO.Hashing;
using System.Text;
using GateSplit.Core.Proofing;
using GateSplit.Data;

namespace GateSplit.Web.Sessions;

/// <summary>Mended tracks for players, which ask for many short pieces of them.</summary>
/// <param name="takes">The takes.</param>
/// <param name="proofs">Their mends.</param>
public sealed class MendedTracks(TakeStore takes, ProofStore proofs)
{
    private const int MostKept = 64;
    private readonly Lock _lock = new();
    private readonly Dictionary<(long Take, string Mends), IReadOnlyList<MendedLine>> _kept = [];

    /// <summary>What names a list of mends in an address: other mends have another name.</summary>
    public static string Name(MendList mends) => XxHash64.HashToUInt64(Encoding.UTF8.GetBytes(ProofJson.Write(mends.Mends))).ToString("x16", CultureInfo.InvariantCulture);

    /// <summary>The address of a track as its mends make it.</summary>
    public static string Address(long takeId, string trackId, string mends) => $"/audio/{takeId}/{Uri.EscapeDataString(trackId)}?mends={mends}";

    /// <summary>One track of a take as its mends make it, with or without those on trial.</summary>
    /// <param name="takeId">The take.</param>
    /// <param name="trackId">The track.</param>
    /// <param name="mends">The name of the mends.</param>
    /// <returns>Null if there is no such track, or its take has other mends now.</returns>
    public async Task<MendedLine?> Find(long takeId, string trackId, string mends)
    {
        IReadOnlyList<MendedLine>? lines;
        lock (_lock)
        {
            _kept.TryGetValue((takeId, mends), out lines);
        }

        if (lines is null)
        {
            if (await takes.Find(takeId) is not { } take || Named(await proofs.Mends(takeId), mends) is not { } list || TakeMends.Lines(take, list) is not { Ok: true, Value: { } made })
            {
                return null;
            }

            lines = made;
            lock (_lock)
            {
                if (_kept.Count >= MostKept)
                {
                    _kept.Clear();
                }

                _kept[(takeId, mends)] = lines;
            }
        }

        return lines.FirstOrDefault(l => l.Track.TrackId.Value == trackId);
    }

    private static MendList? Named(MendList list, string name) => Name(list) == name ? list : Name(list.Settled) == name ? list.Settled : null;
}
