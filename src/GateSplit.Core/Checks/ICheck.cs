using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>One rule of the job.</summary>
public interface ICheck
{
    /// <summary>Looks at a split and tells what it finds.</summary>
    IEnumerable<Finding> Look(SplitView view);
}
