using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Checks;

/// <summary>What a check looks at: a split, its signal, and which elements sound in the song.</summary>
public sealed class SplitView
{
    private readonly Dictionary<ElementRef, UnitElement> _settings;
    private readonly HashSet<(string UnitId, int Port)> _given;

    /// <summary>Makes a view.</summary>
    /// <param name="split">The split.</param>
    /// <param name="sounding">The elements that sound.</param>
    public SplitView(Split split, ImmutableHashSet<ElementRef> sounding)
    {
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
        _settings = Elements.ToDictionary(e => e.Ref, e => e.Set);
        _given = [.. Elements.Where(e => e.Set.Port is not null).Select(e => (e.Unit.Id, e.Set.Port!.Value))];
        SoundingElements = [.. Elements.Where(e => sounding.Contains(e.Ref))];
    }

    /// <summary>The split.</summary>
    public Split Split { get; }

    /// <summary>Its signal.</summary>
    public SplitSignal Signal { get; }

    /// <summary>The elements that sound.</summary>
    public ImmutableHashSet<ElementRef> Sounding { get; }

    /// <summary>What a check looks at in one pass: elements that play in another one do not sound in it.</summary>
    /// <param name="pass">From 1.</param>
    public SplitView InPass(int pass) => new(
        Split.InPass(pass),
        Sounding.Except(Elements.Where(e => e.Set.Pass is { } only && only != pass).Select(e => e.Ref)));

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

    /// <summary>True of an element that plays in a pass.</summary>
    public bool PlaysIn(ElementRef element, int pass) => _settings[element].Pass is not { } only || only == pass;

    /// <summary>True if any track listens to a port.</summary>
    public bool AnyTrackHears(string unitId, int port) =>
        Signal.Hearing(unitId, port).Any();

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
            Input = new InputRef(Split.BankOf(unit).Id, port.FirstChannel),
        };
}
