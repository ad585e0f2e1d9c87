using GateSplit.Core.Splits;

namespace GateSplit.Core.Views;

/// <summary>
/// What in a split something is about: a finding, a rail of the drawing, what is chosen on a page. Its key is written here and read here;
/// pages and scripts pass it on.
/// </summary>
/// <param name="Key">"element:unit/id", "port:unit/3", "track:t3", "unit:id", "bank:id/3" or "pass".</param>
public readonly record struct Place(string Key)
{
    private const string Elements = "element:";
    private const string Tracks = "track:";

    /// <summary>The pass as a whole.</summary>
    public static Place Pass { get; } = new("pass");

    /// <summary>The element it is; null for another place.</summary>
    public ElementRef? Element => Key.StartsWith(Elements, StringComparison.Ordinal) ? ElementRef.Read(Key[Elements.Length..]) : null;

    /// <summary>The track it is; null for another place.</summary>
    public TrackId? Track => Key.StartsWith(Tracks, StringComparison.Ordinal) ? new TrackId(Key[Tracks.Length..]) : null;

    /// <summary>An element.</summary>
    public static Place Of(ElementRef element) => new($"{Elements}{element}");

    /// <summary>A port.</summary>
    public static Place OfPort(UnitId unitId, int port) => new($"port:{unitId}/{port}");

    /// <summary>A track.</summary>
    public static Place Of(Track track) => Of(track.Id);

    /// <summary>A track.</summary>
    public static Place Of(TrackId track) => new($"{Tracks}{track}");

    /// <summary>A unit.</summary>
    public static Place Of(Unit unit) => Of(unit.Id);

    /// <summary>A unit.</summary>
    public static Place Of(UnitId unit) => new($"unit:{unit}");

    /// <summary>An input, or the first of a pair.</summary>
    public static Place Of(InputRef input) => new($"bank:{input.BankId}/{input.Channel}");

    /// <inheritdoc/>
    public override string ToString() => Key;
}
