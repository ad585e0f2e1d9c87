using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Drawing;

/// <summary>Where the elements, ports and tracks of a split stand on paper.</summary>
internal sealed class DrawingLayout
{
    private const double Heading = 34;
    private const double Margin = 10;

    private readonly SplitView _view;
    private readonly DrawingWish _wish;
    private readonly HashSet<Place>? _lines;
    private readonly ImmutableArray<DrawnUnit>.Builder _units = ImmutableArray.CreateBuilder<DrawnUnit>();
    private readonly ImmutableArray<DrawnElement>.Builder _elements = ImmutableArray.CreateBuilder<DrawnElement>();
    private readonly ImmutableArray<DrawnPort>.Builder _ports = ImmutableArray.CreateBuilder<DrawnPort>();
    private readonly ImmutableArray<DrawnFold>.Builder _folds = ImmutableArray.CreateBuilder<DrawnFold>();

    /// <summary>Places everything.</summary>
    /// <param name="view">The split, in the pass that is drawn.</param>
    /// <param name="wish">What of it.</param>
    /// <param name="numbers">The numbers of the tracks, of all passes.</param>
    public DrawingLayout(SplitView view, DrawingWish wish, IReadOnlyDictionary<TrackId, int> numbers)
    {
        (_view, _wish) = (view, wish);
        _lines = wish.Only is null ? null : LinesOf(view, wish.Only);
        var top = view.Split.Units.Aggregate(Margin, (y, unit) => Add(unit, y));
        (Units, Elements, Ports, Folds) = (_units.ToImmutable(), _elements.ToImmutable(), _ports.ToImmutable(), _folds.ToImmutable());
        Tracks = PlaceTracks(numbers);
        Height = Math.Max(top, Tracks.Select(t => t.At.Y + SplitDrawing.Row).DefaultIfEmpty().Max()) + 14;
    }

    /// <summary>Height of the drawing.</summary>
    public double Height { get; }

    /// <summary>The headings.</summary>
    public ImmutableArray<DrawnUnit> Units { get; }

    /// <summary>The left column.</summary>
    public ImmutableArray<DrawnElement> Elements { get; }

    /// <summary>The gate and the inputs.</summary>
    public ImmutableArray<DrawnPort> Ports { get; }

    /// <summary>Groups drawn as one row.</summary>
    public ImmutableArray<DrawnFold> Folds { get; }

    /// <summary>The right column.</summary>
    public ImmutableArray<DrawnTrack> Tracks { get; }

    /// <summary>The port whose rail leads on to a track; null if none is drawn.</summary>
    public DrawnPort? PortOf(Track track) => _view.Signal.Into(track.Id).FirstOrDefault() is { } feed
        ? Ports.FirstOrDefault(p => p.UnitId == feed.UnitId && p.Number == feed.Port)
        : Ports.FirstOrDefault(p => p.Input is { } at && track.Input is { } input
            && at.BankId == input.BankId && input.Channel >= at.Channel && input.Channel < at.Channel + (int)p.Width);

    /// <summary>Places a source below what stands above it.</summary>
    /// <returns>Where the next one begins.</returns>
    private double Add(Unit unit, double top)
    {
        var playing = _view.Elements.Where(e => e.Unit.Id == unit.Id && (_wish.Pass is null || _view.PlaysIn(e.Ref, _wish.Pass.Value))).ToList();
        var audible = playing
            .Where(e => _wish.WithSilent || _view.Sounding.Contains(e.Ref) || (e.Set.Port is not null && e.Chart.Port != e.Set.Port))
            .ToList();
        var folded = audible.Where(e => e.Chart.Group is { } g && _wish.Folded.Contains($"{unit.Id}/{g}")).ToLookup(e => e.Chart.Group!);
        var away = folded.SelectMany(g => g).Select(e => e.Ref).ToHashSet();
        bool Lost(ElementRef element) => away.Contains(element) || _lines?.Contains(Place.Of(element)) == false;
        var openings = unit.Chart.Ports.Where(p => !IsHidden(unit, p, Lost)).ToList();
        var shown = audible.Where(e => !Lost(e.Ref)).ToList();
        if (_lines is not null && shown.Count == 0 && openings.Count == 0)
        {
            return top;
        }

        var first = top + Heading;
        var rows = openings.Select((p, i) => (p.Number, Y: first + i * SplitDrawing.Row)).ToDictionary(p => p.Number, p => p.Y);
        var y = AddElements(unit, shown, rows, first);
        AddPorts(unit, openings, rows);
        y = AddFolds(unit, folded, Math.Max(y, rows.Values.DefaultIfEmpty(first - SplitDrawing.Row).Max()));
        var bottom = y + SplitDrawing.Row * 0.7;
        _units.Add(new DrawnUnit(unit.Id, unit.Name, unit.Mode.Name, top, bottom, playing.Count - audible.Count));
        return bottom + 6;
    }

    /// <summary>A port is left out if all that comes out of it is.</summary>
    private bool IsHidden(Unit unit, ChartPort port, Func<ElementRef, bool> isLost)
    {
        var feeds = _view.SoundingAt(unit.Id, port.Number);
        var onLine = _lines?.Contains(Place.OfPort(unit.Id, port.Number));
        return feeds.IsEmpty ? onLine == false : feeds.All(f => isLost(f.Element)) && onLine != true;
    }

    /// <summary>Each element stands level with its port where the order allows it.</summary>
    /// <returns>Where the last one stands.</returns>
    private double AddElements(
        Unit unit, List<(ElementRef Ref, Unit Unit, ChartElement Chart, UnitElement Set)> shown, Dictionary<int, double> rows, double first)
    {
        // What leaves by the main mix only stands level with it, where its rail crosses no other.
        var main = unit.Chart.MainPort.Number;
        var y = first - SplitDrawing.Row;
        foreach (var (element, _, chart, set) in shown.OrderByDescending(e => rows.ContainsKey(main) && e.Set.Port is null && unit.PortOf(e.Set)?.Number == main))
        {
            var port = unit.PortOf(set)?.Number;
            y = Math.Max(y + SplitDrawing.Row, port is { } number ? rows.GetValueOrDefault(number, first) : first);
            _elements.Add(new DrawnElement(element, chart.Name, chart.Family, chart.Width, _view.Sounding.Contains(element), port, new Point(SplitDrawing.ElementX, y)));
        }

        return y;
    }

    private void AddPorts(Unit unit, List<ChartPort> openings, Dictionary<int, double> rows)
    {
        foreach (var port in openings)
        {
            _ports.Add(new DrawnPort(
                unit.Id,
                port.Number,
                port.Name,
                _view.Split.PlaceOf(unit, port),
                _view.Split.InputOf(unit, port.FirstChannel),
                port.Width,
                port.IsMain,
                unit.Exposes(port.Number),
                _view.SoundingAt(unit.Id, port.Number).Length > 0,
                _view.AnyTrackHears(unit.Id, port.Number),
                new Point(SplitDrawing.GateX, rows[port.Number])));
        }
    }

    private double AddFolds(Unit unit, ILookup<string, (ElementRef Ref, Unit Unit, ChartElement Chart, UnitElement Set)> folded, double y)
    {
        foreach (var group in folded.Where(g => _lines is null || g.Any(e => _lines.Contains(Place.Of(e.Ref)))))
        {
            y += SplitDrawing.Row;
            _folds.Add(Fold(unit, group.Key, [.. group.Select(e => e.Ref)], new Point(SplitDrawing.ElementX, y)));
        }

        return y;
    }

    /// <summary>One row for a group: its ports and the tracks that carry nothing but it.</summary>
    private DrawnFold Fold(Unit unit, string group, HashSet<ElementRef> members, Point at)
    {
        var places = members.Select(Place.Of).ToHashSet();
        var tracks = _view.Split.Tracks.Where(t => _view.SoundingIn(t) is { IsEmpty: false } carried && carried.All(members.Contains)).ToList();
        places.UnionWith(tracks.Select(Place.Of));
        var ports = members.SelectMany(_view.Signal.PortsOf).Select(f => f.Port).Distinct().Order().ToList();
        places.UnionWith(ports.Where(p => _view.SoundingAt(unit.Id, p).All(f => members.Contains(f.Element))).Select(p => Place.OfPort(unit.Id, p)));
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

    /// <summary>Tracks keep their order; each stands level with its input where the order allows it.</summary>
    private ImmutableArray<DrawnTrack> PlaceTracks(IReadOnlyDictionary<TrackId, int> numbers)
    {
        var gone = Folds.SelectMany(f => f.Places).ToHashSet();
        var tracks = ImmutableArray.CreateBuilder<DrawnTrack>();
        var y = Margin + Heading - SplitDrawing.Row;
        foreach (var track in _view.Split.Tracks.Where(t => !gone.Contains(Place.Of(t)) && _lines?.Contains(Place.Of(t)) != false))
        {
            y = Math.Max(y + SplitDrawing.Row, PortOf(track)?.At.Y ?? 0);
            tracks.Add(new DrawnTrack(track, numbers[track.Id], _view.FamilyOf(track), _view.Split.InputName(track), new Point(SplitDrawing.TrackX, y)));
        }

        return tracks.ToImmutable();
    }

    /// <summary>The places on the lines of some places: an element with its ports and tracks, and so from every side.</summary>
    private static HashSet<Place> LinesOf(SplitView view, ImmutableHashSet<Place> only)
    {
        // A track with a whole mix is on everybody's line: a finding about it is about the mix.
        var mixes = view.Split.Tracks.Where(t => view.SoundingIn(t).Length > 2).Select(Place.Of).ToHashSet();
        var lines = only.ToHashSet();
        lines.UnionWith(view.Signal.TrackFeeds.Where(f => only.Contains(Place.Of(f.TrackId))).Select(f => Place.OfPort(f.UnitId, f.Port)));
        foreach (var (element, unit, _, set) in view.SoundingElements)
        {
            var way = view.Signal.PortsOf(element).Concat(view.Signal.StraightOf(element)).Select(f => Place.OfPort(unit.Id, f.Port))
                .Concat(view.Signal.Reaching(element).Where(c => !c.Gain.IsZero).Select(c => Place.Of(c.TrackId)))
                .Append(Place.Of(element))
                .ToList();
            if (way.Where(p => !mixes.Contains(p)).Any(only.Contains) || only.Contains(Place.Of(unit)))
            {
                lines.UnionWith(way);
                lines.UnionWith(unit.PortOf(set) is { } port ? [Place.OfPort(unit.Id, port.Number)] : []);
            }
        }

        return lines;
    }
}
