using System.Globalization;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Proofing;

/// <summary>Moves all tracks of a take together, and undoes their drift.</summary>
/// <param name="Seconds">By how much earlier they become; later below 0.</param>
/// <param name="DriftPpm">By how many millionths they ran slow.</param>
public sealed record MoveTake(double Seconds, double DriftPpm) : Mend
{
    /// <summary>By how much a take may be moved, in seconds.</summary>
    public static Limits<double> Moves => new(-600, 600);

    /// <summary>How much drift may be undone, in millionths.</summary>
    public static Limits<double> Drifts => new(-2000, 2000);

    /// <inheritdoc/>
    public override string Name(MendedTake take) => (Seconds, DriftPpm) switch
    {
        (not 0, not 0) => $"{Moved("All tracks", Seconds)}, and undo {Ppm}",
        (_, not 0) => $"Undo {Ppm} of drift",
        _ => Moved("All tracks", Seconds),
    };

    /// <inheritdoc/>
    public override Result<MendedTake> Apply(MendedTake take)
    {
        if (!Moves.Hold(Seconds) || !Drifts.Hold(DriftPpm))
        {
            return new Refusal($"A take is moved by {Moves} seconds, and {Drifts} ppm of drift are undone.");
        }

        return take with { Tracks = [.. take.Tracks.Select(t => t with { Plan = t.Plan.Placed(Seconds * t.Rate.Hz, DriftPpm / 1e6) })] };
    }

    private string Ppm => string.Create(CultureInfo.InvariantCulture, $"{DriftPpm:0.0} ppm");

    /// <summary>A move in words.</summary>
    internal static string Moved(string what, double seconds) =>
        string.Create(CultureInfo.InvariantCulture, $"{what} {Math.Abs(seconds) * 1000:0.00} ms {(seconds < 0 ? "later" : "earlier")}");
}
