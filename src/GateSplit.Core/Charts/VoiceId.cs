using System.Text.Json.Serialization;

namespace GateSplit.Core.Charts;

/// <summary>Names a voice within its chart.</summary>
/// <param name="Value">Such as kick.</param>
[JsonConverter(typeof(IdConverter<VoiceId>))]
public readonly record struct VoiceId(string Value) : IId<VoiceId>
{
    /// <inheritdoc/>
    public static VoiceId Of(string value) => new(value);

    /// <inheritdoc/>
    public override string ToString() => Value;
}
