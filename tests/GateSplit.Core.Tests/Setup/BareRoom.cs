using System.Collections.Immutable;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Setup;

/// <summary>What stands in a room before anything was done, and what of a split can be seen on real gear at all.</summary>
internal static class BareRoom
{
    /// <summary>The rows of inputs as they are on new gear: those of interfaces switched off and heard directly, loops led nowhere.</summary>
    public static ImmutableArray<Bank> Banks(Split split) =>
    [
        .. split.Banks.Select(b => b with
        {
            Off = b.Kind is BankKind.Usb or BankKind.Analog ? [.. Enumerable.Range(1, b.Count)] : [],
            HeardDirectly = b.Kind is BankKind.Usb or BankKind.Analog,
            Connected = b.Kind is not (BankKind.Usb or BankKind.AppToApp or BankKind.Loopback),
        }),
    ];

    /// <summary>A source out of its box: one that lets its outputs be declared has the main ones only.</summary>
    public static Unit Unit(Unit wanted)
    {
        var chart = wanted.Chart.DeclaresPorts ? wanted.Chart with { Ports = [.. wanted.Chart.Ports.Where(p => p.IsMain)] } : wanted.Chart;
        return Core.Splits.Unit.FromChart(wanted.Id, wanted.Chart) with { Chart = chart, Clock = ClockMode.Free, Simulated = new() { NotMade = [.. Enumerable.Range(0, chart.Settings.Length)] } };
    }

    /// <summary>
    /// A split as it can be seen on the gear: ids counted, what is only kept in mind left out, what makes no difference made the same, values to the hundredth.
    /// </summary>
    public static Split Seen(Split split)
    {
        var tracks = split.Tracks.Select((t, i) => (t.Id, New: new TrackId(i + 1))).ToDictionary(t => t.Id, t => t.New);
        var groups = split.TrackGroups.Select((g, i) => (g.Id, New: new TrackGroupId($"g{i + 1}"))).ToDictionary(g => g.Id, g => g.New);
        return split with
        {
            Accepted = [],
            Ticked = [],
            Interface = new(),
            Units = [.. split.Units.Select(Seen)],
            Banks = [.. split.Banks.Select(b => b with { Off = [.. b.Off.Order()] })],
            Cables = [.. split.Cables.OrderBy(c => c.UnitId.Value).ThenBy(c => c.Channel).ThenBy(c => c.Input.BankId.Value).ThenBy(c => c.Input.Channel).ThenBy(c => c.Pass)],
            TrackGroups = [.. split.TrackGroups.Select(g => g with { Id = groups[g.Id], ParentId = g.ParentId is { } parent ? groups[parent] : null, LevelDb = Round(g.LevelDb) })],
            Tracks =
            [
                .. split.Tracks.Select(t => t with
                {
                    Id = tracks[t.Id],
                    MeantFor = [],
                    Armed = t.Armed && !t.Live,
                    LevelDb = Round(t.LevelDb),
                    Pan = Round(t.Pan),
                    GroupId = split.SumOf(t) is { } sum ? groups[sum.Id] : null,
                    LevelGroups = [.. split.LevelsOf(t).Select(g => groups[g.Id])],
                }),
            ],
            Rides = [.. split.Rides.Select(r => r with { Points = [.. r.Points.Select(p => new RidePoint(Math.Round(p.Bar, 2), Math.Round(p.Value, 2)))] })],
            Pass = split.Pass with { DiskBytesPerSecond = null, InterfaceBytesPerSecond = null },
        };
    }

    private static Unit Seen(Unit unit) => unit with
    {
        ModeInForceId = null,
        UnloadedPorts = [],
        Simulated = new(),
        Clock = unit.Chart.Clock.Any ? unit.Clock : ClockMode.Free,
        NoteRoutes = [.. unit.NoteRoutes.OrderBy(r => r.From).Select(r => r.To == NoteRoute.Nowhere ? r with { KeyShift = 0 } : r)],
        PortLevels = [.. unit.PortLevels.Where(p => p.LevelDb != Decibels.Unity).OrderBy(p => p.Port).Select(p => p with { LevelDb = Round(p.LevelDb) })],
        Groups = [.. unit.Chart.Groups.Select(g => unit.Group(g.Name)).Select(g => g with { FaderDb = Round(g.FaderDb) })],
        Voices = [.. unit.Voices.Select(v => v with { LevelDb = Round(v.LevelDb), TuneSemitones = Math.Round(v.TuneSemitones, 2), DecayScale = Math.Round(v.DecayScale, 2) })],
        Elements =
        [
            .. unit.Elements.Select(e => e with
            {
                FollowsGroup = e.FollowsGroup || unit.Chart.Group(unit.Chart.Element(e.ElementId)!.Group) is null,
                FaderDb = Round(e.FaderDb),
                Pan = Round(e.Pan),
                MusicalPan = null,
                Sounds = null,
                SendDb = (e.SendDb ?? unit.Chart.Element(e.ElementId)!.SendDb) is { } send ? Round(send) : null,
                SendPan = e.SendPan is { } pan ? Round(pan) : null,
                BleedDb = Round(e.BleedDb),
            }),
        ],
    };

    private static Decibels Round(Decibels level) => new(Math.Round(level.Value, 2) + 0.0);

    private static Pan Round(Pan pan) => new(Math.Round(Math.Round(pan.Percent, 2) / 100, 4) + 0.0);

    /// <summary>What a format is called on a recorder.</summary>
    public static SampleFormat Format(string words) => words switch { "16 bit" => SampleFormat.Pcm16, "24 bit" => SampleFormat.Pcm24, "32 bit float" => SampleFormat.Float32, _ => throw new SetupRobot.StuckException($"No format {words}.") };
}
