using System.Collections.Immutable;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>The recorder's tracks: what arrives on each, buses after the tracks that feed them.</summary>
internal sealed class Desk
{
    private readonly SplitSignal _signal;
    private readonly Split _split;
    private readonly Dictionary<string, UnitStandIn> _sources;
    private readonly Dictionary<string, float[][]> _tracks;
    private readonly ImmutableArray<string> _order;
    private readonly Dictionary<(object Feed, int Side), DelayLine> _late;
    private readonly ILookup<string, DelayLine> _lateInto;

    /// <summary>Makes a desk.</summary>
    /// <param name="split">The split.</param>
    /// <param name="signal">Its signal.</param>
    /// <param name="sources">What plays.</param>
    /// <param name="mostFrames">The longest block.</param>
    /// <param name="needed">The tracks that are worked out; null for all.</param>
    public Desk(Split split, SplitSignal signal, Dictionary<string, UnitStandIn> sources, int mostFrames, IReadOnlySet<string>? needed = null)
    {
        _split = split;
        _signal = signal;
        _sources = sources;
        _tracks = split.Tracks.ToDictionary(t => t.Id, t => Enumerable.Range(0, (int)t.Width).Select(_ => new float[mostFrames]).ToArray());
        _order = [.. Order().Where(id => needed?.Contains(id) != false)];
        var late = signal.TrackFeeds.Select(f => (Feed: (object)f, f.TrackId, f.DelaySamples))
            .Concat(signal.BusFeeds.Select(f => (Feed: (object)f, TrackId: f.ToTrackId, f.DelaySamples)))
            .Where(f => f.DelaySamples > 0)
            .SelectMany(f => Enumerable.Range(0, 2).Select(side => (f.Feed, Side: side, f.TrackId, Line: new DelayLine(f.DelaySamples, mostFrames))))
            .ToList();
        _late = late.ToDictionary(l => (l.Feed, l.Side), l => l.Line);
        _lateInto = late.ToLookup(l => l.TrackId, l => l.Line);
    }

    /// <summary>The tracks that feed others or are fed by them, those that feed first; all others may be mixed in any order, and side by side.</summary>
    public IEnumerable<string> Joined => _order.Where(id => _signal.BusFeeds.Any(b => b.ToTrackId == id || b.FromTrackId == id));

    /// <summary>What arrived on one side of a track in the block that was mixed last. Once those it feeds are mixed it may be changed.</summary>
    public Span<float> Samples(Track track, int side, Block block) => _tracks[track.Id][side].AsSpan(0, block.Frames);

    /// <summary>Mixes a block of all tracks.</summary>
    public void Mix(Block block)
    {
        foreach (var id in _order)
        {
            Mix(id, block);
        }
    }

    /// <summary>Mixes a block of one track.</summary>
    public void Mix(string id, Block block)
    {
        var sides = _tracks[id];
        bool left = false, right = false;
        void Add(ReadOnlySpan<float> fromLeft, ReadOnlySpan<float> fromRight, Gain2x2 gain)
        {
            Mixing.Sum(sides[0].AsSpan(0, block.Frames), fromLeft, (float)gain.LL, ref left);
            Mixing.Sum(sides[0].AsSpan(0, block.Frames), fromRight, (float)gain.LR, ref left);
            if (sides.Length > 1)
            {
                Mixing.Sum(sides[1].AsSpan(0, block.Frames), fromLeft, (float)gain.RL, ref right);
                Mixing.Sum(sides[1].AsSpan(0, block.Frames), fromRight, (float)gain.RR, ref right);
            }
        }

        void Arrive(ReadOnlySpan<float> fromLeft, ReadOnlySpan<float> fromRight, Gain2x2 gain, double drive)
        {
            if (drive == 0)
            {
                Add(fromLeft, fromRight, gain);
            }
            else
            {
                Add(Driven(fromLeft, gain.Largest, drive), Driven(fromRight, gain.Largest, drive), 1 / gain.Largest * gain);
            }
        }

        foreach (var feed in _signal.Into(id).Where(f => _sources.ContainsKey(f.UnitId)))
        {
            var port = _split.Unit(feed.UnitId)!.Chart.Port(feed.Port)!;
            var source = _sources[feed.UnitId];
            Arrive(Late(feed, 0, source.Gate(port.FirstChannel, block)), Late(feed, 1, source.Gate(port.LastChannel, block)), feed.Gain, feed.Drive);
        }

        foreach (var feed in _signal.BusFeeds.Where(b => b.ToTrackId == id))
        {
            var from = _tracks[feed.FromTrackId];
            Arrive(Late(feed, 0, from[0].AsSpan(0, block.Frames)), Late(feed, 1, from[^1].AsSpan(0, block.Frames)), feed.Gain, feed.Drive);
        }

        sides[0].AsSpan(0, left ? 0 : block.Frames).Clear();
        sides[^1].AsSpan(0, right || sides.Length == 1 ? 0 : block.Frames).Clear();
        foreach (var line in _lateInto[id])
        {
            line.Advance();
        }
    }

    /// <summary>Outboard bends what it gets, at the level at which it gives it back.</summary>
    private static float[] Driven(ReadOnlySpan<float> samples, double level, double drive)
    {
        float[] driven = [.. samples];
        foreach (ref var sample in driven.AsSpan())
        {
            sample *= (float)level;
        }

        Drive.Apply(driven, (float)drive);
        return driven;
    }

    /// <summary>One side of a feed as it arrives: over a looped-back pair it is late.</summary>
    private ReadOnlySpan<float> Late(object feed, int side, ReadOnlySpan<float> samples) =>
        _late.TryGetValue((feed, side), out var line) ? line.Process(samples) : samples;

    private ImmutableArray<string> Order()
    {
        var order = ImmutableArray.CreateBuilder<string>();
        void Visit(string id)
        {
            if (order.Contains(id))
            {
                return;
            }

            foreach (var feed in _signal.BusFeeds.Where(b => b.ToTrackId == id))
            {
                Visit(feed.FromTrackId);
            }

            order.Add(id);
        }

        foreach (var track in _split.Tracks)
        {
            Visit(track.Id);
        }

        return order.ToImmutable();
    }
}
