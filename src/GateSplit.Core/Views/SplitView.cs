using System.Collections.Concurrent;
using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Views;

/// <summary>What a check looks at: a split, its signal, and which elements sound in the song.</summary>
public sealed class SplitView
{
    /// <summary>Below this, bleed counts as silence.</summary>
    private static readonly Decibels Inaudible = new(-80);

    private readonly Dictionary<ElementRef, (ElementRef Ref, Unit Unit, ChartElement Chart, UnitElement Set)> _byRef;
    private readonly HashSet<(UnitId UnitId, int Port)> _given;
    private readonly HashSet<InputRef> _waiting;
    private readonly Lazy<Dictionary<UnitId, List<ChartPort>>> _free;
    private readonly Lazy<HashSet<ElementRef>> _recorded;
    private readonly Lazy<SplitSignal> _rig;
    private readonly Dictionary<(UnitId UnitId, int Port), ImmutableArray<PortFeed>> _soundingAt;
    private readonly Dictionary<TrackId, ImmutableArray<ElementRef>> _soundingIn;
    private readonly ConcurrentDictionary<TrackId, Meaning> _meanings = new();

    /// <summary>What is looked at of a session: its split as its song plays it.</summary>
    /// <param name="split">The split.</param>
    /// <param name="song">The song.</param>
    /// <param name="space">What the recording needs and what is there; null if nobody knows.</param>
    public static SplitView Of(Split split, Song song, DiskSpace? space = null) => new(split, Core.Signal.Sounding.Elements(split, song), space) { Song = song.Read(split.Pass.TempoToMicrosecond) };

    /// <summary>Makes a view.</summary>
    /// <param name="split">The split.</param>
    /// <param name="sounding">The elements that sound.</param>
    /// <param name="space">What the recording needs and what is there; null if nobody knows.</param>
    public SplitView(Split split, ImmutableHashSet<ElementRef> sounding, DiskSpace? space = null)
    {
        Space = space;
        (Split, Whole) = (split, split);
        Sounding = sounding;
        Signal = SplitSignal.Of(split);
        Elements =
        [
            .. from unit in split.Units
               let settings = unit.Elements.ToDictionary(e => e.ElementId)
               from chart in unit.Chart.Elements
               select (new ElementRef(unit.Id, chart.Id), unit, chart, settings[chart.Id]),
        ];
        _byRef = Elements.ToDictionary(e => e.Ref);
        _given = [.. Elements.Where(e => e.Set.Port is not null).Select(e => (e.Unit.Id, e.Set.Port!.Value)), .. split.Units.SelectMany(u => u.StraightPorts.Select(p => (u.Id, p)))];
        _free = new(FreePorts);
        _rig = new(() => SplitSignal.InRig(split));
        _recorded = new(() => [.. ArmedTracks.SelectMany(t => SoundingIn(t))]);
        _waiting =
        [
            .. from track in split.Tracks
               where split.IsOff(track)
               from side in Enumerable.Range(0, (int)track.Width)
               select track.Input! with { Channel = track.Input.Channel + side },
        ];
        var heard = sounding.ToHashSet();
        SoundingElements = [.. Elements.Where(e => heard.Contains(e.Ref))];
        _soundingAt = Signal.PortFeeds.Where(f => heard.Contains(f.Element))
            .GroupBy(f => (f.UnitId, f.Port))
            .ToDictionary(g => g.Key, g => g.ToImmutableArray());
        _soundingIn = split.Tracks.ToDictionary(
            t => t.Id,
            t => Signal.In(t.Id).Where(c => !c.Gain.IsZero && heard.Contains(c.Element) && PlaysIn(c.Element, t.Pass)).Select(c => c.Element).ToImmutableArray());
    }

    private SplitView(SplitView other, DiskSpace space)
    {
        (Split, Signal, Sounding, Elements, SoundingElements) = (other.Split, other.Signal, other.Sounding, other.Elements, other.SoundingElements);
        (_byRef, _given, _waiting, Space) = (other._byRef, other._given, other._waiting, space);
        (_soundingAt, _soundingIn, _free, Whole, Pass) = (other._soundingAt, other._soundingIn, other._free, other.Whole, other.Pass);
        (Song, _meanings, _recorded, _rig) = (other.Song, other._meanings, other._recorded, other._rig);
    }

    /// <summary>The split, or the part of it that one pass records.</summary>
    public Split Split { get; }

    /// <summary>The whole split: what is added or put in order has its place among the tracks of all passes.</summary>
    public Split Whole { get; private init; }

    /// <summary>The pass that is looked at, from 1.</summary>
    public int Pass { get; private init; } = 1;

    /// <summary>Its signal.</summary>
    public SplitSignal Signal { get; }

    /// <summary>What the recording needs and what is there; null if nobody knows.</summary>
    public DiskSpace? Space { get; }

    /// <summary>The elements that sound.</summary>
    public ImmutableHashSet<ElementRef> Sounding { get; }

    /// <summary>What is played; null if only what sounds is known.</summary>
    public Song? Song { get; init; }

    /// <summary>The same song, played by another split.</summary>
    public SplitView On(Split split) => Song is { } song ? Of(split, song, Space) : new(split, Sounding, Space);

    /// <summary>What sounds and is in no file, as the split stands.</summary>
    public IEnumerable<ElementRef> InNoFile => SoundingElements.Where(e => e.Chart.Kind != ElementKind.NoteOnly && !_recorded.Value.Contains(e.Ref)).Select(e => e.Ref);

    /// <summary>True of a track that records a main mix beside the lines and is not heard: it doubles nothing.</summary>
    public bool IsReference(Track track) => !track.Heard && !track.MeantFor.IsEmpty && track.MeantFor.All(m => m.IsMix);

    /// <summary>True of a track that records the main mix of a source, as it is meant for or, where nobody says what it is meant for, as it listens: what the lines of that source add up to.</summary>
    public bool RecordsMix(Track track) => track.MeantFor.IsEmpty
        ? track.Input is { } input && Split.Banks.FirstOrDefault(b => b.Id == input.BankId)?.UnitId is { } unitId && Split.Unit(unitId) is { } unit
            && unit.Chart.Ports.FirstOrDefault(p => p.IsMain) is { } main && main.FirstChannel == input.Channel && main.Width == track.Width && SoundingIn(track).Length > 1
        : track.MeantFor.All(m => m.IsMix);

    /// <summary>True of a track that is meant for something that sounds and is in no file: then it matters though it is neither recorded nor heard.</summary>
    public bool IsMissed(Track track) => MeaningOf(track).Elements.Any(e => Sounding.Contains(e) && !_recorded.Value.Contains(e));

    /// <summary>What a track should hold.</summary>
    public Meaning MeaningOf(Track track) => _meanings.GetOrAdd(track.Id, _ => Meaning.Of(Split, track));

    /// <summary>The same with what the recording needs and what is there.</summary>
    public SplitView With(DiskSpace space) => new(this, space);

    /// <summary>The same as it will be once every source that needs it was started again.</summary>
    public SplitView Settled => Split.Units.All(u => !u.NeedsRestart)
        ? this
        : new SplitView(Split with { Units = [.. Split.Units.Select(u => u with { ModeInForceId = null, UnloadedPorts = [] })] }, Sounding, Space) { Song = Song };

    /// <summary>What a check looks at in one pass: elements that play in another one do not sound in it.</summary>
    /// <param name="pass">From 1.</param>
    public SplitView InPass(int pass) => new(
        Split.InPass(pass),
        Sounding.Except(Elements.Where(e => e.Set.Pass is { } only && only != pass).Select(e => e.Ref)),
        Space)
    {
        Song = Song,
        Whole = Whole,
        Pass = pass,
        RecordedElsewhere = [.. ArmedTracks.Where(t => t.Pass != pass).SelectMany(t => SoundingIn(t))],
    };

    /// <summary>What other passes than this one record: it may play in this one too, and is not lost for that.</summary>
    public ImmutableHashSet<ElementRef> RecordedElsewhere { get; private init; } = [];

    /// <summary>The tracks that a pass records.</summary>
    public IEnumerable<Track> ArmedTracks => Split.Tracks.Where(t => t.Armed);

    /// <summary>Every element with its unit, chart and settings.</summary>
    public ImmutableArray<(ElementRef Ref, Unit Unit, ChartElement Chart, UnitElement Set)> Elements { get; }

    /// <summary>Every element that sounds.</summary>
    public ImmutableArray<(ElementRef Ref, Unit Unit, ChartElement Chart, UnitElement Set)> SoundingElements { get; }

    /// <summary>The sounding elements that come out of a port.</summary>
    public ImmutableArray<PortFeed> SoundingAt(UnitId unitId, int port) =>
        _soundingAt.GetValueOrDefault((unitId, port), []);

    /// <summary>Where a track's sound comes from, in words: "Mudlark Nine port 3, USB 3".</summary>
    public string SourceOf(Track track) => string.Join(
        ", ",
        Signal.Into(track.Id).Where(f => !SoundingAt(f.UnitId, f.Port).IsEmpty).Select(f => $"{Split.Unit(f.UnitId)!.Name} port {f.Port}").Append(Split.InputName(track)));

    /// <summary>The sounding elements that arrive in a track by a direct path in the pass in which it is recorded.</summary>
    public ImmutableArray<ElementRef> SoundingIn(Track track) =>
        _soundingIn.GetValueOrDefault(track.Id, []);

    /// <summary>The port by which an element comes to a track, and what lies between the two; null if it comes by none.</summary>
    public TrackFeed? FeedOf(ElementRef element, Track track)
    {
        var ports = Signal.PortsOf(element).Select(p => p.Port).ToHashSet();
        return Signal.Into(track.Id).FirstOrDefault(f => f.UnitId == element.UnitId && ports.Contains(f.Port));
    }

    /// <summary>What a track is to the ear: the family of all that arrives in it.</summary>
    public Family? FamilyOf(Track track) => FamilyOf(SoundingIn(track));

    /// <summary>The one rule for the family of several elements: theirs if it is one, that of a mix if they are of several, none where there is nothing.</summary>
    public Family? FamilyOf(IEnumerable<ElementRef> elements) =>
        elements.Select(e => ElementOf(e).Chart.Family).Distinct().ToList() switch
        {
            [] => null,
            [var one] => one,
            _ => Family.RoomAndReturn,
        };

    /// <summary>An element with its unit, chart and settings.</summary>
    public (ElementRef Ref, Unit Unit, ChartElement Chart, UnitElement Set) ElementOf(ElementRef element) => _byRef[element];

    /// <summary>How an element is set.</summary>
    public UnitElement SettingsOf(ElementRef element) => _byRef[element].Set;

    /// <summary>How long an element rings after its last note, in seconds: its slowest voice as it is set and ridden, and a return's own time.</summary>
    public double RingSeconds(ElementRef element)
    {
        var (_, unit, chart, _) = _byRef[element];
        double Slowest(VoiceId voiceId) => Split.Rides
            .Where(r => r.Control == RideControl.Decay && r.Element.UnitId == unit.Id && unit.Chart.Element(r.Element.ElementId) is { } ridden && ridden.Hears.Any(h => !h.Bleed && h.VoiceId == voiceId))
            .SelectMany(r => r.Points.Select(p => p.Value)).DefaultIfEmpty(1).Max();
        return chart.ReturnSeconds + chart.Hears
            .Select(h => unit.Chart.Voices.First(v => v.Id == h.VoiceId).RingSeconds * unit.Voice(h.VoiceId).DecayScale * Slowest(h.VoiceId))
            .DefaultIfEmpty().Max();
    }

    /// <summary>What a loop is, and the track that should not be sent into it: with one, no pass can run.</summary>
    /// <param name="loop">One of <see cref="SplitSignal.Loops"/>.</param>
    public string Circle(ImmutableArray<TrackId> loop)
    {
        var titles = loop.Select(id => Split.Track(id)!.Title).ToList();
        return $"The sound runs in a circle and will feed back: {string.Join(", then ", titles.Append(titles[0]))}. Send {titles[^1]} to the main output instead.";
    }

    /// <summary>True of an element that plays in a pass.</summary>
    public bool PlaysIn(ElementRef element, int pass) => SettingsOf(element).Pass is not { } only || only == pass;

    /// <summary>True of an element that sounds, or whose microphone hears what its neighbours play.</summary>
    public bool HearsAnything(ElementRef element)
    {
        var (_, unit, chart, set) = ElementOf(element);
        return Sounding.Contains(element)
            || (Song is { } song && !set.Muted && chart.Hears.Any(h => h.Bleed && h.GainDb + set.BleedDb > Inaudible && Core.Signal.Sounding.Voices(unit, song).Contains(h.VoiceId)));
    }

    /// <summary>True of a track on which nothing arrives that plays in this song, or bleeds.</summary>
    public bool IsSilent(Track track) => !Signal.In(track.Id).Any(c => HearsAnything(c.Element));

    /// <summary>True of a track on which nothing arrives as the gear is set now, whatever the split says: its settings are not made, or cables are crossed.</summary>
    public bool IsSilentInRig(Track track) => !_rig.Value.In(track.Id).Any(c => HearsAnything(c.Element) && !Split.Unit(c.Element.UnitId)!.Lacks(SettingEffect.NoStart));

    /// <summary>True if any track listens to a port.</summary>
    public bool AnyTrackHears(UnitId unitId, int port) =>
        Signal.Hearing(unitId, port).Any();

    /// <summary>The sides of a port by which an element leaves.</summary>
    public static PortSides SidesOf(PortFeed feed) =>
        (feed.Gain.ReachesLeft ? PortSides.Left : PortSides.None) | (feed.Gain.ReachesRight ? PortSides.Right : PortSides.None);

    /// <summary>The sides of a port that a track takes.</summary>
    public PortSides SidesTaken(TrackId track, UnitId unitId, int port) => Sides(Signal.Into(track).Where(f => f.UnitId == unitId && f.Port == port));

    /// <summary>The sides of a port that any track takes.</summary>
    public PortSides SidesTaken(UnitId unitId, int port) => Sides(Signal.Hearing(unitId, port));

    private static PortSides Sides(IEnumerable<TrackFeed> feeds) => feeds.Aggregate(PortSides.None, (sides, f) => sides
        | (f.Gain.LL != 0 || f.Gain.RL != 0 ? PortSides.Left : PortSides.None)
        | (f.Gain.LR != 0 || f.Gain.RR != 0 ? PortSides.Right : PortSides.None));

    /// <summary>True if a track listens where a port arrives, but that input is switched off.</summary>
    public bool AnyTrackWaits(Unit unit, ChartPort port) => _waiting.Count > 0
        && Enumerable.Range(port.FirstChannel, (int)port.Width).SelectMany(c => Split.Arrivals(unit, c, null)).Any(_waiting.Contains);

    /// <summary>The first port of a unit that is open, allowed for the element, and carries nothing; null if there is none.</summary>
    public ChartPort? FreePort(Unit unit, ChartElement element) => _free.Value[unit.Id].FirstOrDefault(p =>
        (int)p.Width >= (int)element.Width && (element.Ports.IsEmpty || element.Ports.Contains(p.Number)));

    private Dictionary<UnitId, List<ChartPort>> FreePorts() => Split.Units.ToDictionary(
        u => u.Id,
        u => u.Chart.Ports.Where(p => !p.IsMain && u.Exposes(p.Number) && !_given.Contains((u.Id, p.Number))).ToList());

    /// <summary>The place in the order of tracks at which one that listens to an input does not break the order of the inputs: 0 for the first.</summary>
    public int PlaceFor(InputRef? input)
    {
        var alike = Whole.Tracks.Select((t, i) => (t.Input, Place: i)).Where(t => input is not null && t.Input?.BankId == input.BankId).ToList();
        return alike.Exists(t => t.Input!.Channel < input!.Channel) ? alike.Last(t => t.Input!.Channel < input!.Channel).Place + 1
            : alike.Count > 0 ? alike[0].Place
            : Whole.Tracks.Length;
    }

    /// <summary>A new armed track for an element that leaves by a port.</summary>
    public Track NewTrackFor(Unit unit, ChartElement element, ChartPort port) => NewTrack(element.Name, element.Width) with
    {
        Input = Split.InputOf(unit, port.FirstChannel),
        MeantFor = [Meant.For(new ElementRef(unit.Id, element.Id))],
    };

    /// <summary>A new armed track of this pass; if its name is taken in the split, a number follows it.</summary>
    public Track NewTrack(string name, Width width)
    {
        const int NumberRoom = 4;
        name = name[..Math.Min(name.Length, Names.Longest - NumberRoom)];
        var taken = Whole.Tracks.Select(t => t.Name).ToHashSet(StringComparer.OrdinalIgnoreCase);
        var free = Enumerable.Range(2, taken.Count + 1).Select(n => $"{name} {n}").Prepend(name).First(n => !taken.Contains(n));
        return new(Whole.NewTrackId(), free, width) { Pass = Pass };
    }
}
