using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Signal;

/// <summary>What a split does to the sound: which element comes out of which port, arrives in which track, at what gain.</summary>
public sealed class SplitSignal
{
    private readonly ILookup<TrackId, TrackFeed> _byTrack;
    private readonly ILookup<(UnitId, int), TrackFeed> _hearing;
    private readonly ILookup<TrackId, BusFeed> _byBusSource;
    private readonly ILookup<ElementRef, PortFeed> _byElement;
    private readonly ILookup<ElementRef, PortFeed> _usual;
    private readonly ILookup<ElementRef, Contribution> _contributions;
    private readonly ILookup<TrackId, Contribution> _arriving;

    private SplitSignal(Split split, bool inRig)
    {
        Split = split;
        PortFeeds = [.. split.Units.SelectMany(u => FeedsOf(u, inRig))];
        var arrivals = ArrivalsOf(split, inRig ? split.Interface.Arrival : input => input);
        TrackFeeds = [.. split.Tracks.SelectMany(t => FeedsOf(t, arrivals))];
        BusFeeds = [.. split.Tracks.SelectMany(t => BusesOf(split, t))];
        Loops = LoopFinder.Find([.. split.Tracks.Select(t => t.Id)], [.. BusFeeds.Select(b => (b.FromTrackId, b.ToTrackId))]);
        _byTrack = TrackFeeds.ToLookup(f => f.TrackId);
        _hearing = TrackFeeds.ToLookup(f => (f.UnitId, f.Port));
        _byBusSource = BusFeeds.ToLookup(b => b.FromTrackId);
        _byElement = PortFeeds.ToLookup(f => f.Element);
        _usual = PortFeeds.Where(f => !f.Straight).ToLookup(f => f.Element);
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
    public ImmutableArray<ImmutableArray<TrackId>> Loops { get; }

    /// <summary>Every element in every track it arrives in.</summary>
    public ImmutableArray<Contribution> Contributions { get; }

    /// <summary>Computes the signal of a split.</summary>
    public static SplitSignal Of(Split split) => new(split, inRig: false);

    /// <summary>
    /// Computes the signal as it really is in the simulated rig, where settings may not be made and cables may be
    /// crossed, of which the split says nothing.
    /// </summary>
    public static SplitSignal InRig(Split split) => new(
        split.Interface.RoundTripSamples is { } late
            ? split with { Banks = [.. split.Banks.Select(b => b.Kind == BankKind.Loopback ? b with { DelaySamples = late } : b)] }
            : split,
        inRig: true);

    /// <summary>The ports an element comes out of on its usual way.</summary>
    public IEnumerable<PortFeed> PortsOf(ElementRef element) => _usual[element];

    /// <summary>The ports an element is fed to beside its usual way.</summary>
    public IEnumerable<PortFeed> StraightOf(ElementRef element) => _byElement[element].Where(f => f.Straight);

    /// <summary>True if an element comes to a track only by ports that it is fed to beside its usual way.</summary>
    public bool IsStraight(ElementRef element, TrackId track)
    {
        bool Takes(PortFeed feed) => _byTrack[track].Any(t => t.UnitId == feed.UnitId && t.Port == feed.Port);
        return StraightOf(element).Any(Takes) && !PortsOf(element).Any(Takes);
    }

    /// <summary>The tracks that listen to a port.</summary>
    public IEnumerable<TrackFeed> Hearing(UnitId unitId, int port) => _hearing[(unitId, port)];

    /// <summary>The ports a track listens to.</summary>
    public IEnumerable<TrackFeed> Into(TrackId trackId) => _byTrack[trackId];

    /// <summary>Some tracks with all that feed them over buses.</summary>
    public ImmutableHashSet<TrackId> WithFeeding(IEnumerable<TrackId> trackIds)
    {
        var found = trackIds.ToHashSet();
        for (var before = -1; before != found.Count;)
        {
            before = found.Count;
            found.UnionWith(BusFeeds.Where(b => found.Contains(b.ToTrackId)).Select(b => b.FromTrackId).ToList());
        }

        return [.. found];
    }

    /// <summary>The tracks an element arrives in.</summary>
    public IEnumerable<Contribution> Reaching(ElementRef element) => _contributions[element];

    /// <summary>The elements that arrive in a track.</summary>
    public IEnumerable<Contribution> In(TrackId trackId) => _arriving[trackId];

    /// <summary>
    /// The gain of an element's send to the unit's return, after its fader; zero if it sends nothing. It follows the pan that the element has
    /// in the music, so that returns are the same however the lines were laid.
    /// </summary>
    public static Gain2x2 SendGain(Unit unit, ChartElement chart)
    {
        var set = unit.Element(chart.Id);
        if ((set.SendDb ?? chart.SendDb) is not { } sendDb || set.Muted || chart.Kind == ElementKind.Return)
        {
            return Gain2x2.Zero;
        }

        var pan = set.SendPan ?? set.MusicalPan ?? set.Pan;
        var shape = chart.Width == Width.Mono ? Gain2x2.Panned(pan) : Gain2x2.Balanced(pan);
        return (sendDb + set.FaderDb).Ratio * shape;
    }

    private static IEnumerable<PortFeed> FeedsOf(Unit unit, bool inRig)
    {
        bool Lacks(SettingEffect effect) => inRig && unit.Lacks(effect);
        var main = unit.Chart.MainPort.Number;
        var settings = unit.Elements.ToDictionary(e => e.ElementId, e => Really(e, Lacks(SettingEffect.AllInMain), Lacks(SettingEffect.AlsoInMain)));
        var open = unit.Chart.Ports
            .Where(p => unit.Exposes(p.Number) && (p.IsMain || !Lacks(SettingEffect.MainOnly)))
            .ToDictionary(p => p.Number);
        foreach (var chart in unit.Chart.Elements)
        {
            var set = settings[chart.Id];
            if (chart.Kind == ElementKind.NoteOnly || (chart.Kind == ElementKind.External && Lacks(SettingEffect.NoExternal)))
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

            foreach (var port in ports.Select(n => open.GetValueOrDefault(n)).OfType<ChartPort>())
            {
                var gain = groups.Aggregate(ToPort(chart, set, port), (gain, g) => (g.Muted ? 0 : g.FaderDb.Ratio) * gain);
                if (!gain.IsZero)
                {
                    yield return new PortFeed(new ElementRef(unit.Id, chart.Id), unit.Id, port.Number, unit.LevelOf(port.Number).Ratio * gain);
                }
            }

            foreach (var (send, ofGroup) in unit.StraightsOf(set))
            {
                if (open.GetValueOrDefault(send.Port) is { } port && !set.Muted)
                {
                    var level = send.LevelDb + unit.LevelOf(port.Number) + (ofGroup ? set.FaderDb : Decibels.Unity);
                    yield return new PortFeed(new ElementRef(unit.Id, chart.Id), unit.Id, port.Number, level.Ratio * Shape(chart, set.MusicalPan ?? set.Pan, port))
                    {
                        Straight = true,
                        Dry = send.BeforeEffects && chart.Insert is not null && !set.InsertOff,
                    };
                }
            }
        }
    }

    private static UnitElement Really(UnitElement set, bool allInMain, bool alsoInMain) =>
        allInMain ? set with { Port = null, InMain = true } : alsoInMain ? set with { InMain = true } : set;

    private static Gain2x2 ToPort(ChartElement element, UnitElement set, ChartPort port)
    {
        if (set.Muted)
        {
            return Gain2x2.Zero;
        }

        var shape = Shape(element, set.Pan, port);
        return port.Tap == Tap.BeforeFader ? shape : set.FaderDb.Ratio * shape;
    }

    private static Gain2x2 Shape(ChartElement element, Pan pan, ChartPort port) => (element.Width, port.Width) switch
    {
        (Width.Mono, Width.Mono) => new Gain2x2(1, 0, 0, 0),
        (Width.Mono, _) => Gain2x2.Panned(pan),
        (_, Width.Mono) => Gain2x2.SumToMono,
        _ => Gain2x2.Balanced(pan),
    };

    /// <summary>Every gate channel at every input it arrives on; inputs that are switched off take nothing.</summary>
    private static ILookup<InputRef, Arrival> ArrivalsOf(Split split, Func<InputRef, InputRef> place)
    {
        var on = split.Banks.ToDictionary(b => b.Id);
        var at = split.Units.ToDictionary(u => u.Id, u => (
            from port in u.Chart.Ports
            from channel in Enumerable.Range(port.FirstChannel, (int)port.Width)
            select (channel, port)).ToDictionary(c => c.channel, c => c.port));
        var arrivals = new List<(InputRef Input, Arrival Arrival)>();
        void Arrive(Unit unit, int channel, InputRef meant, int? pass)
        {
            var input = place(meant);
            if (on.TryGetValue(input.BankId, out var bank) && !bank.Off.Contains(input.Channel) && at[unit.Id].GetValueOrDefault(channel) is { } port)
            {
                arrivals.Add((input, new Arrival(unit.Id, port.Number, channel - port.FirstChannel, pass, bank.DelaySamples, bank.OutboardDb.Ratio, bank.OutboardDrive)));
            }
        }

        foreach (var unit in split.Units)
        {
            var own = split.BankOf(unit);
            for (var channel = 1; own.Connected && channel <= own.Count; channel++)
            {
                Arrive(unit, channel, new InputRef(own.Id, channel), null);
            }
        }

        foreach (var cable in split.Cables)
        {
            if (split.Unit(cable.UnitId) is { } unit)
            {
                Arrive(unit, cable.Channel, cable.Input, cable.Pass);
            }
        }

        return arrivals.ToLookup(a => a.Input, a => a.Arrival);
    }

    private static List<TrackFeed> FeedsOf(Track track, ILookup<InputRef, Arrival> arrivals)
    {
        var feeds = new List<TrackFeed>();
        for (var side = 0; side < (int)track.Width && track.Input is not null; side++)
        {
            foreach (var arrival in arrivals[track.Input with { Channel = track.Input.Channel + side }].Where(a => a.Pass is null || a.Pass == track.Pass))
            {
                var gain = arrival.Level * Side(arrival.Side, side);
                var at = feeds.FindIndex(f => f.UnitId == arrival.UnitId && f.Port == arrival.Port && f.DelaySamples == arrival.DelaySamples);
                if (at < 0)
                {
                    feeds.Add(new TrackFeed(arrival.UnitId, arrival.Port, track.Id, gain) { DelaySamples = arrival.DelaySamples, Drive = arrival.Drive });
                }
                else
                {
                    feeds[at] = feeds[at] with { Gain = feeds[at].Gain + gain };
                }
            }
        }

        return feeds;
    }

    private static Gain2x2 Side(int from, int to) => (from, to) switch
    {
        (0, 0) => new Gain2x2(1, 0, 0, 0),
        (1, 0) => new Gain2x2(0, 1, 0, 0),
        (0, _) => new Gain2x2(0, 0, 1, 0),
        _ => new Gain2x2(0, 0, 0, 1),
    };

    private static IEnumerable<BusFeed> BusesOf(Split split, Track from)
    {
        if (split.OutputOf(from) is not { } bus || !from.Heard || split.Bank(bus.BankId) is not { } bank)
        {
            yield break;
        }

        var summed = split.SumOf(from) is not null;
        var level = (split.MixLevel(from) + bank.OutboardDb).Ratio;
        foreach (var to in split.Tracks.Where(t => t.Input?.BankId == bus.BankId && t.Pass == from.Pass))
        {
            // A sum is a pair, in which each track stands where it is panned.
            var gain = summed
                ? Overlap(bank, bus.Channel, Width.Stereo, to).After(from.Width == Width.Mono ? Gain2x2.Panned(from.Pan) : Gain2x2.Balanced(from.Pan))
                : Overlap(bank, bus.Channel, from.Width, to);
            if (!gain.IsZero)
            {
                yield return new BusFeed(from.Id, to.Id, level * gain) { DelaySamples = bank.DelaySamples, Drive = bank.OutboardDrive };
            }
        }
    }

    /// <summary>What of a row of channels a listener on the same row takes.</summary>
    private static Gain2x2 Overlap(Bank bank, int from, Width fromWidth, Track to)
    {
        double Same(int fromSide, int toSide) =>
            fromSide < (int)fromWidth && toSide < (int)to.Width && from + fromSide == to.Input!.Channel + toSide && !bank.Off.Contains(from + fromSide) ? 1 : 0;

        return new Gain2x2(Same(0, 0), Same(1, 0), Same(0, 1), Same(1, 1));
    }

    private IEnumerable<Contribution> Contribute(Unit unit)
    {
        var wets = unit.Chart.Elements.Where(e => e.Kind == ElementKind.Return)
            .SelectMany(e => Arrivals(new ElementRef(unit.Id, e.Id)))
            .ToList();
        foreach (var chart in unit.Chart.Elements)
        {
            var element = new ElementRef(unit.Id, chart.Id);
            var direct = Arrivals(element);
            var send = wets.Count == 0 ? Gain2x2.Zero : SendGain(unit, chart);
            var wet = send.IsZero ? [] : wets.GroupBy(w => w.TrackId).ToDictionary(
                g => g.Key, g => g.Aggregate(Gain2x2.Zero, (sum, w) => sum + w.Gain.After(send)));
            foreach (var arrived in direct)
            {
                wet.Remove(arrived.TrackId, out var also);
                yield return new Contribution(element, arrived.TrackId, arrived.Gain, also) { DelaySamples = arrived.DelaySamples };
            }

            foreach (var (track, gain) in wet)
            {
                yield return new Contribution(element, track, Gain2x2.Zero, gain);
            }
        }
    }

    /// <summary>The tracks an element arrives in, with the gain from before its fader, and how late.</summary>
    private List<Arrived> Arrivals(ElementRef element)
    {
        var arrivals = new List<Arrived>();
        foreach (var feed in _byElement[element])
        {
            foreach (var next in _hearing[(feed.UnitId, feed.Port)])
            {
                Arrive(new Arrived(next.TrackId, next.Gain.After(feed.Gain), next.DelaySamples), arrivals, []);
            }
        }

        return arrivals;
    }

    private void Arrive(Arrived arrived, List<Arrived> arrivals, ImmutableHashSet<TrackId> passed)
    {
        if (arrived.Gain.IsZero || passed.Contains(arrived.TrackId))
        {
            return;
        }

        var at = arrivals.FindIndex(a => a.TrackId == arrived.TrackId);
        if (at < 0)
        {
            arrivals.Add(arrived);
        }
        else
        {
            arrivals[at] = arrived with { Gain = arrivals[at].Gain + arrived.Gain, DelaySamples = Math.Max(arrivals[at].DelaySamples, arrived.DelaySamples) };
        }

        foreach (var next in _byBusSource[arrived.TrackId])
        {
            Arrive(
                new Arrived(next.ToTrackId, next.Gain.After(arrived.Gain), arrived.DelaySamples + next.DelaySamples),
                arrivals,
                passed.Add(arrived.TrackId));
        }
    }

    /// <summary>A channel of a gate at an input.</summary>
    private sealed record Arrival(UnitId UnitId, int Port, int Side, int? Pass, int DelaySamples, double Level, double Drive);

    private readonly record struct Arrived(TrackId TrackId, Gain2x2 Gain, int DelaySamples);
}
