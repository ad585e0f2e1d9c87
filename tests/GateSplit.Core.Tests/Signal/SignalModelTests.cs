using GateSplit.Core.Charts;
using GateSplit.Core.Demo;
using GateSplit.Core.Edits;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;
using GateSplit.Core.Tests.Documents;

namespace GateSplit.Core.Tests.Signal;

/// <summary>The gains of a split against a model that knows no matrices: one side of one element is sounded, and its amplitude followed from channel to channel.</summary>
public sealed class SignalModelTests
{
    public static TheoryData<int> Seeds => [.. Enumerable.Range(1, 6)];

    [Theory]
    [MemberData(nameof(Seeds))]
    public void Any_split_carries_what_is_found_by_following_each_channel(int seed)
    {
        var random = new Random(seed);
        var edits = new WildEdits(random);
        var split = seed % 2 == 0 ? DemoSessions.All[0].Split : Sessions.Laid(Shelf.Charts[seed % Shelf.Charts.Length]).Split;
        var compared = 0;
        for (var i = 0; i < 160; i++)
        {
            // What takes lines away is left out, so that something remains to be compared.
            var edit = i % 3 > 0 ? Recorder(random, split) : edits.Next(split);
            var takesAway = edit.GetType().Name.StartsWith("Remove", StringComparison.Ordinal) || edit is SetMode or UpdateChart;
            split = !takesAway && edit.Apply(split) is { Ok: true, Value: var after } ? after : split;
            compared += i % 40 == 39 ? Compare(split, inRig: false) + Compare(OnTheRig(random, split), inRig: true) : 0;
        }

        Assert.True(compared > 0, $"{compared} lines carried anything");
    }

    /// <summary>Edits of the recorder: buses, groups that sum, cables, inputs of all rows, inputs that are switched off.</summary>
    private static Edit Recorder(Random random, Split split)
    {
        var tracks = split.Tracks.Select(t => t.Id).ToList();
        var track = tracks.Count == 0 ? new TrackId("t1") : tracks[random.Next(tracks.Count)];
        var bank = split.Banks[random.Next(split.Banks.Length)];
        var input = new InputRef(bank.Id, random.Next(1, bank.Count + 1));
        var bus = new InputRef(split.Banks.Last(b => b.Kind is BankKind.Buses or BankKind.Loopback).Id, random.Next(1, 5));
        return random.Next(14) switch
        {
            0 => new SetTrackInput(track, input),
            1 or 2 => new SetTrackBus(track, bus),
            3 => new SetTrackInput(track, bus),
            4 => new SetTrackLevel(track, new Decibels(random.Next(-20, 7))),
            5 => new SetTrackPan(track, new Pan(random.NextDouble() * 2 - 1)),
            6 => new SetTrackWidth(track, (Width)random.Next(1, 3)),
            7 => new AddTrackGroup("Sum", true),
            8 when !split.TrackGroups.IsEmpty => new PutInGroup(track, split.TrackGroups[random.Next(split.TrackGroups.Length)].Id),
            9 when !split.TrackGroups.IsEmpty => new SetTrackGroup(split.TrackGroups[random.Next(split.TrackGroups.Length)] with { Bus = bus, LevelDb = new Decibels(random.Next(-9, 4)) }),
            10 => new SetBank(bank with { Off = random.Next(3) == 0 ? [random.Next(1, bank.Count + 1)] : [], OutboardDb = new Decibels(bank.Kind == BankKind.Loopback ? random.Next(-12, 13) : 0) }),
            11 when split.Banks.Count(b => b.Kind == BankKind.Loopback) == 0 => new AddBank(BankKind.Loopback, "Back", 4),
            12 => new PlugCables(split.Units[random.Next(split.Units.Length)].Id, random.Next(1, 5), random.Next(1, 3), input),
            _ => new SetMonitor(track, (MonitorMode)random.Next(0, 3)),
        };
    }

    /// <summary>The same with some settings not made and two cables crossed, of which the split itself says nothing.</summary>
    private static Split OnTheRig(Random random, Split split)
    {
        var at = split.Banks.Where(b => b.Kind != BankKind.Buses).SelectMany(b => Enumerable.Range(1, b.Count).Select(c => new InputRef(b.Id, c))).ToArray();
        random.Shuffle(at);
        return split with
        {
            Units = [.. split.Units.Select(u => u with { Simulated = new SimulatedUnit { NotMade = [.. Enumerable.Range(0, u.Chart.Settings.Length).Where(_ => random.Next(4) == 0)] } })],
            Interface = new SimulatedInterface { Crossed = at.Length < 2 ? [] : [new CrossedInputs(at[0], at[1])] },
        };
    }

    private static int Compare(Split split, bool inRig)
    {
        var signal = inRig ? SplitSignal.InRig(split) : SplitSignal.Of(split);
        var carried = 0;
        foreach (var unit in split.Units)
        {
            foreach (var element in unit.Chart.Elements)
            {
                var at = new ElementRef(unit.Id, element.Id);
                var left = new Model(split, unit, element, 0, inRig);
                var right = new Model(split, unit, element, 1, inRig);
                Assert.Equal(left.Ports.Union(right.Ports).Order(), signal.PortsOf(at).Select(f => f.Port).Order());
                var reaching = signal.Reaching(at).ToDictionary(c => c.TrackId);
                foreach (var track in split.Tracks)
                {
                    var found = reaching.GetValueOrDefault(track.Id);
                    var direct = found?.Gain ?? Gain2x2.Zero;
                    var wet = found?.ThroughReturn ?? Gain2x2.Zero;
                    Same(left.In(track), (direct.LL, direct.RL), track, at);
                    Same(right.In(track), (direct.LR, direct.RR), track, at);
                    Same(left.WetIn(track), (wet.LL, wet.RL), track, at);
                    Same(right.WetIn(track), (wet.LR, wet.RR), track, at);
                    carried += direct.IsZero ? 0 : 1;
                }
            }
        }

        return carried;
    }

    private static void Same((double Left, double Right) expected, (double Left, double Right) found, Track track, ElementRef element)
    {
        bool Near(double a, double b) => Math.Abs(a - b) <= 1e-9 * Math.Max(1, Math.Abs(a));
        Assert.True(Near(expected.Left, found.Left) && Near(expected.Right, found.Right), $"{element} in {track.Id}: {found} instead of {expected}");
    }

    /// <summary>One side of one element, sounded at amplitude 1 before its fader.</summary>
    private sealed class Model
    {
        private readonly Split _split;
        private readonly Unit _unit;
        private readonly ChartElement _element;
        private readonly int _side;
        private readonly bool _inRig;
        private readonly Dictionary<int, double> _gate = []; // by channel of the unit

        public Model(Split split, Unit unit, ChartElement element, int side, bool inRig)
        {
            (_split, _unit, _element, _side, _inRig) = (split, unit, element, side, inRig);
            if (side < (int)element.Width && element.Kind != ElementKind.NoteOnly && !(element.Kind == ElementKind.External && Lacks(SettingEffect.NoExternal)))
            {
                Leave();
            }
        }

        public HashSet<int> Ports { get; } = [];

        public (double Left, double Right) In(Track track) => Heard(track, [track.Id], _gate);

        /// <summary>As far as the unit's returns, and on from each of them.</summary>
        public (double Left, double Right) WetIn(Track track)
        {
            var set = _unit.Elements.First(e => e.ElementId == _element.Id);
            if (_element.Kind == ElementKind.Return || set.Muted || (set.SendDb ?? _element.SendDb) is not { } send || _side >= (int)_element.Width)
            {
                return default;
            }

            var level = Amplitude(send.Value + set.FaderDb.Value);
            var (toLeft, toRight) = Pair((set.SendPan ?? set.MusicalPan ?? set.Pan).Value, _element.Width, _side);
            var sum = (Left: 0.0, Right: 0.0);
            foreach (var back in _unit.Chart.Elements.Where(e => e.Kind == ElementKind.Return))
            {
                var (l, r) = (new Model(_split, _unit, back, 0, _inRig).In(track), new Model(_split, _unit, back, 1, _inRig).In(track));
                sum.Left += level * (toLeft * l.Left + toRight * r.Left);
                sum.Right += level * (toLeft * l.Right + toRight * r.Right);
            }

            return sum;
        }

        private static double Amplitude(double dB) => Math.Pow(10, dB / 20);

        /// <summary>How much of a side stands left and right in a pair: mono with equal power, stereo by balance.</summary>
        private static (double Left, double Right) Pair(double pan, Width width, int side) => (width, side) switch
        {
            (Width.Mono, _) => pan <= -1 ? (1, 0) : pan >= 1 ? (0, 1) : (Math.Cos((pan + 1) * Math.PI / 4), Math.Sin((pan + 1) * Math.PI / 4)),
            (_, 0) => (pan > 0 ? 1 - pan : 1, 0),
            _ => (0, pan < 0 ? 1 + pan : 1),
        };

        private bool Lacks(SettingEffect effect) => _inRig && _unit.Simulated.NotMade.Any(n => _unit.Chart.Settings[n].Effect == effect);

        private void Leave()
        {
            var set = _unit.Elements.First(e => e.ElementId == _element.Id);
            set = Lacks(SettingEffect.AllInMain) ? set with { Port = null, InMain = true } : Lacks(SettingEffect.AlsoInMain) ? set with { InMain = true } : set;
            var chain = new List<UnitGroup>();
            int? groupPort = null;
            for (var name = set.FollowsGroup && set.Port is null ? _element.Group : null; name is not null && groupPort is null;)
            {
                var group = _unit.Chart.Groups.FirstOrDefault(g => g.Name == name);
                if (group is null)
                {
                    break;
                }

                var own = _unit.Groups.FirstOrDefault(g => g.Name == name) ?? new UnitGroup(name) { Port = group.Port, FaderDb = group.FaderDb };
                chain.Add(own);
                (groupPort, name) = (own.Port, group.Parent);
            }

            if (set.Muted)
            {
                return;
            }

            foreach (var (send, before) in chain.Where(g => g.Straight is not null).Select(g => (g.Straight!, Amplitude(set.FaderDb.Value))).Concat(set.Straight is { } own ? [(own, 1.0)] : []))
            {
                var port = _unit.Chart.Ports.First(p => p.Number == send.Port);
                if (_unit.Exposes(port.Number) && (port.IsMain || !Lacks(SettingEffect.MainOnly)))
                {
                    Place(port, before * Amplitude(send.LevelDb.Value), set.MusicalPan ?? set.Pan, usual: false);
                }
            }

            if (chain.Any(g => g.Muted))
            {
                return;
            }

            var main = _unit.Chart.Ports.First(p => p.IsMain).Number;
            int?[] ports = [set.Port, groupPort, set.InMain && groupPort is null ? main : null];
            foreach (var port in _unit.Chart.Ports.Where(p => ports.Contains(p.Number) && _unit.Exposes(p.Number) && (p.IsMain || !Lacks(SettingEffect.MainOnly))))
            {
                var level = chain.Aggregate(port.Tap == Tap.BeforeFader ? 1 : Amplitude(set.FaderDb.Value), (g, c) => g * Amplitude(c.FaderDb.Value));
                Place(port, level, set.Pan, usual: true);
            }
        }

        private void Place(ChartPort port, double level, Pan pan, bool usual)
        {
            var (left, right) = (port.Width, _element.Width) switch
            {
                (Width.Mono, Width.Mono) => (1.0, 0.0),
                (Width.Mono, _) => (0.5, 0.0),
                _ => Pair(pan.Value, _element.Width, _side),
            };
            var trim = _unit.PortLevels.Where(p => p.Port == port.Number).Sum(p => p.LevelDb.Value);
            Put(port, 0, Amplitude(trim) * level * left, usual);
            Put(port, 1, Amplitude(trim) * level * right, usual);
        }

        private void Put(ChartPort port, int side, double amplitude, bool usual)
        {
            if (amplitude != 0)
            {
                if (usual)
                {
                    Ports.Add(port.Number);
                }

                _gate[port.FirstChannel + side] = _gate.GetValueOrDefault(port.FirstChannel + side) + amplitude;
            }
        }

        private (double Left, double Right) Heard(Track track, HashSet<TrackId> way, Dictionary<int, double> gate)
        {
            var sides = new double[2];
            for (var side = 0; side < (int)track.Width && track.Input is not null; side++)
            {
                var input = new InputRef(track.Input.BankId, track.Input.Channel + side);
                var bank = _split.Banks.First(b => b.Id == input.BankId);
                if (bank.Off.Contains(input.Channel))
                {
                    continue;
                }

                // What arrives here was meant for here, or for the input with which this one is crossed.
                var crossed = _split.Interface.Crossed.FirstOrDefault(c => _inRig && (c.A == input || c.B == input));
                var meant = crossed is null ? input : crossed.A == input ? crossed.B : crossed.A;
                sides[side] += _split.Banks.Any(b => b.Id == meant.BankId && b.UnitId == _unit.Id && b.Connected) ? gate.GetValueOrDefault(meant.Channel) * Amplitude(bank.OutboardDb.Value) : 0;
                sides[side] += _split.Cables.Where(c => c.UnitId == _unit.Id && c.Input == meant && (c.Pass ?? track.Pass) == track.Pass)
                    .Sum(c => gate.GetValueOrDefault(c.Channel) * Amplitude(bank.OutboardDb.Value));
                foreach (var from in _split.Tracks.Where(t => t.Pass == track.Pass && !way.Contains(t.Id)))
                {
                    sides[side] += OnBus(from, input, bank, [.. way, from.Id], gate);
                }
            }

            return (sides[0], sides[1]);
        }

        /// <summary>What a track puts on a channel of a bus.</summary>
        private double OnBus(Track from, InputRef channel, Bank bank, HashSet<TrackId> way, Dictionary<int, double> gate)
        {
            var group = _split.TrackGroups.FirstOrDefault(g => g.Id == from.GroupId);
            var sums = group is { Sums: true };

            // From sum to sum as far as they lead, and all that turn the track up and down beside them.
            var groups = _split.TrackGroups.Where(g => !g.Sums && (from.GroupId == g.Id || from.LevelGroups.Contains(g.Id))).ToList();
            for (var sum = sums ? group : null; sum is not null; sum = _split.TrackGroups.FirstOrDefault(g => g.Id == sum.ParentId))
            {
                groups.Add(sum);
            }

            var bus = sums ? groups[^1].Bus : from.Bus;
            var heard = from.Live || from.Monitor == MonitorMode.Always || (from.Monitor == MonitorMode.WhileArmed && from.Armed);
            var at = channel.Channel - (bus?.Channel ?? 0);
            if (bus?.BankId != channel.BankId || !heard || at < 0 || at >= (sums ? 2 : (int)from.Width))
            {
                return 0;
            }

            var (left, right) = Heard(from, way, gate);
            var level = Amplitude(from.LevelDb.Value + groups.Sum(g => g.LevelDb.Value) + bank.OutboardDb.Value);
            if (!sums)
            {
                return level * (at == 0 ? left : right);
            }

            var (ofLeft, ofRight) = (Pair(from.Pan.Value, from.Width, 0), Pair(from.Pan.Value, from.Width, 1));
            return level * (from.Width == Width.Mono ? (at == 0 ? ofLeft.Left : ofLeft.Right) * left : at == 0 ? ofLeft.Left * left : ofRight.Right * right);
        }
    }
}
