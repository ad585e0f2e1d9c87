using GateSplit.Core.Edits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>Two sources of one name: nobody can tell their outputs apart in the recorder.</summary>
public sealed class UnnamedUnitsCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        var names = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        foreach (var unit in view.Split.Units.Where(u => !names.Add(u.Name.Trim())))
        {
            var name = Enumerable.Range(2, view.Split.Units.Length).Select(n => $"{unit.Name.Trim()} {n}").First(n => !names.Contains(n));
            yield return Finding.Warning(
                    Place.Of(unit),
                    $"Two sources are called {unit.Name}: their outputs cannot be told apart in the recorder.")
                .WithFix($"Call the second {name}", new RenameUnit(unit.Id, name));
        }
    }
}
