using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Signal;

/// <summary>What a split does to the sound: which element comes out of which port, arrives in which track, at what gain.</summary>
public sealed class SplitSignal
{
    private readonly ILookup<string, TrackFeed> _byTrack;
    private readonly ILookup<(string, int), TrackFeed> _hearing;
    private readonly ILookup<string, BusFeed> _byBusSource;
    private readonly ILookup<(string, int), PortFeed> _byPort;
    private readonly ILookup<ElementRef, PortFeed> _byElement;
    private readonly ILookup<ElementRef, Contribution> _contributions;
    private readonly ILookup<string, Contribution> _arriving;

    private SplitSignal(Split split)
    {
        Split = split;
        PortFeeds = [.. split.Units.SelectMany(FeedsOf)];
        TrackFeeds = [.. split.Tracks.SelectMany(t => FeedsOf(split, t))];
        BusFeeds = [.. split.Tracks.SelectMany(t => BusesOf(split, t))];
        Loops = LoopFinder.Find([.. split.Tracks.Select(t => t.Id)], [.. BusFeeds.Select(b => (b.FromTrackId, b.ToTrackId))]);
        _byTrack = TrackFeeds.ToLookup(f => f.TrackId);
        _hearing = TrackFeeds.ToLookup(f => (f.UnitId, f.Port));
        _byBusSource = BusFeeds.ToLookup(b => b.FromTrackId);
        _byPort = PortFeeds.ToLookup(f => (f.UnitId, f.Port));
        _byElement = PortFeeds.ToLookup(f => f.Element);
        Contributions = [.. split.Units.SelectMany(Contribute)];
        _contributions = Contributions.ToLookup(c => c.Element);
        _arriving = Contributions.ToLookup(c => c.TrackId);
    }

    /// <summary>The split it was computed from.</summary>
    public Split Split { get; }

    /// <summary>Every element at every port it comes out of; muted elements and ports the mode closes carry nothing.</summary>
    public ImmutableArray<PortFeed> PortFeeds { get; }

    /// <summary>Every port at every track that listens to it.</summary>
    public ImmutableArray<TrackFeed> TrackFeeds { get; }

    /// <summary>Every track at every track that hears it through a bus.</summary>
    public ImmutableArray<BusFeed> BusFeeds { get; }

    /// <summary>The tracks that hear themselves, each loop in the order the sound takes.</summary>
    public ImmutableArray<ImmutableArray<string>> Loops { get; }

    /// <summary>Every element in every track it arrives in.</summary>
    public ImmutableArray<Contribution> Contributions { get; }

    /// <summary>Computes the signal of a split.</summary>
    public static SplitSignal Of(Split split) => new(split);

    /// <summary>The elements that come out of a port.</summary>
    public IEnumerable<PortFeed> At(string unitId, int port) => _byPort[(unitId, port)];

    /// <summary>The ports an element comes out of.</summary>
    public IEnumerable<PortFeed> PortsOf(ElementRef element) => _byElement[element];

    /// <summary>The tracks that listen to a port.</summary>
    public IEnumerable<TrackFeed> Hearing(string unitId, int port) => _hearing[(unitId, port)];

    /// <summary>The ports a track listens to.</summary>
    public IEnumerable<TrackFeed> Into(string trackId) => _byTrack[trackId];

    /// <summary>The tracks an element arrives in.</summary>
    public IEnumerable<Contribution> Reaching(ElementRef element) => _contributions[element];

    /// <summary>The elements that arrive in a track.</summary>
    public IEnumerable<Contribution> In(string trackId) => _arriving[trackId];

    /// <summary>The gain of an element's send to the unit's return, after its fader; zero if it sends nothing.</summary>
    public static Gain2x2 SendGain(Unit unit, ChartElement chart)
    {
        var set = unit.Element(chart.Id);
        if (chart.SendDb is not { } sendDb || set.Muted)
        {
            return Gain2x2.Zero;
        }

        var shape = chart.Width == Width.Mono ? Gain2x2.Pan(set.Pan) : Gain2x2.Balance(set.Pan);
        return (new Decibels(sendDb) + new Decibels(set.FaderDb)).Ratio * shape;
    }

    private static IEnumerable<PortFeed> FeedsOf(Unit unit)
    {
        var settings = unit.Elements.ToDictionary(e => e.ElementId);
        foreach (var chart in unit.Chart.Elements)
        {
            var set = settings[chart.Id];
            var main = unit.Chart.MainPort.Number;
            if (chart.Kind == ElementKind.NoteOnly)
            {
                continue;
            }

            var groups = unit.GroupsOf(set).ToList();
            var ports = new SortedSet<int>();
            if (unit.AssignedPort(set) is { } assigned)
            {
                ports.Add(assigned);
            }

            // An element that follows a group with a port goes where the group goes, and not into the main mix as well.
            if (set.InMain && groups.All(g => g.Port is null))
            {
                ports.Add(main);
            }

            foreach (var port in ports.Where(unit.Exposes).Select(n => unit.Chart.Port(n)).OfType<ChartPort>())
            {
                var gain = groups.Aggregate(ToPort(chart, set, port), (gain, g) => (g.Muted ? 0 : new Decibels(g.FaderDb).Ratio) * gain);
                if (!gain.IsZero)
                {
                    yield return new PortFeed(new ElementRef(unit.Id, chart.Id), unit.Id, port.Number, gain);
                }
            }
        }
    }

    private static Gain2x2 ToPort(ChartElement element, UnitElement set, ChartPort port)
    {
        if (set.Muted)
        {
            return Gain2x2.Zero;
        }

        var shape = (element.Width, port.Width) switch
        {
            (Width.Mono, Width.Mono) => new Gain2x2(1, 0, 0, 0),
            (Width.Mono, _) => Gain2x2.Pan(set.Pan),
            (_, Width.Mono) => Gain2x2.SumToMono,
            _ => Gain2x2.Balance(set.Pan),
        };
        return port.Tap == Tap.BeforeFader ? shape : new Decibels(set.FaderDb).Ratio * shape;
    }

    private static IEnumerable<TrackFeed> FeedsOf(Split split, Track track)
    {
        if (track.Input is not { } input || split.Bank(input.BankId) is not { UnitId: { } unitId } || split.Unit(unitId) is not { } unit)
        {
            yield break;
        }

        foreach (var port in unit.Chart.Ports)
        {
            var gain = Overlap(port.FirstChannel, port.Width, input.Channel, track.Width);
            if (!gain.IsZero)
            {
                yield return new TrackFeed(unit.Id, port.Number, track.Id, gain);
            }
        }
    }

    private static IEnumerable<BusFeed> BusesOf(Split split, Track from)
    {
        if (from.Bus is not { } bus || !from.Heard)
        {
            yield break;
        }

        foreach (var to in split.Tracks.Where(t => t.Input?.BankId == bus.BankId))
        {
            var gain = Overlap(bus.Channel, from.Width, to.Input!.Channel, to.Width);
            if (!gain.IsZero)
            {
                yield return new BusFeed(from.Id, to.Id, gain);
            }
        }
    }

    /// <summary>What of a row of channels a listener on the same row takes.</summary>
    private static Gain2x2 Overlap(int from, Width fromWidth, int to, Width toWidth)
    {
        double Same(int fromSide, int toSide) =>
            fromSide < (int)fromWidth && toSide < (int)toWidth && from + fromSide == to + toSide ? 1 : 0;

        return new Gain2x2(Same(0, 0), Same(1, 0), Same(0, 1), Same(1, 1));
    }

    private IEnumerable<Contribution> Contribute(Unit unit)
    {
        var returns = unit.Chart.Elements.Where(e => e.Kind == ElementKind.Return).Select(e => new ElementRef(unit.Id, e.Id)).ToList();
        foreach (var chart in unit.Chart.Elements)
        {
            var element = new ElementRef(unit.Id, chart.Id);
            var direct = Arrivals(element, Gain2x2.Unity);
            var send = SendGain(unit, chart);
            var wet = new Dictionary<string, Gain2x2>();
            if (!send.IsZero)
            {
                foreach (var (track, gain) in returns.SelectMany(r => Arrivals(r, send)))
                {
                    wet[track] = wet.GetValueOrDefault(track) + gain;
                }
            }

            foreach (var track in direct.Keys.Union(wet.Keys))
            {
                yield return new Contribution(element, track, direct.GetValueOrDefault(track), wet.GetValueOrDefault(track));
            }
        }
    }

    /// <summary>The gains at which an element, already under <paramref name="before"/>, arrives in tracks.</summary>
    private Dictionary<string, Gain2x2> Arrivals(ElementRef element, Gain2x2 before)
    {
        var arrivals = new Dictionary<string, Gain2x2>();
        foreach (var feed in _byElement[element])
        {
            foreach (var next in _hearing[(feed.UnitId, feed.Port)])
            {
                Arrive(next.TrackId, next.Gain.After(feed.Gain.After(before)), arrivals, []);
            }
        }

        return arrivals;
    }

    private void Arrive(string trackId, Gain2x2 gain, Dictionary<string, Gain2x2> arrivals, ImmutableHashSet<string> passed)
    {
        if (gain.IsZero || passed.Contains(trackId))
        {
            return;
        }

        arrivals[trackId] = arrivals.GetValueOrDefault(trackId) + gain;
        foreach (var next in _byBusSource[trackId])
        {
            Arrive(next.ToTrackId, next.Gain.After(gain), arrivals, passed.Add(trackId));
        }
    }
}
