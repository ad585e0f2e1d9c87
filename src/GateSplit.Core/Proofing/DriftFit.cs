namespace GateSplit.Core.Proofing;

/// <summary>
/// The drift of a take from every note that was found, not from windows alone: a line through how late they are, the same for all tracks but for
/// where each begins, fitted by least squares in which what lies far beside counts little (Huber's weights).
/// </summary>
internal static class DriftFit
{
    private const int Enough = 24; // notes
    private const int EnoughOfTrack = 6;
    private const double Far = 1.5; // standard errors from which a note counts less
    private const int Rounds = 8;
    private const double Least = 0.0003; // s: no beginning is known better
    private const double OfMedian = 1.4826; // the standard deviation of normal errors over the median of their sizes
    private const double Caution = 2; // notes of one beat err alike, so that there are fewer of them than it seems

    /// <summary>Refines the time of a take.</summary>
    /// <param name="time">What is known of it.</param>
    /// <param name="tracks">What its tracks hold, with how late each note is.</param>
    /// <param name="parts">The parts.</param>
    /// <returns>The same where there are too few notes, or the windows tell as much.</returns>
    public static TakeTime Refined(TakeTime time, IReadOnlyList<Identity> tracks, IReadOnlyList<Part> parts)
    {
        var lines = tracks.Where(t => t.Part is not null && t.Offsets.Length >= EnoughOfTrack)
            .Select(t => new Line([.. t.Heard.Select(note => parts[t.Part!.Value].Notes[note])], [.. t.Offsets]))
            .ToList();
        if (lines.Sum(l => l.At.Length) < Enough)
        {
            return time;
        }

        var slope = 0.0;
        for (var round = 0; round < Rounds; round++)
        {
            lines.ForEach(l => l.Weigh(slope));
            slope = lines.Sum(l => l.Product) / lines.Sum(l => l.Square);
        }

        var spread = Caution / Math.Sqrt(lines.Sum(l => l.Square));
        if (!(spread > 0 && spread < double.PositiveInfinity) || (time.Spread > 0 && spread > time.Spread))
        {
            return time;
        }

        // What is known of the offset is known of the middle.
        var middle = lines.Sum(l => l.Middle * l.Weight) / lines.Sum(l => l.Weight);
        return time with { Drift = time.Drift + slope, Offset = time.Offset - slope * middle, Spread = spread };
    }

    /// <summary>The notes of one track.</summary>
    private sealed class Line(double[] at, double[] late)
    {
        private readonly double[] _weights = [.. at.Select(_ => 1.0)];

        public double[] At => at;

        public double Weight { get; private set; }

        public double Middle { get; private set; }

        public double Product { get; private set; }

        public double Square { get; private set; }

        /// <summary>Weighs the notes by how far they lie beside a line of this slope, and adds up what tells a better one.</summary>
        public void Weigh(double slope)
        {
            var beside = TheilSen.Median([.. late.Select((l, i) => l - slope * at[i])]);
            var error = Least + OfMedian * TheilSen.Median([.. late.Select((l, i) => Math.Abs(l - slope * at[i] - beside))]);
            for (var i = 0; i < at.Length; i++)
            {
                _weights[i] = Math.Min(1, Far * error / Math.Max(double.Epsilon, Math.Abs(late[i] - slope * at[i] - beside))) / (error * error);
            }

            Weight = _weights.Sum();
            Middle = Mean(at);
            var mean = Mean(late);
            Product = _weights.Select((w, i) => w * (at[i] - Middle) * (late[i] - mean)).Sum();
            Square = _weights.Select((w, i) => w * (at[i] - Middle) * (at[i] - Middle)).Sum();
        }

        private double Mean(double[] of) => _weights.Select((w, i) => w * of[i]).Sum() / Weight;
    }
}
