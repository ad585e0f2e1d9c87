using System.Numerics.Tensors;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>Tells whether the two sides of a pair are really one, fed in blocks of any size.</summary>
public sealed class PairMeter
{
    /// <summary>Energy of the side so far below that of the middle is none.</summary>
    private static readonly Decibels OneBelow = new(-90);
    private double _middle;
    private double _side;

    /// <summary>Takes the next samples in.</summary>
    /// <param name="left">The left side.</param>
    /// <param name="right">The right side, as long.</param>
    public void Add(ReadOnlySpan<float> left, ReadOnlySpan<float> right)
    {
        const int Part = 1024;
        Span<float> both = stackalloc float[Part];
        for (var at = 0; at < left.Length; at += Part)
        {
            var part = Math.Min(Part, left.Length - at);
            TensorPrimitives.Add(left.Slice(at, part), right.Slice(at, part), both);
            _middle += TensorPrimitives.SumOfSquares<float>(both[..part]);
            TensorPrimitives.Subtract(left.Slice(at, part), right.Slice(at, part), both);
            _side += TensorPrimitives.SumOfSquares<float>(both[..part]);
        }
    }

    /// <summary>True if both sides hold the same; false for silence, and for one that is the other upside down.</summary>
    public bool IsOneChannel => _middle > 0 && _side <= _middle * OneBelow.Ratio * OneBelow.Ratio;

    /// <summary>True if one side is the other upside down: their sum would be silent.</summary>
    public bool IsUpsideDown => _side > 0 && _middle <= _side * OneBelow.Ratio * OneBelow.Ratio;
}
