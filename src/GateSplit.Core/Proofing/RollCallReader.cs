using System.Collections.Immutable;
using System.Numerics;
using System.Numerics.Tensors;
using System.Runtime.Intrinsics;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>Reads a recording of a roll call: finds the start, cuts it into turns, and measures each turn on every channel.</summary>
internal sealed class RollCallReader(RollCall call, IReadOnlyList<IMonoSound> channels, CancellationToken cancel)
{
    private const double Near = 0.012; // s a hit of the marker may lie beside its place
    private const double Widely = 0.25; // s any hit may, since each channel may have a latency of its own
    private const int LeastOfMarker = 5; // of its four hits and the three of the first turn
    private const double StruckSeconds = 0.45;
    private const double HeldSeconds = 1.4;

    // Each channel may be late by a latency of its own, and the start is told by one of them: seconds before and behind a hit that may belong to it.
    private const double Early = 0.25;
    private const double Late = 0.25;
    private const double MostDrift = 0.0015; // no clock of a machine is farther off: hits that are told so were not the same sound
    private const double EarlyByHand = 0.02; // where the first channel tells the hit
    private const double Quiet = 0.3; // s before that, in which the noise is measured
    private const double OverFloor = 6; // times: 8 dB
    private const double OverNoise = 10; // times: above it the whole tells the level
    private const double Silence = 1e-11; // mean square: -110 dBFS
    private const double FurthestLatency = 0.25; // s
    private const double Beginning = 0.003; // s a beginning is known to
    private const double FullScale = 32767.0 / 32768;
    private const double CrosstalkCompared = 40; // dB under the loudest, down to which time and polarity are told
    private readonly SampleRate _rate = channels.Count == 0 ? SampleRate.Limits.Low : channels[0].Rate;

    /// <summary>Reads it.</summary>
    public Result<RollCallReading> Read(bool byHand)
    {
        if (call.Turns.IsEmpty)
        {
            return new Refusal("Nothing in this split takes notes, so there is nobody to call.");
        }

        if (channels.Count == 0)
        {
            return new Refusal("There is no channel in the recording.");
        }

        var onsets = new ImmutableArray<Onset>[channels.Count];
        Parallel.For(0, channels.Count, new ParallelOptions { CancellationToken = cancel, MaxDegreeOfParallelism = Environment.ProcessorCount }, i => onsets[i] = Onsets.Of(channels[i], cancel));
        if (onsets.All(o => o.IsEmpty))
        {
            return new Refusal("Nothing begins in the recording: it holds silence or noise only. Look at the output mode of the gear, its cables and the inputs.");
        }

        ImmutableArray<ImmutableArray<double>>? times;
        double? start = null;
        if (byHand)
        {
            times = new HandOrder(call, channels, onsets).Times();
        }
        else
        {
            start = Start(onsets);
            times = start is { } at ? [.. call.Turns.Select(t => ImmutableArray.CreateRange(t.Hits.Select(h => at + h)))] : null;
        }

        if (times is null)
        {
            return new Refusal(byHand
                ? "The hits in the recording do not fit the order: each element needs two hits or more, at least 0.7 s apart."
                : "The start marker was not found in the recording, and the turns do not fit it either. Was it recorded from the beginning, and on the right inputs?");
        }

        var drift = byHand ? null : DriftOf(onsets, start!.Value);
        if (drift is { } slow)
        {
            times = [.. call.Turns.Select(t => ImmutableArray.CreateRange(t.Hits.Select(h => start!.Value + h * (1 + slow))))];
        }

        var heard = new TurnHeard[call.Turns.Length];
        var floors = new double[channels.Count, call.Turns.Length];
        var lags = new Lagged?[channels.Count, call.Turns.Length];
        var beside = Filled([.. call.Turns.Select((turn, t) => onsets.Select(o => turn.Held ? null : Beside(o, times.Value[t])).ToArray())]);
        Parallel.For(0, call.Turns.Length, new ParallelOptions { CancellationToken = cancel, MaxDegreeOfParallelism = Environment.ProcessorCount }, i => heard[i] = Heard(call.Turns[i], times.Value[i], onsets, beside[i], floors, lags, i, byHand));
        return new RollCallReading(
            call,
            start,
            drift * 1e6,
            Beside([.. heard.Select((h, i) => Surer(h, i, heard, lags, times.Value[i]))], times.Value),
            [.. Enumerable.Range(0, channels.Count).Select(c => Decibels.FromRatio(Math.Sqrt(TheilSen.Median([.. Enumerable.Range(0, call.Turns.Length).Select(t => floors[c, t])]))))]);
    }

    /// <summary>Where the first hit of the marker lies: by the marker and the first turn on one channel, or else by all turns on any.</summary>
    private double? Start(ImmutableArray<Onset>[] onsets)
    {
        double[] marker = [.. RollCall.Marker, .. call.Turns[0].Hits];
        var (best, found, strongest) = (0.0, 0, 0.0);
        foreach (var channel in onsets)
        {
            foreach (var onset in channel)
            {
                foreach (var hit in marker)
                {
                    var start = onset.Seconds - hit;
                    var met = marker.Select(m => Nearest(channel, start + m, Near)).OfType<Onset>().ToList();
                    var strength = met.Sum(m => m.Strength);
                    if (met.Count > found || (met.Count == found && strength > strongest * 1.0001))
                    {
                        (best, found, strongest) = (start + TheilSen.Median([.. marker.Select(m => Nearest(channel, start + m, Near) is { } o ? o.Seconds - start - m : (double?)null).OfType<double>()]), met.Count, strength);
                    }
                }
            }
        }

        // A held element has one hit in its turn, and its marker four.
        return found >= Math.Min(LeastOfMarker, marker.Length - 1) ? best : ByTurns(onsets) ?? ByLeads(onsets);
    }

    /// <summary>
    /// Where nothing of the first element is heard, the other turns tell the start: where most of them meet a beginning, and nothing is heard in the first.
    /// </summary>
    private double? ByTurns(ImmutableArray<Onset>[] onsets)
    {
        var hits = call.Turns.Skip(1).SelectMany(t => t.Hits).ToArray();
        double[] none = [.. RollCall.Marker, .. call.Turns[0].Hits];
        var all = onsets.SelectMany(o => o).Select(o => o.Seconds).Order().ToArray();
        var (best, score) = (0.0, 0.0);
        foreach (var onset in all)
        {
            foreach (var hit in hits)
            {
                var start = onset - hit;
                var met = hits.Count(h => Any(all, start + h, Near)) - 2.0 * none.Count(n => Any(all, start + n, Near));
                if (met > score)
                {
                    (best, score) = (start, met);
                }
            }
        }

        return score >= Math.Max(3, hits.Length / 3.0) ? best : null;

        static bool Any(double[] sorted, double at, double within)
        {
            var next = Array.BinarySearch(sorted, at - within);
            next = next < 0 ? ~next : next;
            return next < sorted.Length && sorted[next] <= at + within;
        }
    }

    /// <summary>
    /// Where nothing of the first element is heard and the others are few: each begins after a pause, and nothing else does.
    /// </summary>
    private double? ByLeads(ImmutableArray<Onset>[] onsets)
    {
        const double Pause = 0.7; // s: hits of one element lie farther apart, what swings in what is held does not
        const double Start = 0.01; // s
        const double Faint = 0.05; // of the strongest: so begins the noise of a channel, with the file
        var faint = Faint * onsets.SelectMany(o => o).Max(o => o.Strength);
        var all = onsets.SelectMany(o => o).Where(o => o.Seconds > Start || o.Strength > faint).Select(o => o.Seconds).Order().ToArray();
        var leads = all.Where((at, i) => i == 0 || at - all[i - 1] > Pause).ToArray();
        var hits = call.Turns.Skip(1).SelectMany(t => t.Hits).ToArray();
        double[] starts = [.. leads.Zip(hits, (lead, hit) => lead - hit)];
        return leads.Length == hits.Length && starts.Length > 1 && starts.Max() - starts.Min() < Widely ? starts.Min() : null;
    }

    private static Onset? Nearest(ImmutableArray<Onset> onsets, double at, double within)
    {
        var (low, high) = (0, onsets.Length);
        while (low < high)
        {
            var middle = (low + high) / 2;
            (low, high) = onsets[middle].Seconds < at - within ? (middle + 1, high) : (low, middle);
        }

        Onset? nearest = null;
        for (var i = low; i < onsets.Length && onsets[i].Seconds <= at + within; i++)
        {
            nearest = nearest is { } n && Math.Abs(n.Seconds - at) <= Math.Abs(onsets[i].Seconds - at) ? n : onsets[i];
        }

        return nearest;
    }

    /// <summary>
    /// How slow the recording runs: by the hits of each turn against each other, which are one sound. Where these do not tell, by how the turns lie
    /// to each other if all channels have one latency. What is held begins too softly to tell.
    /// </summary>
    private double? DriftOf(ImmutableArray<Onset>[] onsets, double start)
    {
        const int Enough = 3;
        const double OneLatency = 0.0005; // s
        const double OnLine = 0.75; // of the turns: latencies of their own may lie along a line by chance
        var firsts = new List<(Turn Turn, int Channel, double At)>();
        foreach (var turn in call.Turns.Where(t => !t.Held))
        {
            var met = onsets.Select((o, c) => (Channel: c, First: Nearest(o, start + turn.Hits[0], Widely))).Where(m => m.First is not null).ToList();
            if (met.Count > 0)
            {
                var (channel, first) = met.MaxBy(m => m.First!.Value.Strength);
                firsts.Add((turn, channel, first!.Value.Seconds));
            }
        }

        if (OfOneSound(firsts) is { } slow)
        {
            return slow;
        }

        List<(double At, double Value)> late = firsts.ConvertAll(f => (f.Turn.Hits[0], f.At - start - f.Turn.Hits[0]));
        return late.Count >= Enough && TheilSen.Fit(late) is var (offset, slope) && Math.Abs(slope) <= MostDrift && late.Count(f => Math.Abs(f.Value - offset - (slope * f.At)) < OneLatency) >= OnLine * late.Count
            ? slope
            : null;
    }

    /// <summary>By how much the last hits of the turns lie farther behind the first than they were played, by the correlations of all turns together; null where they do not tell.</summary>
    private double? OfOneSound(List<(Turn Turn, int Channel, double At)> firsts)
    {
        const double Around = 0.01; // s
        const double Length = 0.1;
        const double Clear = 8;
        var (around, length) = ((int)(Around * _rate.Hz), (int)(Length * _rate.Hz));
        var (one, other) = (new float[length], new float[length + (2 * around)]);
        var size = (int)BitOperations.RoundUpToPowerOf2((uint)other.Length);
        var (sum, seconds) = (new Complex[size], firsts.Select(f => f.Turn.Hits[^1] - f.Turn.Hits[0]).FirstOrDefault());
        var apart = (long)(seconds * _rate.Hz);
        foreach (var (turn, channel, at) in firsts)
        {
            var from = (long)((at - Around) * _rate.Hz);
            channels[channel].Read(from, one);
            channels[channel].Read(from + apart - around, other);
            FadeEnds(one);
            var (first, last) = (RealFourier.Forward(one, size), RealFourier.Forward(other, size));
            Complex[] cross = [.. first.Zip(last, (f, l) => Complex.Conjugate(f) * l)];
            CrossCorrelation.Whiten(cross);
            for (var i = 0; i < size; i++)
            {
                sum[i] += cross[i];
            }
        }

        var lags = RealFourier.Back(sum, (2 * around) + 1);
        var rms = Math.Sqrt(lags.Sum(l => l * l) / lags.Length);
        var peak = CrossCorrelation.PeakOf(lags, _rate);
        var slow = (apart + peak.Lag - around) / (seconds * _rate.Hz) - 1;
        return lags[(int)Math.Round(peak.Lag)] >= Clear * rms && Math.Abs(slow) <= MostDrift ? slow : null;
    }

    private TurnHeard Heard(Turn turn, ImmutableArray<double> hits, ImmutableArray<Onset>[] onsets, double?[] beside, double[,] floors, Lagged?[,] lags, int index, bool byHand)
    {
        var measured = new (double Energy, double Floor, double Peak, Vector256<double> Low, Vector256<double> High, bool Heard)[channels.Count];
        for (var channel = 0; channel < channels.Count; channel++)
        {
            measured[channel] = Measured(channels[channel], hits, turn.Held, byHand, beside[channel]);
            floors[channel, index] = measured[channel].Floor;
        }

        var loudest = Enumerable.Range(0, channels.Count).Where(c => measured[c].Heard).OrderByDescending(c => measured[c].Energy).Cast<int?>().FirstOrDefault();
        if (loudest is not { } main)
        {
            return new(turn, null, [], null, []);
        }

        var level = Decibels.FromRatio(Math.Sqrt(measured[main].Energy));
        var arrivals = new List<Arrival>();
        foreach (var channel in Enumerable.Range(0, channels.Count).Where(c => measured[c].Heard))
        {
            // Under noise the bands in which it stands out tell more than the whole.
            var share = (Vector256.Sum(measured[channel].Low) + Vector256.Sum(measured[channel].High)) / Over(measured[main], measured[channel]);
            var own = channel == main || measured[channel].Energy > OverNoise * measured[channel].Floor ? Decibels.FromRatio(Math.Sqrt(measured[channel].Energy)) : level + Decibels.FromRatio(Math.Sqrt(Math.Min(1, share)));
            lags[channel, index] = channel == main || own.Value < level.Value - CrosstalkCompared ? null : Lag(main, channel, hits, beside[channel] - beside[main]);
            var (latency, polarity) = channel == main ? (0.0, 1) : (lags[channel, index]?.Seconds, lags[channel, index]?.Polarity);
            arrivals.Add(new(channel + 1, own, Decibels.FromRatio(measured[channel].Peak), latency, polarity, measured[channel].Peak >= FullScale));
        }

        var first = onsets[main].Where(o => o.Seconds > hits[0] - Near && o.Seconds < hits[0] + Widely).Select(o => (double?)o.Seconds).FirstOrDefault();
        return new(turn, first ?? hits[0], [.. arrivals.OrderByDescending(a => a.Channel == main + 1).ThenByDescending(a => a.Level)], null, Signature.Of(channels[main], first ?? hits[0]));

        // The loudest channel's energy in those bands in which the other one stands out.
        static double Over((double Energy, double Floor, double Peak, Vector256<double> Low, Vector256<double> High, bool Heard) main, (double Energy, double Floor, double Peak, Vector256<double> Low, Vector256<double> High, bool Heard) other)
        {
            var low = Vector256.ConditionalSelect(Vector256.GreaterThan(other.Low, Vector256<double>.Zero), main.Low, Vector256<double>.Zero);
            var high = Vector256.ConditionalSelect(Vector256.GreaterThan(other.High, Vector256<double>.Zero), main.High, Vector256<double>.Zero);
            return Math.Max(double.Epsilon, Vector256.Sum(low) + Vector256.Sum(high));
        }
    }

    /// <summary>By how much later than some hits a channel's sounds begin, where most of them have one.</summary>
    private static double? Beside(ImmutableArray<Onset> onsets, ImmutableArray<double> hits)
    {
        var met = hits.Select(h => First(onsets.Where(o => Math.Abs(o.Seconds - h) < Widely).ToList()) - h).OfType<double>().ToList();
        return 2 * met.Count > hits.Length && met.Max() - met.Min() < 2 * Near ? TheilSen.Median(met) : null;

        // A hall has many beginnings, and its first is not the strongest.
        static double? First(List<Onset> near)
        {
            const double Strong = 0.4; // of the strongest
            var least = Strong * near.Select(o => o.Strength).DefaultIfEmpty().Max();
            return near.Where(o => o.Strength >= least).Select(o => (double?)o.Seconds).FirstOrDefault();
        }
    }

    /// <summary>
    /// Where what rings on hides how a channel begins, what is clear on another one tells it: of two channels the one is later by as much in every turn.
    /// </summary>
    private static double?[][] Filled(double?[][] turns)
    {
        var heard = Enumerable.Range(0, turns[0].Length).Where(c => Array.Exists(turns, t => t[c] is not null)).ToArray();
        var later = heard.ToDictionary(c => c, c => heard.Select(other => (Other: other, By: Usual(turns.Select(t => t[c] - t[other]).OfType<double>()))).Where(l => l.By is not null).ToArray());
        return [.. turns.Select(turn => turn.Select((own, c) => own ?? (later.TryGetValue(c, out var by) ? Usual(by.Select(l => turn[l.Other] + l.By).OfType<double>()) : null)).ToArray())];
    }

    /// <summary>What most of some say; null where they differ.</summary>
    private static double? Usual(IEnumerable<double> told)
    {
        var all = told.ToArray();
        return all.Length > 0 && TheilSen.Median(all) is var usual && 2 * all.Count(t => Math.Abs(t - usual) < Near) > all.Length ? usual : null;
    }

    /// <summary>What stands above the noise of a channel at some hits, as a whole and in the bands in which it stands out.</summary>
    private (double Energy, double Floor, double Peak, Vector256<double> Low, Vector256<double> High, bool Heard) Measured(IMonoSound sound, ImmutableArray<double> hits, bool held, bool byHand, double? beside)
    {
        var rate = _rate.Hz;
        var (energy, floor, peak) = (0.0, 0.0, 0.0);
        var (floorLow, floorHigh, low, high) = (Vector256<double>.Zero, Vector256<double>.Zero, Vector256<double>.Zero, Vector256<double>.Zero);
        // Where its own beginnings are clear, they tell where to look; where they are not, it may be anywhere.
        var early = beside is { } at ? EarlyByHand - at : byHand ? EarlyByHand : Early;
        var length = held && !byHand ? HeldSeconds : StruckSeconds;
        var quiet = new float[(int)(Quiet * rate)];
        sound.Read((long)((hits[0] - (held ? Math.Max(early, Early) : early) - Quiet) * rate), quiet);
        (floorLow, floorHigh) = Wide(new BandEnergies(_rate).Add(quiet));
        floor = TensorPrimitives.SumOfSquares<float>(quiet) / quiet.Length;
        var samples = new float[(int)((beside is null ? early + length + Late : EarlyByHand + length) * rate)];
        foreach (var hit in hits)
        {
            sound.Read((long)((hit - early) * rate), samples);
            var (oneLow, oneHigh) = Wide(new BandEnergies(_rate).Add(samples));
            (low, high) = (low + oneLow / hits.Length, high + oneHigh / hits.Length);
            energy += TensorPrimitives.SumOfSquares<float>(samples) / (double)samples.Length / hits.Length;
            peak = Math.Max(peak, Math.Abs(TensorPrimitives.MaxMagnitude<float>(samples)));
        }

        var least = Vector256.Create(Silence);
        var overLow = Vector256.ConditionalSelect(Vector256.GreaterThan(low, OverFloor * floorLow + least), low - floorLow, Vector256<double>.Zero);
        var overHigh = Vector256.ConditionalSelect(Vector256.GreaterThan(high, OverFloor * floorHigh + least), high - floorHigh, Vector256<double>.Zero);
        var heard = Vector256.Sum(overLow) + Vector256.Sum(overHigh) > 0;

        // Where something louder is still dying away, the bands in which it stands out tell how much of all is its own.
        var own = energy - floor > OverNoise * floor ? energy - floor : energy * (Vector256.Sum(overLow) + Vector256.Sum(overHigh)) / Math.Max(double.Epsilon, Vector256.Sum(low) + Vector256.Sum(high));
        return (Math.Max(Silence, own * samples.Length / (length * rate)), floor, peak, overLow, overHigh, heard);

        static (Vector256<double> Low, Vector256<double> High) Wide(Vector256<float> bands) => Vector256.Widen(bands);
    }

    /// <summary>By how much later, and how, an element is on a channel than on its loudest.</summary>
    /// <param name="main">The loudest.</param>
    /// <param name="other">The channel.</param>
    /// <param name="hits">When it sounds.</param>
    /// <param name="about">By how many seconds, as the beginnings tell; null where they do not.</param>
    /// <param name="within">How well that is known, in seconds.</param>
    /// <returns>Null where it cannot be told.</returns>
    private Lagged? Lag(int main, int other, ImmutableArray<double> hits, double? about, double within = Beginning)
    {
        var rate = _rate.Hz;
        var reach = (int)(FurthestLatency * rate);
        var (sound, longer) = (new float[(int)(0.2 * rate)], new float[(int)(0.2 * rate) + 2 * reach]);
        var size = (int)BitOperations.RoundUpToPowerOf2((uint)longer.Length);
        var sum = new Complex[size];
        foreach (var hit in hits)
        {
            var at = (long)((hit - 0.01) * rate);
            channels[main].Read(at, sound);
            channels[other].Read(at - reach, longer);
            FadeEnds(sound);
            var (one, two) = (RealFourier.Forward(sound, size), RealFourier.Forward(longer, size));
            for (var i = 0; i < size; i++)
            {
                sum[i] += Complex.Conjugate(one[i]) * two[i];
            }
        }

        CrossCorrelation.Whiten(sum);
        const double Clear = 8;
        const double OnlyPlace = 1.2;
        var lags = RealFourier.Back(sum, 2 * reach + 1);
        var rms = Math.Sqrt(lags.Sum(l => l * l) / lags.Length);
        var furthest = about is null ? FurthestLatency : within;
        var first = (int)Math.Clamp(((about ?? 0) - furthest) * rate + reach, 0, lags.Length - 2);
        var end = (int)Math.Clamp(((about ?? 0) + furthest) * rate + reach + 1, first + 1, lags.Length);
        var peak = CrossCorrelation.PeakOf(lags.AsSpan(first, end - first), channels[main].Rate);
        var height = Math.Abs(lags[first + (int)Math.Round(peak.Lag)]);
        return height < Clear * rms || peak.Lead < OnlyPlace ? null : new((first + peak.Lag - reach) / rate, peak.Sign, height, peak.Lead);
    }

    /// <summary>
    /// An element that is hardly more than a tone has another place a period away that is nearly as clear: where one channel is later than the other by
    /// as much as another turn tells clearly, it is that.
    /// </summary>
    private TurnHeard Surer(TurnHeard turn, int index, TurnHeard[] all, Lagged?[,] lags, ImmutableArray<double> hits)
    {
        const double Same = 0.0001; // s
        const double Alone = 2; // times as clear as any other place
        const double AsClear = 0.6; // of the clearest
        return turn with { Arrivals = [.. turn.Arrivals.Select(Told)] };

        Arrival Told(Arrival arrival)
        {
            var (main, channel) = (turn.Arrivals[0].Channel, arrival.Channel - 1);
            if (lags[channel, index] is not { Lead: < Alone } own)
            {
                return arrival;
            }

            var clearest = Enumerable.Range(0, all.Length).Where(t => !all[t].Arrivals.IsEmpty && all[t].Arrivals[0].Channel == main).Select(t => lags[channel, t]).OfType<Lagged>().MaxBy(l => l.Lead)!;
            return clearest.Lead >= Alone && Lag(main - 1, channel, hits, clearest.Seconds, Same) is { } there && there.Height >= AsClear * own.Height
                ? arrival with { LatencySeconds = there.Seconds, Polarity = there.Polarity }
                : arrival;
        }
    }

    /// <summary>Fades a stretch at its ends: of a low sound that rings on, the edge of a cut would have more phases than the sound.</summary>
    private void FadeEnds(Span<float> samples)
    {
        var (fadeIn, fadeOut) = ((int)(0.005 * _rate.Hz), (int)(0.1 * _rate.Hz));
        for (var i = 0; i < fadeIn; i++)
        {
            samples[i] *= Faded(i, fadeIn);
        }

        for (var i = 0; i < fadeOut; i++)
        {
            samples[^(i + 1)] *= Faded(i, fadeOut);
        }

        static float Faded(int i, int length) => (float)(0.5 - (0.5 * Math.Cos(Math.PI * (i + 0.5) / length)));
    }

    /// <summary>Tells of each line by how much later it is than the others: its first hit against a line through all of them.</summary>
    private ImmutableArray<TurnHeard> Beside(TurnHeard[] heard, ImmutableArray<ImmutableArray<double>> times)
    {
        var late = heard.Select((h, i) => h.At is { } at && !h.Turn.Held ? at - times[i][0] : (double?)null).ToList();
        var usual = late.OfType<double>().ToList();
        return usual.Count < 2 ? [.. heard] : [.. heard.Select((h, i) => h with { BesideSeconds = late[i] - TheilSen.Median(usual) })];
    }

    /// <summary>By how much later one channel is than another.</summary>
    /// <param name="Seconds">By so much.</param>
    /// <param name="Polarity">-1 where it is upside down.</param>
    /// <param name="Height">What the two have in common there.</param>
    /// <param name="Lead">How many times as much as at any other place.</param>
    private sealed record Lagged(double Seconds, int Polarity, double Height, double Lead);
}
