using System.Collections.Immutable;
using System.Numerics.Tensors;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using MathNet.Numerics.LinearAlgebra;

namespace GateSplit.Core.Proofing;

/// <summary>How a second recording of something lies to a first.</summary>
/// <param name="OffsetFrames">How much later it is at its start, with fractions.</param>
/// <param name="DriftPpm">How much slower it runs, in millionths: positive where it falls back more and more.</param>
/// <param name="Gain">How much louder it is.</param>
/// <param name="Polarity">-1 where it is upside down.</param>
/// <param name="Residual">What is left of it when all that is taken back and the first is taken away, against the first.</param>
public sealed record Comparison(double OffsetFrames, double DriftPpm, Decibels Gain, int Polarity, Decibels Residual)
{
    private const int Window = 3 << 13; // frames at 48 kHz; with what it is looked for in, a power of two
    private const int Search = 1 << 12; // frames at 48 kHz a window is looked for on either side of where it is expected
    private const int MostWindows = 48;
    private const double Clear = 8; // a peak stands out so far where two windows have something in common
    private const double Dim = 4.5; // what may be a peak, if others say the same
    private const int LeastDim = 8;
    private const double OnlyPlace = 2; // how far it leads all others where it is no tone that fits at each of its periods
    private const int LeastAlone = 4; // windows, each clear, that tell by themselves
    private const int MostPlaces = 8; // of a tone in a window
    private const double NearlyAsHigh = 0.6;
    private const double Steep = 2.5e-4; // hardly a clock is as wrong: one of the windows that say so is
    private const double MostDrift = 2e-3; // no clock is as wrong
    private const double AlongTheLine = 3; // frames at 48 kHz a window may lie beside the line
    private const double Finer = 1.5; // frames at 48 kHz by which least squares may move a line that windows tell
    private const double EnoughWindows = 0.5;
    private const double Silence = 1e-8; // mean square
    private const int LeastOnLine = 3; // windows, where there are as many: any two are on one
    private const double LeastShare = 1.0 / 3; // of all that are clear, that they are
    private const int LeastAgreed = 8; // windows of many that are on one line by no chance
    private const int MostRounds = 20;
    private const double Settled = 1e-5; // frames a round still moved it
    private const int RefinedWindows = 16;
    private const int ShortestPart = 20; // of a second: less tells nothing
    private const double Nothing = 1e-3; // frames: nearer to a whole number than can be measured
    private const int Apart = 8; // frames at 48 kHz
    private const int AnchorSeconds = 90;
    private const int MostAnchors = 6;
    private const int FarMore = 2; // times as many windows

    /// <summary>Compares two files of one sample rate.</summary>
    /// <param name="first">What the second is compared with.</param>
    /// <param name="second">The second.</param>
    /// <param name="cancel">Stops the reading.</param>
    /// <returns>Null where the two have nothing in common.</returns>
    public static Comparison? Of(IMonoSound first, IMonoSound second, CancellationToken cancel = default) =>
        Place(first, second, cancel) is var (start, slope) ? Left(first, second, start, slope, cancel) : null;

    /// <summary>Where a recording of the parts lies in one of the whole: as <see cref="Place"/>, but what was recorded by the same clock lies at a whole number of frames.</summary>
    /// <param name="whole">The whole.</param>
    /// <param name="parts">The parts, added up.</param>
    /// <param name="notes">Where it lies by the notes that were heard; null where that is not known.</param>
    /// <param name="cancel">Stops the reading.</param>
    public static Placement? Aligned(IMonoSound whole, IMonoSound parts, TakeTime? notes = null, CancellationToken cancel = default)
    {
        if (Line(whole, parts, notes, cancel) is not var (start, slope, line, found))
        {
            return null;
        }

        var (refined, steeper) = OneClock(whole, start, slope) is { } exact ? (exact, 0) : Refine(whole, parts, start, slope, line);
        return IsAlong((start, slope), (refined, steeper), whole, Finer) ? new(refined, steeper, found) : new(start, slope, found);
    }

    /// <summary>Where a recording of the parts lies in one of the whole, when it is known to some frames.</summary>
    /// <param name="whole">The whole.</param>
    /// <param name="parts">The parts, added up.</param>
    /// <param name="about">Where about it lies.</param>
    /// <param name="windows">Where the whole is looked at.</param>
    /// <param name="within">By how many frames at 48 kHz it may move at either end.</param>
    /// <returns>Null where least is left farther away.</returns>
    public static (double Start, double Slope)? Nearer(IMonoSound whole, IMonoSound parts, (double Start, double Slope) about, List<long> windows, double within = AlongTheLine)
    {
        var (start, slope) = Refine(whole, parts, about.Start, about.Slope, windows);
        return OneClock(whole, start, slope) is { } exact ? (exact, 0) : IsAlong(about, (start, slope), whole, within) ? (start, slope) : null;
    }

    /// <summary>True where one place lies along another from end to end: what bleeds in later, and is lost where it should be, may leave least elsewhere.</summary>
    private static bool IsAlong((double Start, double Slope) line, (double Start, double Slope) other, IMonoSound whole, double within)
    {
        var (first, more, most) = (other.Start - line.Start, (other.Slope - line.Slope) * whole.Frames.Count, within * Lasting.Frames(1, whole.Rate));
        return Math.Abs(first) < most && Math.Abs(first + more) < most;
    }

    /// <summary>The whole number of frames at which a place lies so nearly that both were recorded by the same clock; null where it does not.</summary>
    private static double? OneClock(IMonoSound whole, double start, double slope)
    {
        const double Near = 0.1; // frames
        return Math.Abs(start - Math.Round(start)) < Near && Math.Abs(slope * whole.Frames.Count) < 2 * Near ? Math.Round(start) : null;
    }

    /// <summary>Where the second lies: the offset at its start and how much it grows with each frame of the first.</summary>
    /// <returns>Null where the two have nothing in common.</returns>
    private static (double Start, double Slope)? Place(IMonoSound first, IMonoSound second, CancellationToken cancel = default) =>
        Line(first, second, null, cancel) is var (start, slope, line, _) ? Refine(first, second, start, slope, line) : null;

    /// <summary>A straight line through the offsets of windows.</summary>
    /// <param name="Start">The offset at the start of the first, in frames.</param>
    /// <param name="Slope">What it grows by with each frame.</param>
    /// <param name="Windows">The windows that lie along it.</param>
    /// <param name="Found">All that were found.</param>
    private readonly record struct Straight(double Start, double Slope, List<long> Windows, ImmutableArray<(double At, double Value)> Found);

    /// <summary>The likeliest of the straight lines through the offsets of windows.</summary>
    private static Straight? Line(IMonoSound first, IMonoSound second, TakeTime? notes, CancellationToken cancel)
    {
        if (Math.Min(first.Frames.Count, second.Frames.Count) < first.Rate.Hz / ShortestPart)
        {
            return null;
        }

        var flux = FluxEnvelope.Of(first, cancel);
        var starts = Starts(flux, first);

        // Where music repeats, windows are the same sound at many a place. The place where most rises meet is it if it is where it is expected; if
        // not, one that is there is, unless far fewer windows lie on it; if none is there, one with far more windows than it.
        var anchors = Anchors(flux, FluxEnvelope.Of(second, cancel), first.Rate.Hz).ToList();
        var likeliest = anchors.Count == 0 ? null : At(anchors[0]);
        if (likeliest is { } line && IsExpected(line))
        {
            return line;
        }

        var windows = likeliest?.Windows.Count ?? 0;
        var others = anchors.Skip(1).Select(At).OfType<Straight>().OrderByDescending(l => l.Windows.Count).ToList();
        return others.Where(l => IsExpected(l) && FarMore * l.Windows.Count > windows)
            .Concat(others.Where(l => windows > 0 && l.Windows.Count >= FarMore * windows))
            .Select(l => (Straight?)l).FirstOrDefault(likeliest);

        Straight? At(double anchor) => Windows(first, second, starts, anchor, cancel) is { } found ? Through(found, Along(first.Rate)) : null;
        bool IsExpected(Straight line) => notes?.IsLike(line.Start / first.Rate.Hz, line.Slope) == true;
    }

    /// <summary>How far from a line windows may lie that are on it, in frames.</summary>
    private static double Along(SampleRate rate) => AlongTheLine * Lasting.Frames(1, rate);

    /// <summary>The offset of one window.</summary>
    /// <param name="At">The window, in frames of the first.</param>
    /// <param name="Value">Its offset.</param>
    /// <param name="IsClear">True where its peak is; else it is one only if others say the same.</param>
    private readonly record struct WindowOffset(double At, double Value, bool IsClear);

    /// <summary>The line through the offsets of windows; null where too few lie on one, or no clock is as wrong.</summary>
    private static Straight? Through(List<WindowOffset> found, double along)
    {
        var (start, slope) = Fit(found);
        var line = OnLine(start, slope);
        if (line.Count < EnoughWindows * found.Count && Likeliest() is { } most && IsNoChance(most))
        {
            // Where files of a sum lie beside each other, each window tells of the loudest of them there: those that agree are of one.
            (start, slope) = Fit(most);
            line = OnLine(start, slope);
        }

        return (!IsNoChance(line) && line.Count < Math.Max(Math.Min(LeastOnLine, found.Count), EnoughWindows * found.Count)) || Math.Abs(slope) > MostDrift
            ? null
            : new(start, slope, [.. line.Select(w => (long)w.At)], [.. found.OrderBy(w => w.At).Select(w => (w.At, w.Value))]);

        static (double Start, double Slope) Fit(List<WindowOffset> windows) => TheilSen.Fit([.. windows.Select(w => (w.At, w.Value))]);
        bool IsNoChance(List<WindowOffset> line) =>
            line.Count >= LeastAgreed || (line.Count(w => w.IsClear) is >= LeastAlone and var clear && clear >= LeastShare * found.Count(w => w.IsClear));
        List<WindowOffset> OnLine(double start, double slope) => found.FindAll(w => Math.Abs(w.Value - start - slope * w.At) <= along);

        List<WindowOffset>? Likeliest()
        {
            var length = found.Max(w => w.At) - found.Min(w => w.At);
            return (from one in found
                    from other in found
                    where other.At - one.At > length / 4
                    let slope = (other.Value - one.Value) / (other.At - one.At)
                    where Math.Abs(slope) <= MostDrift
                    select OnLine(one.Value - slope * one.At, slope)).MaxBy(l => (l.Count(w => w.IsClear), l.Count));
        }
    }

    /// <summary>Moves a line until least is left.</summary>
    private static (double Start, double Slope) Refine(IMonoSound first, IMonoSound second, double start, double slope, List<long> line)
    {
        var spread = line.Where((_, i) => i % (1 + (line.Count - 1) / RefinedWindows) == 0).Select(at => (at, Filtered(first, at))).ToList();
        for (var (round, moved) = (0, 1.0); round < MostRounds && moved > Settled; round++)
        {
            if (Refined(spread, second, start, slope, Math.Max(1, first.Frames.Count)) is not var (more, steeper) || Math.Abs(more) > Along(first.Rate))
            {
                break;
            }

            (start, slope) = (start + more, slope + steeper);
            moved = Math.Abs(more) + Math.Abs(steeper * first.Frames.Count);
        }

        if (Math.Abs(start - Math.Round(start)) < Nothing && Math.Abs(slope * first.Frames.Count) < Nothing)
        {
            (start, slope) = (Math.Round(start), 0);
        }

        return (start, slope);
    }

    /// <summary>Where the stretch of the first that rises most may lie in the second, the likeliest first.</summary>
    /// <returns>By how many frames it is later there, to some milliseconds.</returns>
    private static IEnumerable<double> Anchors(float[] first, float[] second, int rate)
    {
        var length = Math.Min(first.Length, AnchorSeconds * FluxEnvelope.Rate);
        var (best, sum) = (0, first.Take(length).Sum(f => (double)f));
        for (var (start, highest) = (1, sum); start + length <= first.Length; start++)
        {
            sum += first[start + length - 1] - first[start - 1];
            (best, highest) = sum > highest ? (start, sum) : (best, highest);
        }

        var within = new float[2 * length + second.Length];
        second.CopyTo(within.AsSpan(length));
        return CrossCorrelation.Tops(CrossCorrelation.Lags(Level(Broad(first.AsSpan(best, length))), Broad(within)), MostAnchors, NearlyAsHigh)
            .Select(top => (top.Lag - length - best) * rate / FluxEnvelope.Rate);
    }

    /// <summary>Each stretch with half of its neighbours, since over so long a time drift moves some of them into the next.</summary>
    private static float[] Broad(ReadOnlySpan<float> flux)
    {
        var broad = flux.ToArray();
        for (var i = 1; i < broad.Length - 1; i++)
        {
            broad[i] = flux[i] + (flux[i - 1] + flux[i + 1]) / 2;
        }

        return broad;
    }

    /// <summary>Less its mean, so that what is everywhere does not count.</summary>
    private static float[] Level(ReadOnlySpan<float> flux)
    {
        var mean = flux.Length == 0 ? 0 : TensorPrimitives.Sum(flux) / flux.Length;
        return [.. flux.ToArray().Select(f => f - mean)];
    }

    /// <summary>Windows along a file, each about the place in its part where the level rises most, the steepest first: there a sound has one place only.</summary>
    private static List<long> Starts(float[] flux, IMonoSound first)
    {
        var window = Lasting.Frames(Window, first.Rate);
        var count = (int)Math.Clamp(first.Frames.Count / window, 1, MostWindows);
        return
        [
            .. from part in Enumerable.Range(0, count)
               let begin = (int)((long)part * flux.Length / count)
               let rise = Enumerable.Range(begin, (int)((part + 1L) * flux.Length / count) - begin).MaxBy(i => flux[i])
               orderby flux[rise] descending
               select (long)rise * first.Rate.Hz / FluxEnvelope.Rate - window / 2,
        ];
    }

    /// <summary>Offsets along the first, each looked for near that of the nearest window that is known.</summary>
    /// <returns>Frames of the first with their offsets; null where too few are clear.</returns>
    private static List<WindowOffset>? Windows(IMonoSound first, IMonoSound second, List<long> starts, double anchor, CancellationToken cancel)
    {
        var (window, search) = (Lasting.Frames(Window, first.Rate), Lasting.Frames(Search, first.Rate));
        var (sound, within) = (new float[window], new float[window + 2 * search]);
        var (found, dim, looked) = (new List<WindowOffset>(), new List<WindowOffset>(), 0);
        var several = new List<(double At, List<(double Value, double Share)> Places)>();
        foreach (var start in starts)
        {
            cancel.ThrowIfCancellationRequested();
            first.Read(start, sound);
            if (TensorPrimitives.SumOfSquares<float>(sound) / window < Silence)
            {
                continue;
            }

            // Where the second has not begun or has ended there is nothing to find.
            var expected = found.Count == 0 ? anchor : found.MinBy(f => Math.Abs(f.At - start)).Value;
            var from = start + (long)Math.Round(expected) - search;
            if (from + search < -window / 2 || from + search > second.Frames.Count - window / 2)
            {
                continue;
            }

            Hann.Fade(sound);
            second.Read(from, within);
            var lags = CrossCorrelation.Lags(sound, within, whitened: true);
            var peak = CrossCorrelation.PeakOf(lags, first.Rate);
            if (peak.Clearness < Clear)
            {
                looked++;
                if (peak.Clearness >= Dim)
                {
                    dim.Add(new(start, from + peak.Lag - start, false));
                }
            }
            else if (peak.Lead >= OnlyPlace)
            {
                looked++;
                found.Add(new(start, from + peak.Lag - start, true));
            }
            else
            {
                several.Add((start, [.. CrossCorrelation.Tops(lags, MostPlaces, NearlyAsHigh).Select(t => (from + t.Lag - start, t.Share))]));
            }
        }

        // A tone fits at each of its periods, but not those of another: where most of them fit together, and with those that have one place only, that is where all belong.
        if (found.Count < LeastAlone && found.Count + several.Count > LeastAlone && Agreed(found, several, Along(first.Rate)) is { } agreed)
        {
            return agreed;
        }

        // Under noise, few windows are clear; but where many of the others lie on one line with them, that is no chance.
        return found.Count == 0 ? null
            : found.Count >= EnoughWindows * looked ? found
            : found.Count + dim.Count >= Math.Max(LeastDim, EnoughWindows * looked) ? [.. found, .. dim] : null;
    }

    /// <summary>Of windows that each fit at several places, the places that most of them have on one line.</summary>
    /// <param name="sure">Windows with one place only, through all of which the line leads unless one of them is wrong.</param>
    /// <param name="several">The others, each with how high its places are.</param>
    /// <param name="along">How far from a line they may lie.</param>
    /// <returns>Null where no line is alone the best.</returns>
    private static List<WindowOffset>? Agreed(List<WindowOffset> sure, List<(double At, List<(double Value, double Share)> Places)> several, double along)
    {
        const double Better = 1.1; // than any other line
        const double Together = 4; // times as far apart as windows may lie from a line: nearer places are those of one, which a filter has split
        List<(double At, List<(double Value, double Share)> Places)> windows = [.. sure.Select(f => (f.At, (List<(double, double)>)[(f.Value, 1)])), .. several];
        var (first, last) = (windows.Min(w => w.At), windows.Max(w => w.At));
        (double Value, double Share)? On(double value, double slope, (double At, List<(double Value, double Share)> Places) window) =>
            window.Places.Where(p => Math.Abs(p.Value - value - slope * (window.At - first)) <= along).Select(p => ((double, double)?)p).FirstOrDefault();
        var lines = (from one in windows
                     from other in windows
                     where other.At - one.At > (last - first) / 4
                     from a in one.Places
                     from b in other.Places
                     let slope = (b.Value - a.Value) / (other.At - one.At)
                     where Math.Abs(slope) <= MostDrift
                     let value = a.Value - slope * (one.At - first)
                     select (Value: value, Slope: slope, Votes: windows.Sum(w => On(value, slope, w)?.Share ?? 0))).ToList();

        // One of several that seem to fit at one place only may be wrong: then they tell a drift that hardly a clock has.
        var through = Best(lines.FindAll(l => sure.TrueForAll(f => Math.Abs(f.Value - l.Value - l.Slope * (f.At - first)) <= along)));
        var isOneWrong = sure.Count > 1 && Math.Abs(TheilSen.Fit([.. sure.Select(f => (f.At, f.Value))]).Slope) > Steep;
        return through is null && isOneWrong ? Best(lines) : through;

        double Middle((double Value, double Slope, double Votes) line) => line.Value + line.Slope * (last - first) / 2;

        List<WindowOffset>? Best(List<(double Value, double Slope, double Votes)> among)
        {
            if (among.Count == 0)
            {
                return null;
            }

            var best = among.MaxBy(l => l.Votes);
            var next = among.Where(l => Math.Abs(Middle(l) - Middle(best)) > Together * along).Select(l => l.Votes).DefaultIfEmpty().Max();
            return best.Votes < EnoughWindows * windows.Count || best.Votes < Better * next
                ? null
                : [.. windows.Select(w => (w.At, Place: On(best.Value, best.Slope, w))).Where(w => w.Place is not null).Select(w => new WindowOffset(w.At, w.Place!.Value.Value, true))];
        }
    }

    /// <summary>
    /// By how much start and slope of the offset are still wrong: the second, moved a little, is its value and the little times its slope, and
    /// the least squares of all windows tell how little (Gauss and Newton's step, with the gain as its third unknown).
    /// </summary>
    /// <param name="wanted">Windows of the first, through the filter that the second goes through.</param>
    /// <param name="second">The second.</param>
    /// <param name="start">The offset at the start.</param>
    /// <param name="slope">What it grows by with each frame.</param>
    /// <param name="scale">Frames of the first.</param>
    private static (double Start, double Slope)? Refined(IReadOnlyList<(long At, float[] Sound)> wanted, IMonoSound second, double start, double slope, double scale)
    {
        var (window, apart) = (Lasting.Frames(Window, second.Rate), Lasting.Frames(Apart, second.Rate));
        var (input, here) = (new float[window + 4 * Interpolator.Reach + 2 + apart], new float[window + 2 + apart]);
        var sums = new double[3, 4];
        foreach (var (at, sound) in wanted)
        {
            var place = at + start + slope * at - 1 - apart;
            var whole = (long)Math.Floor(place) - 2 * Interpolator.Reach;
            second.Read(whole, input);
            Interpolator.Fill(place - whole, 1 + slope, input, here);
            Differences(here, apart);
            for (var i = 0; i < window; i++)
            {
                var rise = (here[i + 2] - here[i]) / 2.0;
                var along = rise * ((at + i) / scale);
                double one = -sound[i], other = -here[i + 1];
                sums[0, 0] += rise * rise;
                sums[0, 1] += rise * along;
                sums[0, 2] += rise * one;
                sums[0, 3] += rise * other;
                sums[1, 1] += along * along;
                sums[1, 2] += along * one;
                sums[1, 3] += along * other;
                sums[2, 2] += one * one;
                sums[2, 3] += one * other;
            }
        }

        var equations = Matrix<double>.Build.Dense(3, 3, (r, c) => r <= c ? sums[r, c] : sums[c, r]);
        var solved = equations.Solve(Vector<double>.Build.Dense(3, r => sums[r, 3]));
        return solved.All(double.IsFinite) ? (solved[0], solved[1] / scale) : null;
    }

    /// <summary>A window through the filter that moves sounds, not moved.</summary>
    private static float[] Filtered(IMonoSound sound, long at)
    {
        var (window, apart) = (Lasting.Frames(Window, sound.Rate), Lasting.Frames(Apart, sound.Rate));
        var (input, into) = (new float[window + 2 * Interpolator.Reach + apart], new float[window + apart]);
        sound.Read(at - apart - Interpolator.Reach, input);
        Interpolator.Fill(Interpolator.Reach, 1, input, into);
        Differences(into, apart);
        return into;
    }

    /// <summary>
    /// Each sample less one a little before it, the first of which are lost: what is low and louder in the one than in the other would draw the
    /// least squares aside where a window cuts it.
    /// </summary>
    private static void Differences(float[] samples, int apart)
    {
        for (var i = 0; i < samples.Length - apart; i++)
        {
            samples[i] = samples[i + apart] - samples[i];
        }
    }

    /// <summary>Gain, polarity and what is left, over all that the two have in common.</summary>
    private static Comparison? Left(IMonoSound first, IMonoSound second, double start, double slope, CancellationToken cancel)
    {
        var exact = slope == 0 && start == Math.Round(start);
        var (one, input) = (new float[Window + 2 * Interpolator.Reach], new float[Window + 4 * Interpolator.Reach]);
        var (wanted, here) = (new float[Window], new float[Window]);
        var (own, both, other) = (0.0, 0.0, 0.0);
        for (var at = Math.Max(0, (long)Math.Ceiling(-start)); at < first.Frames.Count; at += Window)
        {
            cancel.ThrowIfCancellationRequested();
            var count = (int)Math.Min(Window, Math.Min(first.Frames.Count - at, Math.Floor((second.Frames.Count - start) / (1 + slope)) - at));
            if (count <= 0)
            {
                break;
            }

            var place = at + start + slope * at;
            if (exact)
            {
                first.Read(at, wanted);
                second.Read((long)place, here);
            }
            else
            {
                // The first goes the same way, or what the filter takes off the top would be called a difference.
                first.Read(at - Interpolator.Reach, one);
                Interpolator.Fill(Interpolator.Reach, 1, one, wanted);
                var whole = (long)Math.Floor(place) - 2 * Interpolator.Reach;
                second.Read(whole, input);
                Interpolator.Fill(place - whole, 1 + slope, input, here);
            }

            for (var i = 0; i < count; i++)
            {
                own += (double)wanted[i] * wanted[i];
                both += (double)wanted[i] * here[i];
                other += (double)here[i] * here[i];
            }
        }

        if (own == 0 || both == 0)
        {
            return null;
        }

        var gain = both / own;
        var left = Math.Max(0, other - both * gain) / (gain * gain * own);
        return new(start, slope * 1e6, Decibels.FromRatio(gain), Math.Sign(gain), Decibels.FromRatio(Math.Sqrt(left)));
    }
}
