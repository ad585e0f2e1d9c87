using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Checks;

/// <summary>What a check looks at: a split, its signal, and which elements sound in the song.</summary>
public sealed class SplitView
{
    private readonly Dictionary<ElementRef, (ElementRef Ref, Unit Unit, ChartElement Chart, UnitElement Set)> _byRef;
    private readonly HashSet<(string UnitId, int Port)> _given;
    private readonly HashSet<InputRef> _waiting;

    /// <summary>Makes a view.</summary>
    /// <param name="split">The split.</param>
    /// <param name="sounding">The elements that sound.</param>
    /// <param name="room">What the recording needs and what is there; null if nobody knows.</param>
    public SplitView(Split split, ImmutableHashSet<ElementRef> sounding, Room? room = null)
    {
        Room = room;
        Split = split;
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
        _given = [.. Elements.Where(e => e.Set.Port is not null).Select(e => (e.Unit.Id, e.Set.Port!.Value))];
        _waiting =
        [
            .. from track in split.Tracks
               where split.IsOff(track)
               from side in Enumerable.Range(0, (int)track.Width)
               select track.Input! with { Channel = track.Input.Channel + side },
        ];
        SoundingElements = [.. Elements.Where(e => sounding.Contains(e.Ref))];
    }

    private SplitView(SplitView other, Room room)
    {
        (Split, Signal, Sounding, Elements, SoundingElements) = (other.Split, other.Signal, other.Sounding, other.Elements, other.SoundingElements);
        (_byRef, _given, _waiting, Room) = (other._byRef, other._given, other._waiting, room);
    }

    /// <summary>The split.</summary>
    public Split Split { get; }

    /// <summary>Its signal.</summary>
    public SplitSignal Signal { get; }

    /// <summary>What the recording needs and what is there; null if nobody knows.</summary>
    public Room? Room { get; }

    /// <summary>The elements that sound.</summary>
    public ImmutableHashSet<ElementRef> Sounding { get; }

    /// <summary>The same with what the recording needs and what is there.</summary>
    public SplitView With(Room room) => new(this, room);

    /// <summary>What a check looks at in one pass: elements that play in another one do not sound in it.</summary>
    /// <param name="pass">From 1.</param>
    public SplitView InPass(int pass) => new(
        Split.InPass(pass),
        Sounding.Except(Elements.Where(e => e.Set.Pass is { } only && only != pass).Select(e => e.Ref)),
        Room);

    /// <summary>The tracks that a pass records.</summary>
    public IEnumerable<Track> ArmedTracks => Split.Tracks.Where(t => t.Armed);

    /// <summary>Every element with its unit, chart and settings.</summary>
    public ImmutableArray<(ElementRef Ref, Unit Unit, ChartElement Chart, UnitElement Set)> Elements { get; }

    /// <summary>Every element that sounds.</summary>
    public ImmutableArray<(ElementRef Ref, Unit Unit, ChartElement Chart, UnitElement Set)> SoundingElements { get; }

    /// <summary>The sounding elements that come out of a port.</summary>
    public ImmutableArray<PortFeed> SoundingAt(string unitId, int port) =>
        [.. Signal.At(unitId, port).Where(f => Sounding.Contains(f.Element))];

    /// <summary>The sounding elements that arrive in a track by a direct path in the pass in which it is recorded.</summary>
    public ImmutableArray<ElementRef> SoundingIn(Track track) =>
        [.. Signal.In(track.Id).Where(c => Sounding.Contains(c.Element) && !c.Gain.IsZero && PlaysIn(c.Element, track.Pass)).Select(c => c.Element)];

    /// <summary>An element with its unit, chart and settings.</summary>
    public (ElementRef Ref, Unit Unit, ChartElement Chart, UnitElement Set) ElementOf(ElementRef element) => _byRef[element];

    /// <summary>How an element is set.</summary>
    public UnitElement SettingsOf(ElementRef element) => _byRef[element].Set;

    /// <summary>True of an element that plays in a pass.</summary>
    public bool PlaysIn(ElementRef element, int pass) => SettingsOf(element).Pass is not { } only || only == pass;

    /// <summary>True if any track listens to a port.</summary>
    public bool AnyTrackHears(string unitId, int port) =>
        Signal.Hearing(unitId, port).Any();

    /// <summary>True if a track listens where a port arrives, but that input is switched off.</summary>
    public bool AnyTrackWaits(Unit unit, ChartPort port) => _waiting.Count > 0
        && Enumerable.Range(port.FirstChannel, (int)port.Width).SelectMany(c => Split.Arrivals(unit, c, null)).Any(_waiting.Contains);

    /// <summary>The first port of a unit that is open, allowed for the element, and carries nothing; null if there is none.</summary>
    public ChartPort? FreePort(Unit unit, ChartElement element) => unit.Chart.Ports.FirstOrDefault(p =>
        !p.IsMain
        && unit.Exposes(p.Number)
        && (int)p.Width >= (int)element.Width
        && (element.Ports.IsEmpty || element.Ports.Contains(p.Number))
        && !_given.Contains((unit.Id, p.Number)));

    /// <summary>A new armed track for an element that leaves by a port.</summary>
    public Track NewTrackFor(Unit unit, ChartElement element, ChartPort port) =>
        new(Split.NewTrackId(), element.Name, element.Width)
        {
            Input = Split.InputOf(unit, port.FirstChannel),
        };
}
