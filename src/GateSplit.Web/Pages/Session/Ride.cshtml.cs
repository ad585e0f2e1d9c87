using System.Numerics;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;
using GateSplit.Data;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;

namespace GateSplit.Web.Pages.Session;

/// <summary>The movement of a control of an element during the pass: drawn, written, or performed to what was printed last.</summary>
public sealed class RideModel(OpenSessions open, SessionStore sessions, TakeStore takes, JobStore jobs, IAudioStore store)
    : EditPage(open, sessions, takes, jobs, store)
{
    /// <summary>Width of the drawing.</summary>
    public const int Across = 1000;

    /// <summary>Height of the drawing.</summary>
    public const int Down = 300;

    private const int MostNumbers = 24;

    /// <summary>The element, such as "u1/kick".</summary>
    [BindProperty(SupportsGet = true, Name = "of")]
    public string? Element { get; set; }

    /// <summary>The control.</summary>
    [BindProperty(SupportsGet = true, Name = "control")]
    public RideControl Control { get; set; } = RideControl.Level;

    /// <summary>The element with its unit and settings.</summary>
    public (ElementRef Ref, Unit Unit, ChartElement Chart, UnitElement Set) Chosen { get; private set; }

    /// <summary>The elements that can be ridden.</summary>
    public IReadOnlyList<(ElementRef Ref, Unit Unit, ChartElement Chart, UnitElement Set)> Elements { get; private set; } = [];

    /// <summary>The ride as it is; null if there is none.</summary>
    public Ride? Ride => Split.Rides.FirstOrDefault(r => r.Element == Chosen.Ref && r.Control == Control);

    /// <summary>The points as they are written: "1 0, 2.5 -6".</summary>
    public string Points => string.Join(", ", Ride?.Points.Select(p => FormattableString.Invariant($"{p.Bar:0.###} {p.Value:0.##}")) ?? []);

    /// <summary>What was recorded of the element last, to perform to; null if nothing was.</summary>
    public TakeTrack? Heard { get; private set; }

    /// <summary>Seconds at which the bars begin, and at which the last one ends.</summary>
    public IEnumerable<double> BarSeconds => Enumerable.Range(0, Split.Pass.LengthBars + 1)
        .Select(bar => Session.Song.Tempos.ToFrames(Session.Song.Metres.BarStart(bar), Split.Pass.SampleRate).Seconds(Split.Pass.SampleRate));

    /// <summary>Every how many bars one is numbered, a power of two, so that the numbers stand apart.</summary>
    public int NumberedEvery => (int)BitOperations.RoundUpToPowerOf2((uint)(Split.Pass.LengthBars + MostNumbers - 1) / MostNumbers);

    /// <summary>The unit of a control's values.</summary>
    public static string UnitOf(RideControl control) => control switch
    {
        RideControl.Level or RideControl.Send => "dB",
        RideControl.Filter => "Hz",
        RideControl.Tune => "semitones",
        RideControl.Decay => "times",
        _ => "0 heard, 1 muted",
    };

    /// <inheritdoc/>
    protected override string Station => "split";

    /// <inheritdoc/>
    protected override string Address() => $"/sessions/{Id}/ride?of={Uri.EscapeDataString(Element ?? "")}&control={Control}";

    /// <inheritdoc/>
    protected override async Task<bool> Show()
    {
        if (!await Load(Station))
        {
            return false;
        }

        Elements = [.. Session.Lines.SoundingElements.Where(e => e.Chart.Kind != ElementKind.NoteOnly)];
        if (Elements.Count == 0)
        {
            return false;
        }

        Chosen = Elements.FirstOrDefault(e => e.Ref.ToString() == Element) is { Unit: not null } found ? found : Elements[0];
        Element = Chosen.Ref.ToString();
        var reached = Session.Lines.Signal.Reaching(Chosen.Ref).Select(c => c.TrackId).ToHashSet();
        Heard = (await Takes.Chosen(Id))?.Tracks.Where(t => reached.Contains(t.TrackId)).OrderByDescending(t => t.TakeNumber).FirstOrDefault();
        return true;
    }
}
