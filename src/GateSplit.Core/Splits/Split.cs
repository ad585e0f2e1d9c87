using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Splits;

/// <summary>All the lines of a session: the document the user edits. Immutable; every change is an <see cref="Edit"/>.</summary>
/// <param name="Units">The sources.</param>
/// <param name="Banks">The recorder's inputs.</param>
/// <param name="Tracks">The recorder's tracks, in order.</param>
/// <param name="Pass">How a pass is recorded.</param>
public sealed record Split(
    ImmutableArray<Unit> Units, ImmutableArray<Bank> Banks, ImmutableArray<Track> Tracks, PassSettings Pass)
{
    /// <summary>Findings that are meant to be so.</summary>
    public ImmutableArray<AcceptedFinding> Accepted { get; init; } = [];

    /// <summary>Movements of controls during a pass.</summary>
    public ImmutableArray<Ride> Rides { get; init; } = [];

    /// <summary>Rolls, repeats and variations during a pass, in the order in which they were made.</summary>
    public ImmutableArray<PerformedStep> Steps { get; init; } = [];

    /// <summary>Lines that were heard and found right.</summary>
    public ImmutableArray<TickedLine> Ticked { get; init; } = [];

    /// <summary>Cables from sources to inputs.</summary>
    public ImmutableArray<Cable> Cables { get; init; } = [];

    /// <summary>How the simulated interface really behaves.</summary>
    public SimulatedInterface Interface { get; init; } = new();

    /// <summary>Groups of tracks.</summary>
    public ImmutableArray<TrackGroup> TrackGroups { get; init; } = [];

    /// <summary>How many passes it takes to record every armed track.</summary>
    public int Passes => Tracks.Where(t => t.Armed).Select(t => t.Pass).DefaultIfEmpty(1).Max();

    /// <summary>
    /// The split as it is in one pass: only the tracks of that pass, and elements that play in another one muted, or heard
    /// through a return of this pass alone.
    /// </summary>
    /// <param name="pass">From 1.</param>
    public Split InPass(int pass) => this with
    {
        Tracks = [.. Tracks.Where(t => t.Pass == pass)],
        Cables = Cables.RemoveAll(c => c.Pass is { } only && only != pass),
        Units = [.. Units.Select(u => InPass(u, pass))],
    };

    private static Unit InPass(Unit unit, int pass)
    {
        bool Waits(UnitElement e) => e.Pass is { } only && only != pass;
        if (!unit.Elements.Any(Waits))
        {
            return unit;
        }

        // A return that is recorded alone still has to be fed: then the others go to it and nowhere else.
        var fed = unit.Elements.Any(e => !Waits(e) && unit.Chart.Element(e.ElementId)?.Kind == ElementKind.Return);
        UnitElement Silenced(UnitElement e) => fed ? e with { Port = null, InMain = false, FollowsGroup = false, Straight = null } : e with { Muted = true };
        return unit with { Elements = [.. unit.Elements.Select(e => Waits(e) ? Silenced(e) : e)] };
    }

    /// <summary>Finds a unit; null if there is none.</summary>
    public Unit? Unit(UnitId id) => Units.FirstOrDefault(u => u.Id == id);

    /// <summary>Finds a bank; null if there is none.</summary>
    public Bank? Bank(BankId id) => Banks.FirstOrDefault(b => b.Id == id);

    /// <summary>Finds a track; null if there is none.</summary>
    public Track? Track(TrackId id) => Tracks.FirstOrDefault(t => t.Id == id);

    /// <summary>The bank on which a unit's ports arrive.</summary>
    public Bank BankOf(Unit unit) => Banks.First(b => b.UnitId == unit.Id);

    /// <summary>Finds a group of tracks; null if there is none.</summary>
    public TrackGroup? TrackGroup(TrackGroupId? id) => TrackGroups.FirstOrDefault(g => g.Id == id);

    /// <summary>The group that sums a track; null if none does.</summary>
    public TrackGroup? SumOf(Track track) => TrackGroup(track.GroupId) is { Sums: true } sum ? sum : null;

    /// <summary>The groups that only turn a track up and down.</summary>
    public IEnumerable<TrackGroup> LevelsOf(Track track) => TrackGroups.Where(g => !g.Sums && (g.Id == track.GroupId || track.LevelGroups.Contains(g.Id)));

    /// <summary>The groups that a group feeds, the nearest first; a circle of them ends where it begins.</summary>
    public IReadOnlyList<TrackGroup> Above(TrackGroup group)
    {
        var above = new List<TrackGroup>();
        for (var next = TrackGroup(group.ParentId); next is not null && !above.Contains(next); next = TrackGroup(next.ParentId))
        {
            above.Add(next);
        }

        return above;
    }

    /// <summary>The groups that sum a track, one feeding the next, the nearest first.</summary>
    public IReadOnlyList<TrackGroup> SumsOf(Track track) => SumOf(track) is { } sum ? [sum, .. Above(sum)] : [];

    /// <summary>Where a track is heard in the end: a bus, or null for the recorder's main output.</summary>
    public InputRef? OutputOf(Track track) => SumsOf(track) is [.., var last] ? last.Bus : track.Bus;

    /// <summary>A track's fader together with those of all its groups.</summary>
    public Decibels MixLevel(Track track) => SumsOf(track).Concat(LevelsOf(track)).Aggregate(track.LevelDb, (level, g) => level + g.LevelDb);

    /// <summary>Where a channel of a unit's gate arrives in a pass, or with null in any.</summary>
    public IEnumerable<InputRef> Arrivals(Unit unit, int channel, int? pass)
    {
        var own = BankOf(unit);
        if (own.Connected)
        {
            yield return new InputRef(own.Id, channel);
        }

        foreach (var cable in Cables.Where(c => c.UnitId == unit.Id && c.Channel == channel && (pass is null || c.Pass is null || c.Pass == pass)))
        {
            yield return cable.Input;
        }
    }

    /// <summary>The input on which a track would hear a channel of a unit's gate; null if nothing leads from it to the recorder.</summary>
    public InputRef? InputOf(Unit unit, int channel, int? pass = null) => Arrivals(unit, channel, pass).FirstOrDefault();

    /// <summary>"USB 3-4" for where a port arrives, "no input" if nothing leads from it to the recorder.</summary>
    public string PlaceOf(Unit unit, ChartPort port, int? pass = null) =>
        InputOf(unit, port.FirstChannel, pass) is { } input && Bank(input.BankId) is { } bank ? bank.InputName(input.Channel, port.Width) : "no input";

    /// <summary>True if a track listens to an input that is switched off.</summary>
    public bool IsOff(Track track) => track.Input is { } input && Bank(input.BankId) is { Off.IsEmpty: false } bank
        && Enumerable.Range(input.Channel, (int)track.Width).Any(bank.Off.Contains);

    /// <summary>"USB 3-4" for a track's input, "no input" for none.</summary>
    public string InputName(Track track) => track.Input is { } input && Bank(input.BankId) is { } bank
        ? bank.InputName(input.Channel, track.Width)
        : "no input";

    /// <summary>True if there is such an element.</summary>
    public bool HasElement(ElementRef element) => Unit(element.UnitId)?.Chart.Element(element.ElementId) is not null;

    /// <summary>True if there is such an input.</summary>
    public bool HasInput(InputRef input) => Fits(input, Width.Mono);

    /// <summary>True if there is such an input, and for a pair the one beside it.</summary>
    public bool Fits(InputRef input, Width width) =>
        Bank(input.BankId) is { } bank && input.Channel >= 1 && input.Channel <= bank.Count - (int)width + 1;

    /// <summary>The name of an element of this split, as its chart has it.</summary>
    public string NameOf(ElementRef element) => Unit(element.UnitId)?.Chart.Element(element.ElementId)?.Name ?? element.ToString();

    /// <summary>The name of what a track is meant for: "Kick", "Group A of Tansy Grid", "the mix of Mudlark Nine".</summary>
    public string NameOf(Meant meant) => Unit(meant.UnitId) is not { } unit
        ? "a source that is not there any more"
        : meant.IsMix ? $"the mix of {unit.Name}"
        : (meant.Element is { } element ? NameOf(element) : $"{meant.Group} of {unit.Name}") + (meant.Straight ? " straight" : "");

    /// <summary>The same split with one unit changed.</summary>
    public Split With(Unit unit) => this with { Units = [.. Units.Select(u => u.Id == unit.Id ? unit : u)] };

    /// <summary>The same split with one row of inputs changed.</summary>
    public Split With(Bank bank) => this with { Banks = [.. Banks.Select(b => b.Id == bank.Id ? bank : b)] };

    /// <summary>The same split without a row of inputs: nothing is plugged, listens or plays there any more.</summary>
    public Split Without(Bank bank) => this with
    {
        Banks = Banks.Remove(bank),
        Cables = Cables.RemoveAll(c => c.Input.BankId == bank.Id || c.UnitId == bank.UnitId),
        Tracks =
        [
            .. Tracks.Select(t => t with
            {
                Input = t.Input?.BankId == bank.Id ? null : t.Input,
                Bus = t.Bus?.BankId == bank.Id ? null : t.Bus,
            }),
        ],
        TrackGroups = [.. TrackGroups.Select(g => g.Bus?.BankId == bank.Id ? g with { Bus = null } : g)],
    };

    /// <summary>The same split without whatever refers to what is not there any more: rides, ticks, cables, inputs, open settings.</summary>
    public Split Tidied() => this with
    {
        Rides = Rides.RemoveAll(r => !HasElement(r.Element)),
        Steps = Steps.RemoveAll(s => !HasElement(s.Element)),
        Ticked = Ticked.RemoveAll(t => !HasElement(t.Element)),
        Cables = Cables.RemoveAll(c => !HasInput(c.Input) || !(Unit(c.UnitId)?.Chart.Channels >= c.Channel)),
        Tracks = All(Tracks, t => (t.Input is null || Fits(t.Input, t.Width)) && (t.Bus is null || Fits(t.Bus, t.Width)), t => t with
        {
            Input = t.Input is not null && Fits(t.Input, t.Width) ? t.Input : null,
            Bus = t.Bus is not null && Fits(t.Bus, t.Width) ? t.Bus : null,
        }),
        TrackGroups = All(TrackGroups, g => g.Bus is null || Fits(g.Bus, Width.Stereo), g => g with { Bus = null }),
        Banks = All(Banks, b => b.Off.All(i => i <= b.Count), b => b with { Off = b.Off.RemoveAll(i => i > b.Count) }),
        Interface = Interface.Crossed.All(c => HasInput(c.A) && HasInput(c.B))
            ? Interface
            : Interface with { Crossed = Interface.Crossed.RemoveAll(c => !HasInput(c.A) || !HasInput(c.B)) },
        Units = All(
            Units,
            u => u.Simulated.NotMade.All(i => i < u.Chart.Settings.Length),
            u => u with { Simulated = u.Simulated with { NotMade = u.Simulated.NotMade.RemoveAll(i => i >= u.Chart.Settings.Length) } }),
    };

    /// <summary>What is sound stays the same object, so that it need not be looked at again.</summary>
    private static ImmutableArray<T> All<T>(ImmutableArray<T> list, Func<T, bool> isSound, Func<T, T> mended) =>
        list.All(isSound) ? list : [.. list.Select(part => isSound(part) ? part : mended(part))];

    /// <summary>The same split with one track changed.</summary>
    public Split With(Track track) => this with { Tracks = [.. Tracks.Select(t => t.Id == track.Id ? track : t)] };

    /// <summary>The same split with the settings of one element changed.</summary>
    public Split With(UnitId unitId, UnitElement element)
    {
        var unit = Units.First(u => u.Id == unitId);
        return With(unit with { Elements = [.. unit.Elements.Select(e => e.ElementId == element.ElementId ? element : e)] });
    }

    /// <summary>An id for a new track.</summary>
    public TrackId NewTrackId()
    {
        var highest = Tracks.Select(t => t.Id.Number).DefaultIfEmpty().Max();
        return new TrackId(highest + 1);
    }
}
