namespace GateSplit.Core.StandIns;

/// <summary>One sounding note. It keeps its own state, so its samples do not depend on how they are asked for.</summary>
internal interface ISound
{
    /// <summary>Adds its next samples.</summary>
    /// <returns>False once it has died away.</returns>
    bool AddTo(Span<float> samples);
}
