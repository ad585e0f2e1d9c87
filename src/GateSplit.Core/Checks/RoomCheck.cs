namespace GateSplit.Core.Checks;

/// <summary>Files that are larger than the room that is left.</summary>
public sealed class RoomCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        if (view.Room is { } room && room.NeededBytes > room.FreeBytes)
        {
            yield return Finding.Warning(
                new Place("pass"),
                $"This records {Words.Size(room.NeededBytes)}, and {Words.Size(room.FreeBytes)} are free: it cannot be kept. Make room, or record fewer tracks or fewer bars.");
        }
    }
}
