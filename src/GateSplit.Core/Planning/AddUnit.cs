using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Planning;

/// <summary>Adds a source to the session as it is when new, with a row of inputs for it.</summary>
/// <param name="Chart">Its chart; the session keeps a copy.</param>
/// <param name="SettingsMade">False if what is to be set on the real gear is still to do.</param>
public sealed record AddUnit(Chart Chart, bool SettingsMade = true) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => $"Add {Chart.Name}";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split)
    {
        if (split.Units.Length >= SplitRules.MostUnits)
        {
            return new Refusal($"A split has at most {SplitRules.MostUnits} sources.");
        }

        // A row of inputs that somebody else made may bear the name that a source's row would have.
        var number = Enumerable.Range(1, SplitRules.MostUnits + SplitRules.MostBanks).First(n => split.Unit(new UnitId($"u{n}")) is null && split.Bank(new BankId($"b-u{n}")) is null);
        var alike = split.Units.Count(u => u.Chart.Id == Chart.Id);
        var unit = Unit.FromChart(new UnitId($"u{number}"), Chart) with { Name = alike == 0 ? Chart.Name : $"{Chart.Name} {alike + 1}" };
        unit = SettingsMade ? unit : Unmade(unit);
        var bank = StartingSplit.BankFor(unit, split.Units.Any(u => u.Chart.Kind == Chart.Kind), split.Banks);
        var at = split.Banks.TakeWhile(b => b.UnitId is not null).Count();
        return split with { Units = split.Units.Add(unit), Banks = split.Banks.Insert(at, bank) };
    }

    /// <summary>A source of which nothing is set yet.</summary>
    public static Unit Unmade(Unit unit) => unit with { Simulated = unit.Simulated with { NotMade = [.. Enumerable.Range(0, unit.Chart.Settings.Length)] } };
}
