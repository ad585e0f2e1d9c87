namespace GateSplit.Core.Quantities;

/// <summary>A tempo as Standard MIDI Files keep it.</summary>
/// <param name="MicrosecondsPerQuarter">1 to 16,777,215.</param>
public readonly record struct Tempo(int MicrosecondsPerQuarter)
{
    /// <summary>The tempo of a file that does not say: 120 quarters a minute (Standard MIDI Files 1.0).</summary>
    public static Tempo Default => new(500_000);

    /// <summary>Quarters a minute.</summary>
    public double QuartersPerMinute => 60_000_000.0 / MicrosecondsPerQuarter;

    /// <summary>
    /// The tempo of at most two decimals that rounds or is cut to this one, in hundredths of a quarter a minute: a file that has it comes from
    /// a recorder that plays that. Null if there is none.
    /// </summary>
    public int? Hundredths
    {
        get
        {
            const long hundredthsOfMinute = 6_000_000_000;
            var nearest = (hundredthsOfMinute + MicrosecondsPerQuarter / 2) / MicrosecondsPerQuarter;
            var (whole, rest) = Math.DivRem(hundredthsOfMinute, nearest);
            return nearest > int.MaxValue ? null : whole == MicrosecondsPerQuarter || (whole + 1 == MicrosecondsPerQuarter && 2 * rest >= nearest) ? (int)nearest : null;
        }
    }

    /// <summary>From quarters a minute, to the nearest microsecond.</summary>
    public static Tempo FromQuartersPerMinute(double quarters) => new((int)Math.Round(60_000_000.0 / quarters));
}
