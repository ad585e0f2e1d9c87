namespace GateSplit.Core.StandIns;

/// <summary>
/// Numbers side by side in one register, as wide as the machine has them; each lane by itself, so that what one holds does not
/// depend on how many there are. Only operations that give the same bits on every machine.
/// </summary>
/// <typeparam name="V">The lanes themselves.</typeparam>
internal interface ILanes<V>
    where V : struct, ILanes<V>
{
    /// <summary>How many; a power of two.</summary>
    static abstract int Count { get; }

    /// <summary>The same number in every lane.</summary>
    static abstract V Of(float number);

    /// <summary>a + b.</summary>
    static abstract V operator +(V a, V b);

    /// <summary>a - b.</summary>
    static abstract V operator -(V a, V b);

    /// <summary>a b.</summary>
    static abstract V operator *(V a, V b);

    /// <summary>a / b.</summary>
    static abstract V operator /(V a, V b);

    /// <summary>a b + c, rounded once.</summary>
    static abstract V MultiplyAdd(V a, V b, V c);

    /// <summary>The smaller one.</summary>
    static abstract V Min(V a, V b);

    /// <summary>The greater one.</summary>
    static abstract V Max(V a, V b);

    /// <summary>|a|.</summary>
    static abstract V Abs(V a);

    /// <summary>To the nearest whole number, halves to the even one.</summary>
    static abstract V Round(V a);

    /// <summary>Two to the power of a whole number.</summary>
    static abstract V PowerOfTwo(V whole);

    /// <summary>Numbers of which those below <paramref name="least"/> are 0.</summary>
    static abstract V AtLeast(V a, V least);

    /// <summary>True if any lane of the one lies below the same lane of the other.</summary>
    static abstract bool AnyBelow(V a, V b);

    /// <summary>A phase, a whole number of 2^-32 turns kept in the bits of each lane, one step further.</summary>
    static abstract V Turned(V phase, V step);

    /// <summary>A phase as a number from -2^31 to 2^31, 0 at 0.</summary>
    static abstract V Signed(V phase);

    /// <summary>From vectors that each hold a sample of every lane to the samples of the first lane, of the second, and so on.</summary>
    /// <param name="samples">One for each sample, a multiple of <see cref="Count"/>.</param>
    /// <param name="lanes">As many.</param>
    static abstract void Transpose(ReadOnlySpan<V> samples, Span<V> lanes);

    /// <summary>What stands in a lane.</summary>
    float At(int lane);

    /// <summary>The same with one lane set.</summary>
    V With(int lane, float number);
}
