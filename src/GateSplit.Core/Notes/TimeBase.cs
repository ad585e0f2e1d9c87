namespace GateSplit.Core.Notes;

/// <summary>What a tick of a file is: a part of a quarter note, or a part of an SMPTE frame.</summary>
public sealed record TimeBase
{
    private TimeBase(int ticksPerQuarter, int smpteFormat, int ticksPerFrame)
    {
        TicksPerQuarter = ticksPerQuarter;
        SmpteFormat = smpteFormat;
        TicksPerFrame = ticksPerFrame;
    }

    /// <summary>Ticks of a quarter note; for SMPTE time the ticks of half a second, so that bars can still be counted.</summary>
    public int TicksPerQuarter { get; }

    /// <summary>24, 25, 29 (which is 30 drop-frame, 29.97) or 30; 0 for metrical time.</summary>
    public int SmpteFormat { get; }

    /// <summary>Ticks of an SMPTE frame; 0 for metrical time.</summary>
    public int TicksPerFrame { get; }

    /// <summary>True if ticks are parts of a second and tempo does not matter.</summary>
    public bool IsSmpte => SmpteFormat != 0;

    /// <summary>Metrical time.</summary>
    /// <param name="ticksPerQuarter">1 to 32,767.</param>
    public static TimeBase Metrical(int ticksPerQuarter) => new(ticksPerQuarter, 0, 0);

    /// <summary>Time in SMPTE frames.</summary>
    /// <param name="format">24, 25, 29 or 30.</param>
    /// <param name="ticksPerFrame">1 to 255.</param>
    public static TimeBase Smpte(int format, int ticksPerFrame) =>
        new(Math.Max(1, (format == 29 ? 30 : format) * ticksPerFrame / 2), format, ticksPerFrame);
}
