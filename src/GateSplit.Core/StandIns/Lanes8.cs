using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;

namespace GateSplit.Core.StandIns;

/// <summary>Eight lanes.</summary>
/// <param name="vector">Their numbers.</param>
internal readonly struct Lanes8(Vector256<float> vector) : ILanes<Lanes8>
{
    private readonly Vector256<float> _vector = vector;

    /// <inheritdoc/>
    public static int Count => 8;

    /// <summary>The lanes of a vector.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static implicit operator Lanes8(Vector256<float> vector) => new(vector);

    /// <summary>The lanes as a vector.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static implicit operator Vector256<float>(Lanes8 lanes) => lanes._vector;

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes8 Of(float number) => Vector256.Create(number);

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes8 operator +(Lanes8 a, Lanes8 b) => a._vector + b._vector;

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes8 operator -(Lanes8 a, Lanes8 b) => a._vector - b._vector;

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes8 operator *(Lanes8 a, Lanes8 b) => a._vector * b._vector;

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes8 operator /(Lanes8 a, Lanes8 b) => a._vector / b._vector;

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes8 MultiplyAdd(Lanes8 a, Lanes8 b, Lanes8 c) => Vector256.FusedMultiplyAdd(a._vector, b._vector, c._vector);

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes8 Min(Lanes8 a, Lanes8 b) => Vector256.MinNative(a._vector, b._vector);

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes8 Max(Lanes8 a, Lanes8 b) => Vector256.MaxNative(a._vector, b._vector);

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes8 Abs(Lanes8 a) => Vector256.Abs(a._vector);

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes8 Round(Lanes8 a) => Vector256.Round(a._vector);

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes8 PowerOfTwo(Lanes8 whole) => ((Vector256.ConvertToInt32(whole._vector) + Vector256.Create(127)) << 23).AsSingle();

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes8 AtLeast(Lanes8 a, Lanes8 least) =>
        Vector256.ConditionalSelect(Vector256.LessThan(a._vector, least._vector), Vector256<float>.Zero, a._vector);

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static bool AnyBelow(Lanes8 a, Lanes8 b) => Vector256.LessThanAny(a._vector, b._vector);

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes8 Turned(Lanes8 phase, Lanes8 step) => (phase._vector.AsUInt32() + step._vector.AsUInt32()).AsSingle();

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes8 Signed(Lanes8 phase) => Vector256.ConvertToSingle(phase._vector.AsInt32());

    /// <inheritdoc/>
    public static void Transpose(ReadOnlySpan<Lanes8> samples, Span<Lanes8> lanes)
    {
        // Four lanes at a time: what stands in them four samples apart comes into one vector, and squares of four by four are turned.
        var each = samples.Length / Count;
        for (var i = 0; i < each; i++)
        {
            var fours = MemoryMarshal.Cast<Lanes8, Vector128<float>>(samples.Slice(i * Count, Count));
            for (var four = 0; four < Count / 4; four++)
            {
                var r0 = Vector256.Create(fours[four], fours[four + 8]);
                var r1 = Vector256.Create(fours[four + 2], fours[four + 10]);
                var r2 = Vector256.Create(fours[four + 4], fours[four + 12]);
                var r3 = Vector256.Create(fours[four + 6], fours[four + 14]);
                Swap1(ref r0, ref r1);
                Swap1(ref r2, ref r3);
                Swap2(ref r0, ref r2);
                Swap2(ref r1, ref r3);
                var into = lanes[(four * 4 * each + i)..];
                (into[0], into[each], into[2 * each], into[3 * each]) = (r0, r1, r2, r3);
            }
        }
    }

    /// <inheritdoc/>
    public float At(int lane) => _vector.GetElement(lane);

    /// <inheritdoc/>
    public Lanes8 With(int lane, float number) => _vector.WithElement(lane, number);

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static void Swap1(ref Vector256<float> a, ref Vector256<float> b)
    {
        var second = Vector256.Create(0, -1, 0, -1, 0, -1, 0, -1).AsSingle();
        var toA = Vector256.Shuffle(b, Vector256.Create(1, 0, 3, 2, 5, 4, 7, 6));
        var toB = Vector256.Shuffle(a, Vector256.Create(1, 0, 3, 2, 5, 4, 7, 6));
        (a, b) = (Vector256.ConditionalSelect(second, toA, a), Vector256.ConditionalSelect(second, b, toB));
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static void Swap2(ref Vector256<float> a, ref Vector256<float> b)
    {
        var second = Vector256.Create(0, 0, -1, -1, 0, 0, -1, -1).AsSingle();
        var toA = Vector256.Shuffle(b, Vector256.Create(2, 3, 0, 1, 6, 7, 4, 5));
        var toB = Vector256.Shuffle(a, Vector256.Create(2, 3, 0, 1, 6, 7, 4, 5));
        (a, b) = (Vector256.ConditionalSelect(second, toA, a), Vector256.ConditionalSelect(second, b, toB));
    }
}
