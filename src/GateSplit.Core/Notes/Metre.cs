using GateSplit.Core.Quantities;

namespace GateSplit.Core.Notes;

/// <summary>A time signature.</summary>
/// <param name="Beats">The upper number.</param>
/// <param name="BeatUnit">The lower number: 1, 2, 4, 8, 16, 32.</param>
public readonly record struct Metre(int Beats, int BeatUnit)
{
    /// <summary>The metre of a file that does not say.</summary>
    public static Metre Common => new(4, 4);

    /// <summary>The ticks of a bar; a part of a tick is left out.</summary>
    /// <param name="ticksPerQuarter">Ticks of a quarter note.</param>
    public Ticks BarOf(int ticksPerQuarter) => new((long)ticksPerQuarter * 4 * Beats / BeatUnit);

    /// <inheritdoc/>
    public override string ToString() => $"{Beats}/{BeatUnit}";
}
