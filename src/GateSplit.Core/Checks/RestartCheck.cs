using GateSplit.Core.Edits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>A mode or an output that needs a restart does not hold until the source was started again.</summary>
public sealed class RestartCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view) =>
        from unit in view.Split.Units
        where unit.NeedsRestart
        select Finding.Warning(
                Place.Of(unit),
                unit.ModeInForceId is null
                    ? $"{unit.Name} has outputs that were declared since it was loaded: they exist only once it was loaded again. Load it again, and the sounds after that."
                    : $"{unit.Name} is set to {unit.Mode.Name}, but goes on as {unit.ModeInForce.Name} until it was started again. Switch it off and on.")
            .WithFix($"{unit.Name} was started again", new MarkRestarted(unit.Id));
}
