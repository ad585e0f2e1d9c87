using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Drawing;

/// <summary>The strokes between what stands on paper.</summary>
internal sealed class DrawingRails
{
    private const double Corner = 7;

    private readonly SplitView _view;
    private readonly DrawingLayout _layout;
    private readonly ImmutableArray<DrawnRail>.Builder _rails = ImmutableArray.CreateBuilder<DrawnRail>();

    /// <summary>Connects everything.</summary>
    /// <param name="view">The split, in the pass that is drawn.</param>
    /// <param name="layout">Where everything stands.</param>
    public DrawingRails(SplitView view, DrawingLayout layout)
    {
        (_view, _layout) = (view, layout);
        var toGate = layout.Elements
            .Select(e => (Element: e, Port: layout.Ports.FirstOrDefault(p => p.UnitId == e.Ref.UnitId && p.Number == e.Port)!))
            .Where(e => e.Port is not null)
            .Concat(
                from element in layout.Elements
                from feed in view.Signal.StraightOf(element.Ref)
                from port in layout.Ports
                where port.UnitId == feed.UnitId && port.Number == feed.Port
                select (Element: element, Port: port))
            .ToList();
        Junctions = [.. toGate.GroupBy(p => p.Port).Where(g => g.Count() > 1).Select(g => g.Key.At)];
        Crossings = ToGate(toGate);
        BufferStops = [.. layout.Elements.Where(e => e.Port is null && e.Sounds).Select(e => e.At with { X = e.At.X + 24 }), .. ThroughGate()];
        Crossings += ToTracks();
        Buses();
        Rails = _rails.ToImmutable();
    }

    /// <summary>The strokes.</summary>
    public ImmutableArray<DrawnRail> Rails { get; }

    /// <summary>Where several elements merge.</summary>
    public ImmutableArray<Point> Junctions { get; }

    /// <summary>Where a signal goes nowhere.</summary>
    public ImmutableArray<Point> BufferStops { get; }

    /// <summary>Pairs of rails that change order between two columns.</summary>
    public int Crossings { get; }

    /// <summary>From the elements to their ports.</summary>
    /// <returns>How often they cross.</returns>
    private int ToGate(List<(DrawnElement Element, DrawnPort Port)> lines)
    {
        var ends = lines.ConvertAll(l => (l.Element.At.Y, l.Port.At.Y));
        var slots = Slots(ends, SplitDrawing.ElementX, SplitDrawing.GateX);
        foreach (var (i, (element, port)) in lines.Index())
        {
            _rails.Add(new DrawnRail(
                KindOf(element), element.Width, element.Family, Run(element.At, port.At, slots[i]), [Place.Of(element.Ref), Place.OfPort(port.UnitId, port.Number)]));
        }

        return SplitDrawing.CountCrossings(ends);
    }

    /// <summary>From the ports to the inputs.</summary>
    /// <returns>Where a port's signal ends because no track listens.</returns>
    private List<Point> ThroughGate()
    {
        var stops = new List<Point>();
        foreach (var port in _layout.Ports.Where(p => p.Used && p.Open))
        {
            var end = port.At with { X = port.Heard ? SplitDrawing.InputX : SplitDrawing.GateX + 44 };
            var carried = _view.SoundingAt(port.UnitId, port.Number).Select(f => f.Element);
            _rails.Add(new DrawnRail(
                port.IsMain && !port.Heard ? RailKind.Main : RailKind.Line,
                port.Width,
                carried.Count() == 1 ? _view.FamilyOf(carried) : null,
                [port.At, end],
                [Place.OfPort(port.UnitId, port.Number)]));
            if (!port.Heard && !port.IsMain)
            {
                stops.Add(end);
            }
        }

        return stops;
    }

    private RailKind KindOf(DrawnElement element)
    {
        var (_, _, chart, set) = _view.ElementOf(element.Ref);
        return chart.Kind == ElementKind.Return ? RailKind.Return : set.Port is null ? RailKind.Main : RailKind.Line;
    }

    /// <summary>From the inputs to the tracks.</summary>
    /// <returns>How often they cross.</returns>
    private int ToTracks()
    {
        var wired = _layout.Tracks.Select(t => (Track: t, Port: _layout.PortOf(t.Track))).Where(p => p.Port is not null).ToList();
        var starts = wired.ConvertAll(p => new Point(SplitDrawing.InputEndX, p.Port!.At.Y + Lane(p.Track.Track, p.Port)));
        var ends = starts.Select((s, i) => (s.Y, wired[i].Track.At.Y)).ToList();
        var slots = Slots(ends, SplitDrawing.InputEndX, SplitDrawing.TrackX);
        foreach (var (i, (track, port)) in wired.Index())
        {
            _rails.Add(new DrawnRail(
                RailKind.Line,
                track.Track.Width,
                track.Family,
                Run(starts[i], track.At, slots[i]),
                [Place.Of(track.Track), Place.OfPort(port!.UnitId, port.Number), .. _view.SoundingIn(track.Track).Select(Place.Of)]));
        }

        return SplitDrawing.CountCrossings(ends);
    }

    /// <summary>A mono track on one side of a pair leaves the input a little above or below its middle.</summary>
    private double Lane(Track track, DrawnPort port)
    {
        if (track.Width == Width.Stereo || port.Width == Width.Mono)
        {
            return 0;
        }

        return _view.Signal.Into(track.Id).Any(f => f.Gain.LL != 0) ? -SplitDrawing.PairOffset : SplitDrawing.PairOffset;
    }

    private void Buses()
    {
        var inLoop = _view.Signal.Loops.SelectMany(l => l).ToHashSet();
        var depth = 0;
        foreach (var feed in _view.Signal.BusFeeds)
        {
            if (_layout.Tracks.FirstOrDefault(t => t.Track.Id == feed.FromTrackId) is not { } from
                || _layout.Tracks.FirstOrDefault(t => t.Track.Id == feed.ToTrackId) is not { } to)
            {
                continue;
            }

            _rails.Add(new DrawnRail(
                inLoop.Contains(feed.FromTrackId) && inLoop.Contains(feed.ToTrackId) ? RailKind.Loop : RailKind.Line,
                from.Track.Width,
                null,
                Back(from, to, SplitDrawing.TrackX - 20 - 8 * depth++),
                [Place.Of(from.Track), Place.Of(to.Track)]));
        }
    }

    /// <summary>From a track out to the left, up or down beside the tracks, and into another one, or itself.</summary>
    private static ImmutableArray<Point> Back(DrawnTrack from, DrawnTrack to, double x)
    {
        var low = from.At.Y + 8;
        var turn = to.At.Y > low ? 4 : -4;
        var end = from == to ? from.At.Y + 4 : to.At.Y - turn;
        return [new Point(SplitDrawing.TrackX, low), new Point(x + 4, low), new Point(x, low + turn), new Point(x, end), new Point(x + 4, to.At.Y), to.At];
    }

    /// <summary>
    /// Where each rail that changes rows turns. Falling rails turn the lower the sooner and rising ones the higher the
    /// sooner, so that rails that need not cross do not.
    /// </summary>
    private static double[] Slots(IReadOnlyList<(double From, double To)> ends, double left, double right)
    {
        var turning = Enumerable.Range(0, ends.Count).Where(i => ends[i].From != ends[i].To)
            .OrderBy(i => ends[i].To > ends[i].From ? -ends[i].From : ends[i].From)
            .ToList();
        var slots = new double[ends.Count];
        var margin = Corner + 14;
        for (var place = 0; place < turning.Count; place++)
        {
            slots[turning[place]] = left + margin + (right - left - 2 * margin) * (place + 0.5) / turning.Count;
        }

        return slots;
    }

    private static ImmutableArray<Point> Run(Point from, Point to, double turn)
    {
        var fall = to.Y - from.Y;
        if (fall == 0)
        {
            return [from, to];
        }

        var corner = Math.Min(Corner, Math.Abs(fall) / 2);
        var step = Math.Sign(fall) * corner;
        return [from, new Point(turn - corner, from.Y), new Point(turn, from.Y + step), new Point(turn, to.Y - step), new Point(turn + corner, to.Y), to];
    }
}
