using System.Buffers;
using System.Numerics.Tensors;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>Several sounds of one sample rate that begin together, added up.</summary>
public sealed class MonoSum : IMonoSound
{
    private readonly IReadOnlyList<(IMonoSound Sound, float Gain)> _parts;

    /// <summary>Adds them up.</summary>
    /// <param name="parts">At least one, each with a gain.</param>
    public MonoSum(IReadOnlyList<(IMonoSound Sound, float Gain)> parts)
    {
        _parts = parts;
        (Rate, Frames) = (parts[0].Sound.Rate, parts.Max(p => p.Sound.Frames));
    }

    /// <inheritdoc/>
    public Frames Frames { get; }

    /// <inheritdoc/>
    public SampleRate Rate { get; }

    /// <inheritdoc/>
    public void Read(long start, Span<float> into)
    {
        into.Clear();
        var rented = ArrayPool<float>.Shared.Rent(into.Length);
        var one = rented.AsSpan(0, into.Length);
        foreach (var (sound, gain) in _parts)
        {
            sound.Read(start, one);
            TensorPrimitives.MultiplyAdd(one, gain, into, into);
        }

        ArrayPool<float>.Shared.Return(rented);
    }
}
