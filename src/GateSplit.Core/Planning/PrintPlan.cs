using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Planning;

/// <summary>The split as it is set for a print of another kind, and for this print only.</summary>
public static class PrintPlan
{
    private static readonly BankId StemBank = new("stems-of-a-print");
    private const int IdsOfAKind = 10_000_000;

    /// <summary>Sets the split for a print.</summary>
    /// <param name="view">The split as it is.</param>
    /// <param name="kind">What is recorded.</param>
    /// <returns>The split whose armed tracks are recorded; a refusal if there is nothing of this kind.</returns>
    public static Result<SplitView> For(SplitView view, PrintKind kind)
    {
        var split = kind switch
        {
            PrintKind.Mix => Mix(view),
            PrintKind.Effects => Effects(view),
            PrintKind.Stems => Stems(view.Split),
            PrintKind.Outboard => Outboard(view.Split),
            _ => view.Split,
        };
        return split.Ok ? new SplitView(split.Value, view.Sounding) : new Refusal(split.Trouble);
    }

    /// <summary>A kind in words, for the take.</summary>
    public static string Note(PrintKind kind) => kind switch
    {
        PrintKind.Mix => "the mix of each source",
        PrintKind.Effects => "effects alone",
        PrintKind.Stems => "stems",
        PrintKind.Outboard => "through outboard",
        _ => "",
    };

    private static Result<Split> Mix(SplitView view)
    {
        var sounding = view.Split.Units.Where(u => view.SoundingElements.Any(e => e.Unit == u)).ToList();
        if (sounding.Count == 0)
        {
            return new Refusal("No source plays anything in this song, so there is no mix.");
        }

        var ids = OwnIds(PrintKind.Mix, sounding.Select(u => u.Id));
        return AtTheGate(view.Split) with
        {
            Units = [.. view.Split.Units.Select(InMain)],
            Tracks = [.. sounding.Select(u => TrackAt(view.Split, u, u.Chart.MainPort, ids[u.Id], $"{u.Name} mix"))],
        };
    }

    /// <summary>Everything of a source in its main mix, where the music has it.</summary>
    private static Unit InMain(Unit unit) => unit with
    {
        Elements = [.. unit.Elements.Select(e => e with { Port = null, InMain = true, FollowsGroup = true, Pass = null, Straight = null, Pan = e.MusicalPan ?? e.Pan })],
        Groups = [.. unit.Chart.Groups.Select(g => unit.Group(g.Name) with { Port = null, Straight = null })],
    };

    private static Result<Split> Effects(SplitView view)
    {
        var returns = view.SoundingElements.Where(e => e.Chart.Kind == ElementKind.Return).ToList();
        if (returns.Count == 0)
        {
            return new Refusal("No source has a shared effect that sounds in this song.");
        }

        var ids = OwnIds(PrintKind.Effects, returns.Select(r => r.Ref));

        // Each return has a pass of its own, so that two of one port do not meet.
        var pass = returns.Select((r, i) => (r.Ref, Pass: i + 1)).ToDictionary(r => r.Ref, r => r.Pass);
        UnitElement Alone(Unit unit, UnitElement element) => pass.TryGetValue(new ElementRef(unit.Id, element.ElementId), out var only)
            ? element with { Pass = only, InMain = element.Port is null }
            : element with { Port = null, InMain = false, FollowsGroup = false, Straight = null };
        return AtTheGate(view.Split) with
        {
            Units = [.. view.Split.Units.Select(u => u with { Elements = [.. u.Elements.Select(e => Alone(u, e))] })],
            Tracks =
            [
                .. returns.Select(r => TrackAt(view.Split, r.Unit, r.Unit.PortOf(r.Set with { InMain = true })!, ids[r.Ref], $"{r.Chart.Name} of {r.Unit.Name}") with { Pass = pass[r.Ref] }),
            ],
        };
    }

    private static Result<Split> Stems(Split split)
    {
        if (split.Passes > 1)
        {
            return new Refusal("Stems need all lines at once, and this session takes several passes.");
        }

        // Each track is in one stem, that of the last group which sums it or else of the first that turns it up and down: so stems add up to the mix.
        var stems = split.Tracks.ToDictionary(t => t.Id, t => split.SumsOf(t).LastOrDefault() ?? split.LevelsOf(t).FirstOrDefault());
        var groups = split.TrackGroups.Where(g => split.Tracks.Any(t => stems[t.Id] == g && (t.Armed || t.Live))).ToList();
        if (groups.Count == 0)
        {
            return new Refusal("Put the tracks into groups first, on the Recorder station: each group becomes a stem.");
        }

        var ids = OwnIds(PrintKind.Stems, groups.Select(g => g.Id));
        InputRef BusOf(TrackGroup group) => new(StemBank, 2 * groups.IndexOf(group) + 1);

        // A group that only sets levels goes on doing so; what it stands for as a stem is a sum of its own.
        TrackGroup StemOf(TrackGroup group) => group.Sums ? group with { Bus = BusOf(group) } : new TrackGroup(new TrackGroupId($"stem-{group.Id}"), $"Stem {group.Name}", Sums: true) { Bus = BusOf(group) };
        Track InStem(Track track) => stems[track.Id] is { Sums: false } level ? track with { GroupId = StemOf(level).Id, LevelGroups = [.. split.LevelsOf(track).Select(g => g.Id)] } : track;
        return split with
        {
            Banks = split.Banks.Add(new Bank(StemBank, "Stem", BankKind.StemBuses, 2 * groups.Count, null)),
            TrackGroups = [.. split.TrackGroups.Select(g => g.Sums && groups.Contains(g) ? StemOf(g) : g), .. groups.Where(g => !g.Sums).Select(StemOf)],
            Tracks =
            [
                .. split.Tracks.Where(t => stems[t.Id] is { } stem && groups.Contains(stem)).Select(t => InStem(t) with { Monitor = t.Armed || t.Live ? MonitorMode.Always : MonitorMode.Never, Armed = false }),
                .. groups.Select(g => new Track(ids[g.Id], g.Name, Width.Stereo) { Input = BusOf(g), Monitor = MonitorMode.Never }),
            ],
        };
    }

    private static Result<Split> Outboard(Split split)
    {
        if (split.Passes > 1)
        {
            return new Refusal("One at a time through outboard is for sessions of one pass.");
        }

        if (split.Banks.FirstOrDefault(b => b.Kind == BankKind.Loopback) is not { } pair)
        {
            return new Refusal("Add a looped-back pair on the Recorder station first: the outboard hangs between its output and its input.");
        }

        var armed = split.Tracks.Where(t => t.Armed && t.Input?.BankId != pair.Id).ToList();
        var ids = OwnIds(PrintKind.Outboard, armed.Select(t => t.Id));
        return split with
        {
            Tracks =
            [
                .. armed.SelectMany((t, i) => new[]
                {
                    t with { Id = ids[t.Id], Armed = false, Monitor = MonitorMode.Always, LevelDb = new Decibels(0), GroupId = null, LevelGroups = [], Bus = new InputRef(pair.Id, 1), Pass = i + 1 },
                    t with { Input = new InputRef(pair.Id, 1), Bus = null, GroupId = null, LevelGroups = [], Pass = i + 1 },
                }),
            ],
        };
    }

    /// <summary>
    /// Ids for tracks that exist only in prints of a kind: the same for the same source, effect or group in every print, so
    /// that its takes stand side by side, and far from the ids of the tracks of a split.
    /// </summary>
    /// <param name="kind">The kind.</param>
    /// <param name="of">What they stand for, such as "u2"; all different.</param>
    private static Dictionary<T, TrackId> OwnIds<T>(PrintKind kind, IEnumerable<T> of)
        where T : notnull
    {
        var taken = new HashSet<int>();
        return of.ToDictionary(one => one, one =>
        {
            var number = one.ToString()!.Aggregate(0, (hash, c) => (hash * 31 + c) % IdsOfAKind);
            while (!taken.Add(number))
            {
                number++;
            }

            return new TrackId((int)kind * IdsOfAKind + number);
        });
    }

    /// <summary>The same split with every source heard at its own gate, whatever is plugged or switched off on the way.</summary>
    private static Split AtTheGate(Split split) => split with
    {
        Cables = [],
        TrackGroups = [],
        Banks = [.. split.Banks.Select(b => b.UnitId is null ? b : b with { Connected = true, Off = [], Widths = InputWidths.Any })],
    };

    private static Track TrackAt(Split split, Unit unit, ChartPort port, TrackId id, string name) =>
        new(id, name, port.Width) { Input = new InputRef(split.BankOf(unit).Id, port.FirstChannel), Monitor = MonitorMode.Never };
}
