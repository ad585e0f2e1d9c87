using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Drawing;

/// <summary>
/// Where everything of a split stands on paper: elements, the gate with its openings, the recorder's inputs, the
/// tracks, and the rails between them. Numbers only; the page makes strokes of them.
/// </summary>
public sealed class SplitDrawing
{
    /// <summary>Width of the drawing.</summary>
    public const double Width = 1000;

    /// <summary>Where rails leave the elements.</summary>
    public const double ElementX = 226;

    /// <summary>The wall.</summary>
    public const double GateX = 424;

    /// <summary>Where rails reach the recorder's inputs.</summary>
    public const double InputX = 506;

    /// <summary>Where rails leave the inputs.</summary>
    public const double InputEndX = 634;

    /// <summary>Where rails reach the tracks.</summary>
    public const double TrackX = 762;

    /// <summary>Distance between rows.</summary>
    public const double Row = 26;

    /// <summary>Distance of the two strokes of a pair from their middle.</summary>
    public const double PairOffset = 2.5;

    private const double Corner = 7;
    private const double Heading = 34;
    private Dictionary<TrackId, int> _numbers = [];

    private SplitDrawing()
    {
    }

    /// <summary>Height of the drawing.</summary>
    public double Height { get; private set; }

    /// <summary>The headings.</summary>
    public ImmutableArray<DrawnUnit> Units { get; private set; } = [];

    /// <summary>The left column.</summary>
    public ImmutableArray<DrawnElement> Elements { get; private set; } = [];

    /// <summary>Groups drawn as one row.</summary>
    public ImmutableArray<DrawnFold> Folds { get; private set; } = [];

    /// <summary>The gate and the inputs.</summary>
    public ImmutableArray<DrawnPort> Ports { get; private set; } = [];

    /// <summary>The right column.</summary>
    public ImmutableArray<DrawnTrack> Tracks { get; private set; } = [];

    /// <summary>The strokes.</summary>
    public ImmutableArray<DrawnRail> Rails { get; private set; } = [];

    /// <summary>Where several elements merge.</summary>
    public ImmutableArray<Point> Junctions { get; private set; } = [];

    /// <summary>Where a signal goes nowhere.</summary>
    public ImmutableArray<Point> BufferStops { get; private set; } = [];

    /// <summary>Pairs of rails that change order between two columns.</summary>
    public int Crossings { get; private set; }

    /// <summary>Draws a split.</summary>
    /// <param name="view">The split.</param>
    /// <param name="wish">What of it.</param>
    public static SplitDrawing Of(SplitView view, DrawingWish wish)
    {
        var drawing = new SplitDrawing();
        drawing._numbers = view.Split.Tracks.Select((t, i) => (t.Id, Number: i + 1)).ToDictionary(t => t.Id, t => t.Number);
        view = wish.Pass is { } pass ? view.InPass(pass) : view;
        drawing.Arrange(view, wish);
        drawing.Connect(view);
        return drawing;
    }

    /// <summary>Counts the pairs whose order on the right contradicts that on the left.</summary>
    /// <param name="ends">Heights of both ends of each rail.</param>
    public static int CountCrossings(IReadOnlyList<(double Left, double Right)> ends)
    {
        var count = 0;
        for (var a = 0; a < ends.Count; a++)
        {
            for (var b = a + 1; b < ends.Count; b++)
            {
                if ((ends[a].Left - ends[b].Left) * (ends[a].Right - ends[b].Right) < 0)
                {
                    count++;
                }
            }
        }

        return count;
    }

    private void Arrange(SplitView view, DrawingWish wish)
    {
        var units = ImmutableArray.CreateBuilder<DrawnUnit>();
        var elements = ImmutableArray.CreateBuilder<DrawnElement>();
        var ports = ImmutableArray.CreateBuilder<DrawnPort>();
        var folds = ImmutableArray.CreateBuilder<DrawnFold>();
        var lines = wish.Only is null ? null : LinesOf(view, wish.Only);
        var top = 10.0;
        foreach (var unit in view.Split.Units)
        {
            var first = top + Heading;
            var playing = view.Elements.Where(e => e.Unit.Id == unit.Id && (wish.Pass is null || view.PlaysIn(e.Ref, wish.Pass.Value))).ToList();
            var audible = playing
                .Where(e => wish.WithSilent || view.Sounding.Contains(e.Ref) || (e.Set.Port is not null && e.Chart.Port != e.Set.Port))
                .ToList();
            var folded = audible.Where(e => e.Chart.Group is { } g && wish.Folded.Contains($"{unit.Id}/{g}")).ToLookup(e => e.Chart.Group!);
            var away = folded.SelectMany(g => g).Select(e => e.Ref).ToHashSet();
            bool Lost(ElementRef e) => away.Contains(e) || (lines is not null && !lines.Contains(Place.Of(e).Key));
            var hiddenPorts = unit.Chart.Ports
                .Where(p => view.SoundingAt(unit.Id, p.Number) is var feeds && (feeds.IsEmpty
                    ? lines is not null && !lines.Contains(Place.OfPort(unit.Id, p.Number).Key)
                    : feeds.All(f => Lost(f.Element)) && lines?.Contains(Place.OfPort(unit.Id, p.Number).Key) != true))
                .Select(p => p.Number)
                .ToHashSet();
            var openings = unit.Chart.Ports.Where(p => !hiddenPorts.Contains(p.Number)).ToList();
            var rows = openings.Select((p, i) => (p.Number, Y: first + i * Row)).ToDictionary(p => p.Number, p => p.Y);
            var main = unit.Chart.MainPort.Number;

            // What leaves by the main mix only stands level with it, where its rail crosses no other.
            var shown = audible.Where(e => !Lost(e.Ref))
                .OrderBy(e => rows.ContainsKey(main) && e.Set.Port is null && unit.PortOf(e.Set)?.Number == main ? 0 : 1)
                .ToList();
            if (lines is not null && shown.Count == 0 && openings.Count == 0)
            {
                continue;
            }

            var y = first - Row;
            foreach (var (element, _, chart, set) in shown)
            {
                var port = unit.PortOf(set)?.Number;
                y = Math.Max(y + Row, port is { } number && set.Port is not null ? rows.GetValueOrDefault(number, first) : first);
                elements.Add(new DrawnElement(element, chart.Name, chart.Family, chart.Width, view.Sounding.Contains(element), port, new Point(ElementX, y)));
            }

            foreach (var port in openings)
            {
                ports.Add(new DrawnPort(
                    unit.Id, port.Number, port.Name, view.Split.PlaceOf(unit, port), view.Split.InputOf(unit, port.FirstChannel), port.Width, port.IsMain,
                    unit.Exposes(port.Number),
                    view.SoundingAt(unit.Id, port.Number).Length > 0,
                    view.AnyTrackHears(unit.Id, port.Number),
                    new Point(GateX, rows[port.Number])));
            }

            y = Math.Max(y, rows.Values.DefaultIfEmpty(first - Row).Max());
            foreach (var group in folded.Where(g => lines is null || g.Any(e => lines.Contains(Place.Of(e.Ref).Key))))
            {
                y += Row;
                folds.Add(Fold(view, unit, group.Key, [.. group.Select(e => e.Ref)], new Point(ElementX, y)));
            }

            var bottom = y + Row * 0.7;
            units.Add(new DrawnUnit(unit.Id, unit.Name, unit.Mode.Name, top, bottom, playing.Count - audible.Count));
            top = bottom + 6;
        }

        Units = units.ToImmutable();
        Elements = elements.ToImmutable();
        Ports = ports.ToImmutable();
        Folds = folds.ToImmutable();
        var gone = Folds.SelectMany(f => f.Places).ToHashSet();
        Tracks = PlaceTracks(view, t => !gone.Contains(Place.Of(t).Key) && lines?.Contains(Place.Of(t).Key) != false);
        Height = Math.Max(top, Tracks.Select(t => t.At.Y + Row).DefaultIfEmpty().Max()) + 14;
    }

    /// <summary>One row for a group: its ports and the tracks that carry nothing but it.</summary>
    private static DrawnFold Fold(SplitView view, Unit unit, string group, HashSet<ElementRef> members, Point at)
    {
        var places = members.Select(e => Place.Of(e).Key).ToHashSet();
        var tracks = view.Split.Tracks.Where(t => view.SoundingIn(t) is { IsEmpty: false } carried && carried.All(members.Contains)).ToList();
        places.UnionWith(tracks.Select(t => Place.Of(t).Key));
        var ports = members.SelectMany(view.Signal.PortsOf).Select(f => f.Port).Distinct().Order().ToList();
        places.UnionWith(ports.Where(p => view.SoundingAt(unit.Id, p).All(f => members.Contains(f.Element))).Select(p => Place.OfPort(unit.Id, p).Key));
        return new DrawnFold(
            $"{unit.Id}/{group}",
            group,
            unit.Chart.Element(members.First().ElementId)!.Family,
            members.Count,
            Words.Runs(ports),
            tracks.Count,
            places,
            at);
    }

    /// <summary>The places on the lines of some places: an element with its ports and tracks, and so from every side.</summary>
    private static HashSet<string> LinesOf(SplitView view, ImmutableHashSet<string> only)
    {
        // A track with a whole mix is on everybody's line: a finding about it is about the mix.
        var mixes = view.Split.Tracks.Where(t => view.SoundingIn(t).Length > 2).Select(t => Place.Of(t).Key).ToHashSet();
        var lines = only.ToHashSet();
        lines.UnionWith(view.Signal.TrackFeeds.Where(f => only.Contains($"track:{f.TrackId}")).Select(f => Place.OfPort(f.UnitId, f.Port).Key));
        foreach (var (element, unit, _, set) in view.SoundingElements)
        {
            var way = view.Signal.PortsOf(element).Select(f => Place.OfPort(unit.Id, f.Port).Key)
                .Concat(view.Signal.Reaching(element).Where(c => !c.Gain.IsZero).Select(c => $"track:{c.TrackId}"))
                .Append(Place.Of(element).Key)
                .ToList();
            if (way.Where(p => !mixes.Contains(p)).Any(only.Contains) || only.Contains(Place.Of(unit).Key))
            {
                lines.UnionWith(way);
                lines.UnionWith(unit.PortOf(set) is { } port ? [Place.OfPort(unit.Id, port.Number).Key] : []);
            }
        }

        return lines;
    }

    /// <summary>Tracks keep their order; each stands level with its input where the order allows it.</summary>
    private ImmutableArray<DrawnTrack> PlaceTracks(SplitView view, Func<Track, bool> shows)
    {
        var tracks = ImmutableArray.CreateBuilder<DrawnTrack>();
        var y = 10 + Heading - Row;
        foreach (var track in view.Split.Tracks.Where(shows))
        {
            var port = PortOf(view, track);
            y = Math.Max(y + Row, port?.At.Y ?? 0);
            var carried = view.SoundingIn(track);
            Family? family = carried.Length == 0
                ? null
                : carried.Length > 2 ? Family.RoomAndReturn : view.Split.Unit(carried[0].UnitId)!.Chart.Element(carried[0].ElementId)!.Family;
            tracks.Add(new DrawnTrack(track, _numbers[track.Id], family, view.Split.InputName(track), new Point(TrackX, y)));
        }

        return tracks.ToImmutable();
    }

    private DrawnPort? PortOf(SplitView view, Track track) => view.Signal.Into(track.Id).FirstOrDefault() is { } feed
        ? Ports.FirstOrDefault(p => p.UnitId == feed.UnitId && p.Number == feed.Port)
        : Ports.FirstOrDefault(p => p.Input is { } at && track.Input is { } input
            && at.BankId == input.BankId && input.Channel >= at.Channel && input.Channel < at.Channel + (int)p.Width);

    private void Connect(SplitView view)
    {
        var rails = ImmutableArray.CreateBuilder<DrawnRail>();
        var stops = ImmutableArray.CreateBuilder<Point>();
        var toGate = Elements
            .Select(e => (Element: e, Port: Ports.FirstOrDefault(p => p.UnitId == e.Ref.UnitId && p.Number == e.Port)!))
            .Where(e => e.Port is not null)
            .ToList();
        var slots = Slots([.. toGate.Select(p => (p.Element.At.Y, p.Port.At.Y))], ElementX, GateX);
        for (var i = 0; i < toGate.Count; i++)
        {
            var (element, port) = toGate[i];
            var set = view.Split.Unit(element.Ref.UnitId)!.Element(element.Ref.ElementId);
            var kind = KindOf(view, element, set);
            var keys = ImmutableArray.Create(Place.Of(element.Ref).Key, Place.OfPort(port.UnitId, port.Number).Key);
            rails.Add(new DrawnRail(kind, element.Width, element.Family, Run(element.At, port.At, slots[i]), keys));
        }

        stops.AddRange(Elements.Where(e => e.Port is null && e.Sounds).Select(e => e.At with { X = e.At.X + 24 }));
        foreach (var port in Ports.Where(p => p.Used && p.Open))
        {
            var end = port.At with { X = port.Heard ? InputX : GateX + 44 };
            rails.Add(new DrawnRail(port.IsMain && !port.Heard ? RailKind.Main : RailKind.Line, port.Width, FamilyAt(view, port), [port.At, end], [Place.OfPort(port.UnitId, port.Number).Key]));
            if (!port.Heard && !port.IsMain)
            {
                stops.Add(end);
            }
        }

        Junctions = [.. toGate.GroupBy(p => p.Port).Where(g => g.Count() > 1).Select(g => g.Key.At)];
        BufferStops = stops.ToImmutable();
        var crossings = CountCrossings([.. toGate.Select(p => (p.Element.At.Y, p.Port.At.Y))]);
        crossings += ConnectTracks(view, rails);
        ConnectBuses(view, rails);
        Rails = rails.ToImmutable();
        Crossings = crossings;
    }

    private static RailKind KindOf(SplitView view, DrawnElement element, UnitElement set)
    {
        var chart = view.Split.Unit(element.Ref.UnitId)!.Chart.Element(element.Ref.ElementId)!;
        return chart.Kind == ElementKind.Return ? RailKind.Return : set.Port is null ? RailKind.Main : RailKind.Line;
    }

    private static Family? FamilyAt(SplitView view, DrawnPort port)
    {
        var feeds = view.SoundingAt(port.UnitId, port.Number);
        return feeds.Length == 1 ? view.Split.Unit(port.UnitId)!.Chart.Element(feeds[0].Element.ElementId)!.Family : null;
    }

    private int ConnectTracks(SplitView view, ImmutableArray<DrawnRail>.Builder rails)
    {
        var wired = Tracks.Select(t => (Track: t, Port: PortOf(view, t.Track))).Where(p => p.Port is not null).ToList();
        var starts = wired.Select(p => new Point(InputEndX, p.Port!.At.Y + Lane(view, p.Track.Track, p.Port))).ToList();
        var ends = starts.Select((s, i) => (s.Y, wired[i].Track.At.Y)).ToList();
        var slots = Slots(ends, InputEndX, TrackX);
        for (var i = 0; i < wired.Count; i++)
        {
            var (track, port) = wired[i];
            var keys = ImmutableArray.CreateBuilder<string>();
            keys.Add(Place.Of(track.Track).Key);
            keys.Add(Place.OfPort(port!.UnitId, port.Number).Key);
            keys.AddRange(view.SoundingIn(track.Track).Select(e => Place.Of(e).Key));
            rails.Add(new DrawnRail(RailKind.Line, track.Track.Width, track.Family, Run(starts[i], track.At, slots[i]), keys.ToImmutable()));
        }

        return CountCrossings(ends);
    }

    /// <summary>A mono track on one side of a pair leaves the input a little above or below its middle.</summary>
    private static double Lane(SplitView view, Track track, DrawnPort port)
    {
        if (track.Width == Charts.Width.Stereo || port.Width == Charts.Width.Mono)
        {
            return 0;
        }

        return view.Signal.Into(track.Id).Any(f => f.Gain.LL != 0) ? -PairOffset : PairOffset;
    }

    private void ConnectBuses(SplitView view, ImmutableArray<DrawnRail>.Builder rails)
    {
        var inLoop = view.Signal.Loops.SelectMany(l => l).ToHashSet();
        var depth = 0;
        foreach (var feed in view.Signal.BusFeeds)
        {
            if (Tracks.FirstOrDefault(t => t.Track.Id == feed.FromTrackId) is not { } from || Tracks.FirstOrDefault(t => t.Track.Id == feed.ToTrackId) is not { } to)
            {
                continue;
            }

            var x = TrackX - 20 - 8 * depth++;
            var loop = inLoop.Contains(feed.FromTrackId) && inLoop.Contains(feed.ToTrackId);
            var low = from.At.Y + 8;
            rails.Add(new DrawnRail(
                loop ? RailKind.Loop : RailKind.Line,
                from.Track.Width,
                null,
                from == to
                    ? [new Point(TrackX, low), new Point(x + 4, low), new Point(x, low - 4), new Point(x, from.At.Y + 4), new Point(x + 4, from.At.Y), from.At]
                    : [new Point(TrackX, low), new Point(x + 4, low), new Point(x, low + (to.At.Y > low ? 4 : -4)), new Point(x, to.At.Y + (to.At.Y > low ? -4 : 4)), new Point(x + 4, to.At.Y), to.At],
                [Place.Of(from.Track).Key, Place.Of(to.Track).Key]));
        }
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
        return Math.Abs(fall) <= 2 * Corner
            ? [from, new Point(turn - corner, from.Y), new Point(turn + corner, to.Y), to]
            : [from, new Point(turn - corner, from.Y), new Point(turn, from.Y + step), new Point(turn, to.Y - step), new Point(turn + corner, to.Y), to];
    }
}
