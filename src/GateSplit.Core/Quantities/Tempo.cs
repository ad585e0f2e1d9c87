namespace GateSplit.Core.Quantities;

/// <summary>A tempo as Standard MIDI Files keep it.</summary>
/// <param name="MicrosecondsPerQuarter">1 to 16,777,215.</param>
public readonly record struct Tempo(int MicrosecondsPerQuarter)
{
    /// <summary>The tempo of a file that does not say: 120 quarters a minute (Standard MIDI Files 1.0).</summary>
    public static Tempo Default => new(500_000);

    /// <summary>Quarters a minute.</summary>
    public double QuartersPerMinute => 60_000_000.0 / MicrosecondsPerQuarter;

    /// <summary>From quarters a minute, to the nearest microsecond.</summary>
    public static Tempo FromQuartersPerMinute(double quarters) => new((int)Math.Round(60_000_000.0 / quarters));
}
