using System.Text.Json.Serialization;

namespace GateSplit.Core.Splits;

/// <summary>Names a track within a split.</summary>
/// <param name="Value">t1, t2 and so on.</param>
[JsonConverter(typeof(IdConverter<TrackId>))]
public readonly record struct TrackId(string Value) : IId<TrackId>
{
    /// <summary>The id with a number.</summary>
    public TrackId(int number)
        : this($"t{number}")
    {
    }

    /// <summary>Its number, by which tracks stand in the order in which they were made; 0 for an id that is not sound.</summary>
    public int Number => Value is ['t', .. var digits] && int.TryParse(digits, out var number) ? number : 0;

    /// <inheritdoc/>
    public static TrackId Of(string value) => new(value);

    /// <inheritdoc/>
    public override string ToString() => Value;
}
