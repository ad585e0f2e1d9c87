using System.Text.Json.Serialization;

namespace GateSplit.Core.Splits;

/// <summary>Names a group of tracks within a split.</summary>
/// <param name="Value">g1, g2 and so on.</param>
[JsonConverter(typeof(IdConverter<TrackGroupId>))]
public readonly record struct TrackGroupId(string Value) : IId<TrackGroupId>
{
    /// <inheritdoc/>
    public static TrackGroupId Of(string value) => new(value);

    /// <inheritdoc/>
    public override string ToString() => Value;
}
