using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>Files that are larger than the space that is left.</summary>
public sealed class DiskSpaceCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        if (view.Space is { } space && space.NeededBytes > space.FreeBytes)
        {
            yield return Finding.Warning(
                Place.Pass,
                $"This records {space.NeededBytes}, and {space.FreeBytes} are free: it cannot be kept. Make space, or record fewer tracks or fewer bars.");
        }
    }
}
