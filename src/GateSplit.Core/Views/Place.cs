using GateSplit.Core.Splits;

namespace GateSplit.Core.Views;

/// <summary>What in a split a finding is about.</summary>
/// <param name="Key">"element:unit/id", "port:unit/3", "track:t3", "unit:id", "bank:id/3" or "pass".</param>
public readonly record struct Place(string Key)
{
    /// <summary>An element.</summary>
    public static Place Of(ElementRef element) => new($"element:{element}");

    /// <summary>A port.</summary>
    public static Place OfPort(UnitId unitId, int port) => new($"port:{unitId}/{port}");

    /// <summary>A track.</summary>
    public static Place Of(Track track) => new($"track:{track.Id}");

    /// <summary>A unit.</summary>
    public static Place Of(Unit unit) => new($"unit:{unit.Id}");

    /// <inheritdoc/>
    public override string ToString() => Key;
}
