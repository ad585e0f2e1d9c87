using System.Collections.Immutable;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>The recorder's tracks: what arrives on each, buses after the tracks that feed them.</summary>
internal sealed class Desk
{
    private readonly Dictionary<TrackId, float[][]> _tracks;
    private readonly Dictionary<TrackId, DeskFeed[]> _feeds;
    private readonly Dictionary<TrackId, UnitStandIn?> _sources;
    private readonly ImmutableArray<TrackId> _order;

    /// <summary>Makes a desk.</summary>
    /// <param name="split">The split.</param>
    /// <param name="signal">Its signal.</param>
    /// <param name="sources">What plays.</param>
    /// <param name="mostFrames">The longest block.</param>
    /// <param name="needed">The tracks that are worked out; null for all.</param>
    public Desk(Split split, SplitSignal signal, Dictionary<UnitId, UnitStandIn> sources, int mostFrames, IReadOnlySet<TrackId>? needed = null)
    {
        _tracks = split.Tracks.ToDictionary(t => t.Id, t => Enumerable.Range(0, (int)t.Width).Select(_ => new float[mostFrames]).ToArray());
        _order = [.. Order(split, signal).Where(id => needed?.Contains(id) != false)];
        Joined = [.. _order.Where(id => signal.BusFeeds.Any(b => b.ToTrackId == id || b.FromTrackId == id))];
        DeskFeed FromPort(TrackFeed feed)
        {
            var port = split.Unit(feed.UnitId)!.Chart.Port(feed.Port)!;
            var source = sources[feed.UnitId];
            return new(block => source.GateMemory(port.FirstChannel, block), block => source.GateMemory(port.LastChannel, block), feed.Gain, feed.DelaySamples, feed.Drive, mostFrames);
        }

        DeskFeed FromTrack(BusFeed feed)
        {
            var sides = _tracks[feed.FromTrackId];
            return new(block => sides[0].AsMemory(0, block.Frames), block => sides[^1].AsMemory(0, block.Frames), feed.Gain, feed.DelaySamples, feed.Drive, mostFrames);
        }

        _sources = _order.ToDictionary(id => id, id => signal.Into(id).Select(f => sources.GetValueOrDefault(f.UnitId)).FirstOrDefault(s => s is not null));
        _feeds = _order.ToDictionary(id => id, id => signal.Into(id).Where(f => sources.ContainsKey(f.UnitId)).Select(FromPort)
            .Concat(signal.BusFeeds.Where(b => b.ToTrackId == id).Select(FromTrack)).ToArray());
    }

    /// <summary>The tracks that feed others or are fed by them, those that feed first. All others may be mixed in any order, and side by side.</summary>
    public ImmutableArray<TrackId> Joined { get; }

    /// <summary>A source that feeds a track; null if none does.</summary>
    public UnitStandIn? FirstSource(TrackId trackId) => _sources.GetValueOrDefault(trackId);

    /// <summary>What arrived on one side of a track in the block that <see cref="Mix(Block)"/> or <see cref="MixJoined"/> mixed last.</summary>
    public Span<float> Samples(Track track, int side, Block block) => _tracks[track.Id][side].AsSpan(0, block.Frames);

    /// <summary>Mixes a block of all tracks.</summary>
    public void Mix(Block block) => MixAll(_order, block);

    /// <summary>Mixes a block of the tracks that feed others or are fed by them.</summary>
    public void MixJoined(Block block) => MixAll(Joined, block);

    /// <summary>Mixes a stretch of a block of one track that is not joined to others.</summary>
    /// <param name="track">The track.</param>
    /// <param name="block">The block.</param>
    /// <param name="from">Where in it the stretch begins; it follows the one before.</param>
    /// <param name="left">Receives the left side, or all of a mono track.</param>
    /// <param name="right">Receives the right side; empty for a mono track.</param>
    public void Mix(Track track, Block block, int from, Span<float> left, Span<float> right) => Mix(track.Id, block, from, left, right);

    private void MixAll(ImmutableArray<TrackId> ids, Block block)
    {
        foreach (var id in ids)
        {
            var sides = _tracks[id];
            Mix(id, block, 0, sides[0].AsSpan(0, block.Frames), sides.Length == 1 ? [] : sides[1].AsSpan(0, block.Frames));
        }
    }

    private void Mix(TrackId id, Block block, int from, Span<float> left, Span<float> right)
    {
        bool anyLeft = false, anyRight = false;
        foreach (var feed in _feeds[id])
        {
            var (fromLeft, fromRight, gain) = feed.Next(block, from, left.Length);
            Mixing.Sum(left, fromLeft.Span, (float)gain.LL, ref anyLeft);
            Mixing.Sum(left, fromRight.Span, (float)gain.LR, ref anyLeft);
            if (!right.IsEmpty)
            {
                Mixing.Sum(right, fromLeft.Span, (float)gain.RL, ref anyRight);
                Mixing.Sum(right, fromRight.Span, (float)gain.RR, ref anyRight);
            }
        }

        left[..(anyLeft ? 0 : left.Length)].Clear();
        right[..(anyRight ? 0 : right.Length)].Clear();
    }

    private static ImmutableArray<TrackId> Order(Split split, SplitSignal signal)
    {
        var order = ImmutableArray.CreateBuilder<TrackId>();
        void Visit(TrackId id)
        {
            if (order.Contains(id))
            {
                return;
            }

            foreach (var feed in signal.BusFeeds.Where(b => b.ToTrackId == id))
            {
                Visit(feed.FromTrackId);
            }

            order.Add(id);
        }

        foreach (var track in split.Tracks)
        {
            Visit(track.Id);
        }

        return order.ToImmutable();
    }
}
