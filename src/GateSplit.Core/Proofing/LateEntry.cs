using System.Numerics.Tensors;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>Whether a file comes in too late: the first notes of its part are all far softer in it than those behind them.</summary>
internal static class LateEntry
{
    private const int Several = 2; // notes: a single one may be a ghost
    private const int LeastBehind = 4; // notes with which they are compared
    private const double Lead = 0.002; // s
    private const double Longest = 0.15; // s of a note that is looked at
    private const double Shortest = 0.02;
    private const double Softer = 6; // dB below the softest of those behind
    private const double Softest = 0.1; // of these, softer ones do not count

    /// <summary>Counts the notes that are missing at the start, of those that lie in the file.</summary>
    /// <param name="sound">The file.</param>
    /// <param name="part">What it holds.</param>
    /// <param name="time">The time of the take.</param>
    /// <param name="late">By how much later than the take it is, in seconds.</param>
    public static int Missing(IMonoSound sound, Part part, TakeTime time, double late)
    {
        var starts = part.Notes.Select(n => time.Of(n) + late).Where(t => t >= 0).ToArray();
        var levels = new double[starts.Length];
        for (var i = 0; i < starts.Length; i++)
        {
            var room = i + 1 < starts.Length ? starts[i + 1] - starts[i] : Longest;
            var samples = new float[(int)(Math.Clamp(room - Lead, Shortest, Longest) * sound.Rate.Hz)];
            sound.Read((long)((starts[i] - Lead) * sound.Rate.Hz), samples);
            levels[i] = 10 * Math.Log10(TensorPrimitives.SumOfSquares<float>(samples) / samples.Length + double.Epsilon);
        }

        var loudest = double.NegativeInfinity;
        var missing = 0;
        for (var i = 0; i < levels.Length - LeastBehind; i++)
        {
            loudest = Math.Max(loudest, levels[i]);
            var behind = levels[(i + 1)..].Order().ToArray();
            if (i + 1 >= Several && loudest < behind[(int)(Softest * behind.Length)] - Softer)
            {
                missing = i + 1;
            }
        }

        return missing;
    }
}
