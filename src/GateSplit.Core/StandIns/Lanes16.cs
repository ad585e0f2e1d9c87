using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;
using System.Runtime.Intrinsics.X86;

namespace GateSplit.Core.StandIns;

/// <summary>Sixteen lanes.</summary>
/// <param name="vector">Their numbers.</param>
internal readonly struct Lanes16(Vector512<float> vector) : ILanes<Lanes16>
{
    private readonly Vector512<float> _vector = vector;

    /// <inheritdoc/>
    public static int Count => 16;

    /// <summary>
    /// True if the machine has registers so wide. .NET advises against them where the clock falls while they are used; it
    /// falls by a tenth there, and they do nearly twice the work.
    /// </summary>
    public static bool Supported => Avx512F.IsSupported;

    /// <summary>The lanes of a vector.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static implicit operator Lanes16(Vector512<float> vector) => new(vector);

    /// <summary>The lanes as a vector.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static implicit operator Vector512<float>(Lanes16 lanes) => lanes._vector;

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes16 Of(float number) => Vector512.Create(number);

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes16 operator +(Lanes16 a, Lanes16 b) => a._vector + b._vector;

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes16 operator -(Lanes16 a, Lanes16 b) => a._vector - b._vector;

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes16 operator *(Lanes16 a, Lanes16 b) => a._vector * b._vector;

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes16 operator /(Lanes16 a, Lanes16 b) => a._vector / b._vector;

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes16 MultiplyAdd(Lanes16 a, Lanes16 b, Lanes16 c) => Vector512.FusedMultiplyAdd(a._vector, b._vector, c._vector);

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes16 Min(Lanes16 a, Lanes16 b) => Vector512.MinNative(a._vector, b._vector);

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes16 Max(Lanes16 a, Lanes16 b) => Vector512.MaxNative(a._vector, b._vector);

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes16 Abs(Lanes16 a) => Vector512.Abs(a._vector);

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes16 Round(Lanes16 a) => Vector512.Round(a._vector);

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes16 PowerOfTwo(Lanes16 whole) => ((Vector512.ConvertToInt32(whole._vector) + Vector512.Create(127)) << 23).AsSingle();

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes16 AtLeast(Lanes16 a, Lanes16 least) =>
        Vector512.ConditionalSelect(Vector512.LessThan(a._vector, least._vector), Vector512<float>.Zero, a._vector);

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static bool AnyBelow(Lanes16 a, Lanes16 b) => Vector512.LessThanAny(a._vector, b._vector);

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes16 Turned(Lanes16 phase, Lanes16 step) => (phase._vector.AsUInt32() + step._vector.AsUInt32()).AsSingle();

    /// <inheritdoc/>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static Lanes16 Signed(Lanes16 phase) => Vector512.ConvertToSingle(phase._vector.AsInt32());

    /// <inheritdoc/>
    public static void Transpose(ReadOnlySpan<Lanes16> samples, Span<Lanes16> lanes)
    {
        // Four lanes at a time: what stands in them four samples apart comes into one vector, and squares of four by four are turned.
        var each = samples.Length / Count;
        for (var i = 0; i < each; i++)
        {
            var fours = MemoryMarshal.Cast<Lanes16, Vector128<float>>(samples.Slice(i * Count, Count));
            for (var four = 0; four < Count / 4; four++)
            {
                var r0 = Vector512.Create(Vector256.Create(fours[four], fours[four + 16]), Vector256.Create(fours[four + 32], fours[four + 48]));
                var r1 = Vector512.Create(Vector256.Create(fours[four + 4], fours[four + 20]), Vector256.Create(fours[four + 36], fours[four + 52]));
                var r2 = Vector512.Create(Vector256.Create(fours[four + 8], fours[four + 24]), Vector256.Create(fours[four + 40], fours[four + 56]));
                var r3 = Vector512.Create(Vector256.Create(fours[four + 12], fours[four + 28]), Vector256.Create(fours[four + 44], fours[four + 60]));
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
    public Lanes16 With(int lane, float number) => _vector.WithElement(lane, number);

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static void Swap1(ref Vector512<float> a, ref Vector512<float> b)
    {
        var second = Vector512.Create(0, -1, 0, -1, 0, -1, 0, -1, 0, -1, 0, -1, 0, -1, 0, -1).AsSingle();
        var toA = Vector512.Shuffle(b, Vector512.Create(1, 0, 3, 2, 5, 4, 7, 6, 9, 8, 11, 10, 13, 12, 15, 14));
        var toB = Vector512.Shuffle(a, Vector512.Create(1, 0, 3, 2, 5, 4, 7, 6, 9, 8, 11, 10, 13, 12, 15, 14));
        (a, b) = (Vector512.ConditionalSelect(second, toA, a), Vector512.ConditionalSelect(second, b, toB));
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static void Swap2(ref Vector512<float> a, ref Vector512<float> b)
    {
        var second = Vector512.Create(0, 0, -1, -1, 0, 0, -1, -1, 0, 0, -1, -1, 0, 0, -1, -1).AsSingle();
        var toA = Vector512.Shuffle(b, Vector512.Create(2, 3, 0, 1, 6, 7, 4, 5, 10, 11, 8, 9, 14, 15, 12, 13));
        var toB = Vector512.Shuffle(a, Vector512.Create(2, 3, 0, 1, 6, 7, 4, 5, 10, 11, 8, 9, 14, 15, 12, 13));
        (a, b) = (Vector512.ConditionalSelect(second, toA, a), Vector512.ConditionalSelect(second, b, toB));
    }
}
