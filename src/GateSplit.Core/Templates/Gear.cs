using System.Collections.Immutable;
using System.Text.Json;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Planning;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Templates;

/// <summary>
/// What a person owns: sources as they are usually set, the recorder's and interface's rows of inputs as they are called, and how passes are usually
/// recorded. It is kept as a split without tracks, so that what may be in it is said once.
/// </summary>
/// <param name="Kept">That split.</param>
public sealed record Gear(Split Kept)
{
    /// <summary>Nothing owned yet, and the usual defaults.</summary>
    public static Gear None { get; } = new(new Split([], [], [], new PassSettings(1, 1, null, 48000, SampleFormat.Pcm24)));

    /// <summary>What files are usually called, as a pattern.</summary>
    public string Pattern { get; init; } = FileNames.DefaultPattern;

    /// <summary>True if there are neither sources nor rows of inputs.</summary>
    public bool IsEmpty => Kept.Units.IsEmpty && Kept.Banks.IsEmpty;

    /// <summary>The rows of inputs that are no source's own: sockets, buses, looped-back pairs.</summary>
    public IEnumerable<Bank> Rows => Kept.Banks.Where(b => b.UnitId is null);

    /// <summary>
    /// Takes over what a session has: its sources with their settings and cables, its rows of inputs, how it records. A source or a row that is owned
    /// already, the same chart under the same name or the same row, becomes as it is in the session.
    /// </summary>
    public Gear TakeOver(Split session)
    {
        var kept = Kept with
        {
            Pass = session.Pass,
            Banks = Kept.Banks.RemoveAll(b => b.UnitId is null && session.Banks.Any(s => s.UnitId is null && IsSame(b, s))),
        };
        var rows = new Dictionary<BankId, BankId>();
        foreach (var bank in session.Banks.Where(b => b.UnitId is null))
        {
            var id = kept.Bank(bank.Id) is null ? bank.Id : Free(kept);
            rows[bank.Id] = id;
            kept = kept with { Banks = kept.Banks.Add(bank with { Id = id }) };
        }

        foreach (var unit in session.Units)
        {
            if (kept.Units.FirstOrDefault(u => u.Chart.Id == unit.Chart.Id && u.Name == unit.Name) is { } old)
            {
                kept = Without(kept, old);
            }

            var id = kept.Unit(unit.Id) is null && kept.Bank(new BankId($"b-{unit.Id}")) is null
                ? unit.Id
                : Enumerable.Range(1, SplitRules.MostUnits * 2).Select(n => new UnitId($"u{n}")).First(i => kept.Unit(i) is null && kept.Bank(new BankId($"b-{i}")) is null);
            kept = kept with
            {
                Units = kept.Units.Add(unit with { Id = id }),
                Banks = kept.Banks.Add(session.BankOf(unit) with { Id = new BankId($"b-{id}"), UnitId = id }),
                Cables =
                [
                    .. kept.Cables,
                    .. from cable in session.Cables
                       where cable.UnitId == unit.Id && cable.Pass is null && rows.ContainsKey(cable.Input.BankId)
                       select cable with { UnitId = id, Input = cable.Input with { BankId = rows[cable.Input.BankId] } },
                ],
            };
        }

        return this with { Kept = Usual(kept.Tidied()) };
    }

    /// <summary>Adds a source as it is when new.</summary>
    public Result<Gear> Add(Chart chart) => Change(new AddUnit(chart, SettingsMade: false));

    /// <summary>Makes an edit of the sources or of the rows of inputs, or of how passes are recorded.</summary>
    public Result<Gear> Change(Edit edit)
    {
        var changed = edit.Apply(Kept);
        return !changed.Ok ? new Refusal(changed.Trouble)
            : changed.Value is { Tracks: [], TrackGroups: [], Rides: [], Steps: [] } kept ? this with { Kept = Usual(kept) }
            : new Refusal("What you own has no tracks and nothing that is performed: these are made in a session.");
    }

    /// <summary>What does not fit in it; null if all does.</summary>
    public string? Misfit => SplitRules.FirstMisfit(Kept)?.Sentence ?? FileNames.Trouble(Pattern);

    /// <summary>The same without a source, its row of inputs and its cables.</summary>
    public Gear Without(UnitId id) => Kept.Unit(id) is { } unit ? this with { Kept = Without(Kept, unit) } : this;

    /// <summary>The same without a row of inputs.</summary>
    public Gear Without(BankId id) => Kept.Bank(id) is { UnitId: null } bank ? this with { Kept = Kept.Without(bank).Tidied() } : this;

    /// <summary>
    /// The split that a session with some of it begins with: those sources with their rows and cables, all rows of inputs, and the usual defaults. What
    /// is to be set on the gear is ticked once it is set.
    /// </summary>
    /// <param name="sources">Which sources.</param>
    /// <param name="lengthBars">Bars of the body.</param>
    public Split Begin(IReadOnlyCollection<UnitId> sources, int lengthBars)
    {
        var split = Kept.Units.Where(u => !sources.Contains(u.Id)).Aggregate(Kept, Without);
        split = split with
        {
            Units = [.. split.Units.Select(AddUnit.Unmade)],
            Pass = split.Pass with { LengthBars = lengthBars },
        };
        return split.Banks.Any(b => b.Kind == BankKind.Buses) ? split : split with { Banks = split.Banks.AddRange(StartingSplit.Of([], 1, 48000).Banks.Where(b => split.Bank(b.Id) is null)) };
    }

    /// <summary>Writes its split.</summary>
    public string ToJson() => JsonSerializer.Serialize(Kept, SplitJson.Options);

    /// <summary>Reads it.</summary>
    /// <param name="json">The document.</param>
    /// <param name="version">The version of splits that it was written in.</param>
    /// <param name="pattern">What files are usually called.</param>
    public static Result<Gear> Read(string json, int version, string pattern)
    {
        var read = SplitVersions.Read(json, version);
        return read.Ok ? new Gear(read.Value) { Pattern = pattern } : new Refusal(read.Trouble);
    }

    /// <summary>What belongs to one song only is left out; a mode in which a source usually is needs no restart any more.</summary>
    private static Split Usual(Split split) => split with
    {
        Pass = split.Pass with { LengthBars = 1, StartBar = 1, Looped = false },
        Units = [.. split.Units.Select(u => u with { ModeInForceId = null, UnloadedPorts = [], Elements = [.. u.Elements.Select(e => e with { Pass = null, Sounds = null })] })],
        Cables = split.Cables.RemoveAll(c => c.Pass is not null),
    };

    private static bool IsSame(Bank a, Bank b) => a.Kind == b.Kind && string.Equals(a.Label, b.Label, StringComparison.OrdinalIgnoreCase);

    private static BankId Free(Split split) => Enumerable.Range(1, SplitRules.MostBanks * 2).Select(n => new BankId($"in{n}")).First(i => split.Bank(i) is null);

    private static Split Without(Split split, Unit unit) => (split.Without(split.BankOf(unit)) with { Units = split.Units.Remove(unit) }).Tidied();
}
