using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>A track with what it is meant for, and the input where that really arrives.</summary>
/// <param name="Track">The track.</param>
/// <param name="Unit">The source of what it is meant for.</param>
/// <param name="Element">What it is meant for, or the first of it.</param>
/// <param name="Port">The port by which that leaves.</param>
/// <param name="Side">The side of it for a mono track: 0 left or the whole of a mono port, 1 right.</param>
/// <param name="Wanted">The input where it arrives, or the first of a pair.</param>
/// <param name="IsRight">True if it arrives in the track.</param>
internal sealed record WantedLine(Track Track, Unit Unit, ElementRef Element, ChartPort Port, int Side, InputRef Wanted, bool IsRight)
{
    /// <summary>How many inputs too high it listens.</summary>
    public int Step => (Track.Input?.Channel ?? Wanted.Channel) - Wanted.Channel;

    /// <summary>True if it listens to its port, but on the other side.</summary>
    public bool IsOnOtherSide => Port.Width == Width.Stereo && Track.Width == Width.Mono && Track.Input is { } input
        && input.BankId == Wanted.BankId && input.Channel == Wanted.Channel + (Side == 0 ? 1 : -1);

    /// <summary>Looks where something arrives that a track is meant for.</summary>
    /// <returns>Null if nobody knows what it is meant for, or it leaves nowhere: then other checks speak.</returns>
    public static WantedLine? Of(SplitView view, Track track)
    {
        var meaning = view.MeaningOf(track);
        var elements = meaning.Elements.Where(view.Sounding.Contains).ToList();
        foreach (var element in elements)
        {
            var (_, unit, _, set) = view.ElementOf(element);
            foreach (var feed in WaysOf(view, element, meaning.Straight).OrderBy(f => unit.Chart.Port(f.Port)!.IsMain))
            {
                var port = unit.Chart.Port(feed.Port)!;
                if (!meaning.Straight && port.IsMain && unit.AssignedPort(set) is { } own && own != port.Number)
                {
                    continue;
                }

                var side = track.Width == Width.Mono && port.Width == Width.Stereo && !feed.Gain.ReachesLeft ? 1 : 0;
                if (view.Split.InputOf(unit, port.FirstChannel + side, track.Pass) is { } input && view.Split.Bank(input.BankId)?.Trouble(input.Channel, track.Width) is null)
                {
                    return new WantedLine(track, unit, element, port, side, input, track.Input == input || IsIn(view, track, elements, meaning.Straight));
                }
            }
        }

        return Muted(view, track, elements);
    }

    /// <summary>What is muted leaves nowhere, but a track that waits on no input for it, or hears something else meanwhile, is wrong all the same.</summary>
    private static WantedLine? Muted(SplitView view, Track track, List<ElementRef> elements)
    {
        if (elements is not [var muted, ..] || view.ElementOf(muted) is not { Set.Muted: true } of || of.Unit.PortOf(of.Set) is not { } port || !of.Unit.Exposes(port.Number))
        {
            return null;
        }

        var side = track.Width == Width.Mono && port.Width == Width.Stereo && of.Set.Pan == Pan.HardRight ? 1 : 0;
        return view.Split.InputOf(of.Unit, port.FirstChannel + side, track.Pass) is { } wanted && track.Input != wanted
            && view.Split.Bank(wanted.BankId)?.Trouble(wanted.Channel, track.Width) is null
            && (track.Input is null || (!view.SoundingIn(track).IsEmpty && !HearsPort(view, track, of.Unit.Id, port.Number)))
            ? new WantedLine(track, of.Unit, muted, port, side, wanted, false)
            : null;
    }

    private static bool HearsPort(SplitView view, Track track, UnitId unit, int port) => view.Signal.Into(track.Id).Any(f => f.UnitId == unit && f.Port == port);

    /// <summary>Whether any of it arrives in a track otherwise than with the whole main mix; one that has nowhere else to leave by may arrive with it.</summary>
    private static bool IsIn(SplitView view, Track track, List<ElementRef> elements, bool straight) => straight ? elements.Any(e => HearsLine(view, track, e, straight)) : elements.Any(e =>
        view.SoundingIn(track).Contains(e)
        && (!view.Signal.IsStraight(e, track.Id) || !HasStraightTrack(view, e))
        && (!HearsMix(view, track, e.UnitId) || view.Signal.PortsOf(e).All(f => IsMain(view, f.UnitId, f.Port)) || HearsLine(view, track, e, straight)));

    /// <summary>Whether some track is meant for the straight send of an element: then the others are meant for its usual way.</summary>
    private static bool HasStraightTrack(SplitView view, ElementRef element) => view.Split.Tracks.Any(t => view.MeaningOf(t) is { Straight: true } meaning && meaning.Elements.Contains(element));

    private static bool HearsMix(SplitView view, Track track, UnitId unit) => view.Signal.Into(track.Id).Any(f => f.UnitId == unit && IsMain(view, f.UnitId, f.Port));

    private static bool HearsLine(SplitView view, Track track, ElementRef element, bool straight) => WaysOf(view, element, straight)
        .Where(f => !IsMain(view, f.UnitId, f.Port))
        .Any(f => view.Signal.Into(track.Id).Any(t => t.UnitId == f.UnitId && t.Port == f.Port && !t.Gain.After(f.Gain).IsZero));

    private static IEnumerable<PortFeed> WaysOf(SplitView view, ElementRef element, bool straight) => straight ? view.Signal.StraightOf(element) : view.Signal.PortsOf(element);

    private static bool IsMain(SplitView view, UnitId unit, int port) => view.Split.Unit(unit)!.Chart.Port(port)!.IsMain;

    /// <summary>The name of what it is meant for.</summary>
    public string What(SplitView view) => view.Split.NameOf(Meant.For(Element) with { Straight = view.MeaningOf(Track).Straight });

    /// <summary>", but Kick" before what is said of it; its name is left out where its track has just been named with it.</summary>
    public string But(SplitView view) => What(view) == Track.Title ? " but" : $", but {What(view)}";

    /// <summary>Where it listens now.</summary>
    public string Listens(SplitView view) => view.Split.InputName(Track);

    /// <summary>Where what it is meant for arrives.</summary>
    public string Arrives(SplitView view) => view.Split.InputName(Track with { Input = Wanted });

    /// <summary>The port that arrives where it listens, if what it is meant for could leave by it; null if it could not.</summary>
    public ChartPort? PortThatArrives(SplitView view)
    {
        var (_, unit, chart, set) = view.ElementOf(Element);
        return set.Port is null || Track.Input is not { } input || view.MeaningOf(Track) is { Elements.Length: > 1 } or { Straight: true }
            ? null
            : unit.Chart.Ports.FirstOrDefault(p => !p.IsMain
                && unit.Exposes(p.Number)
                && (int)p.Width >= (int)chart.Width
                && (chart.Ports.IsEmpty || chart.Ports.Contains(p.Number))
                && view.Split.InputOf(unit, p.FirstChannel + (p.Width == Width.Stereo ? Side : 0), Track.Pass) == input);
    }
}
