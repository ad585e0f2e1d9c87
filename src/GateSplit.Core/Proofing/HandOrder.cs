using System.Collections.Immutable;
using System.Numerics.Tensors;
using System.Runtime.Intrinsics;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>
/// Finds the turns of a roll call that was played by hand: hits that sound alike and follow each other are one element's. The hits are cut into as
/// many stretches as there are elements so that those of a stretch are most alike (dynamic programming); one that is never heard has none.
/// </summary>
internal sealed class HandOrder(RollCall call, IReadOnlyList<IMonoSound> channels, ImmutableArray<Onset>[] onsets)
{
    private const double Apart = 0.5; // s: nearer ones are one hit on several channels, or its echo
    private const double EchoApart = 0.7; // s: so far apart hits are played; what is nearer and far softer is an echo
    private const double Echo = 0.3; // of the strength of the hit before it
    private const double Latest = 0.25; // s by which a channel may be later than another
    private const double Beside = 0.2; // of the strongest beginning of a hit
    private const double Seconds = 0.3; // each channel may have a latency of its own
    private const int MostHits = 8; // of one element
    private const double LoneHit = 1.5; // what it costs that an element was hit once only
    private const double NotHeard = 3; // that it was heard nowhere
    private const double Elsewhere = 0.8; // that it is loudest where it should not be
    private const double Twice = 3; // that two elements sound the same
    private const double TwiceBehindPause = 1.5; // and a pause lies between them
    private const double Fewest = 1.0 / 3; // hits for each element: where most are heard nowhere, the others tell what is wrong
    private const double Unlike = 0.5; // distance from which on two sounds are two
    private const double Paused = 1; // that its hits lie far apart, where a pause tells that the next element comes
    private const double Hurried = 0.5; // that the next comes without a pause
    private const double NoPause = 1.1; // times the usual time from hit to hit
    private const double Pause = 1.5;
    private const double Settled = 0.05; // s: where a recording begins, its noise begins
    private const double Faint = 0.002; // of the strongest hit of all: what is softer is no hit
    private const float Rises = 0.15f; // of the energy behind a hit, that was not there before: what dies away is no hit
    private const float RisesAlone = 0.6f; // the same on one channel, where all others may still ring

    /// <summary>The channels that are meant for some of the elements, not for most.</summary>
    private readonly HashSet<int> _telling = [.. call.Turns.SelectMany(t => t.Planned.Where(p => p.Direct).Select(p => p.Channel).Distinct()).CountBy(c => c).Where(c => 2 * c.Value <= call.Turns.Length).Select(c => c.Key)];

    /// <summary>When the hits of each turn sound.</summary>
    /// <returns>A list for each turn, made up for one that was not heard; null where they do not fit.</returns>
    public ImmutableArray<ImmutableArray<double>>? Times()
    {
        var heard = Hits().Select(at => (At: at, Profile: Profile(at))).Where(h => h.Profile is not null).ToList();
        if (heard.Count < Math.Max(2, call.Turns.Length * Fewest))
        {
            return null;
        }

        var (hits, profiles) = (heard.ConvertAll(h => h.At), heard.ConvertAll(h => h.Profile!));
        var (turns, count) = (call.Turns.Length, hits.Count);
        var usual = count < 2 ? 0 : TheilSen.Median([.. hits.Zip(hits.Skip(1), (one, next) => next - one)]);
        double[] pauses = [.. hits.Select((at, i) => i == 0 ? 1 : Math.Clamp(((at - hits[i - 1]) / usual - NoPause) / (Pause - NoPause), 0, 1))];
        var costs = new double[turns + 1, count + 1];
        var lengths = new int[turns + 1, count + 1];
        for (var hit = 1; hit <= count; hit++)
        {
            costs[0, hit] = double.PositiveInfinity;
        }

        for (var turn = 1; turn <= turns; turn++)
        {
            for (var hit = 0; hit <= count; hit++)
            {
                costs[turn, hit] = double.PositiveInfinity;
                for (var length = 0; length <= Math.Min(MostHits, hit); length++)
                {
                    var cost = costs[turn - 1, hit - length] + Cost(call.Turns[turn - 1], profiles, pauses, hit - length, length);
                    if (cost < costs[turn, hit])
                    {
                        (costs[turn, hit], lengths[turn, hit]) = (cost, length);
                    }
                }
            }
        }

        if (double.IsInfinity(costs[turns, count]))
        {
            return null;
        }

        var times = new ImmutableArray<double>[turns];
        for (var (turn, hit) = (turns, count); turn > 0; hit -= lengths[turn, hit], turn--)
        {
            var length = lengths[turn, hit];
            times[turn - 1] = length == 0 ? [-1] : [.. hits.Skip(hit - length).Take(length)];
        }

        return [.. times];
    }

    /// <summary>The times at which anything is hit, on whatever channels.</summary>
    private List<double> Hits()
    {
        // The strongest first: what rings on behind one must not hide the next.
        var all = onsets.SelectMany(o => o).Where(o => o.Seconds > Settled).OrderByDescending(o => o.Strength).ToList();
        var hits = new List<Onset>();
        foreach (var onset in all.TakeWhile(o => o.Strength > Faint * all[0].Strength).Where(o => !hits.Exists(h => IsOf(h, o))))
        {
            hits.Add(onset);
        }

        return [.. hits.Select(h => all.Where(o => Math.Abs(o.Seconds - h.Seconds) <= Latest && o.Strength > Beside * h.Strength && hits.MinBy(n => Math.Abs(n.Seconds - o.Seconds)) == h).Min(o => o.Seconds)).Order()];
    }

    /// <summary>True of a beginning that belongs to a stronger hit.</summary>
    private static bool IsOf(Onset hit, Onset other) =>
        Math.Abs(other.Seconds - hit.Seconds) <= Apart || (other.Strength < Echo * hit.Strength && other.Seconds > hit.Seconds && other.Seconds - hit.Seconds <= EchoApart);

    /// <summary>What a hit sounds like: the share of each band on each channel of all its energy, as amplitudes. Null where nothing becomes louder.</summary>
    private float[]? Profile(double at)
    {
        var profile = new float[channels.Count * BandEnergies.Bands];
        var (more, all, clear) = (0f, 0f, false);
        for (var channel = 0; channel < channels.Count; channel++)
        {
            var (samples, before) = (new float[(int)(Seconds * channels[channel].Rate.Hz)], new float[(int)(Seconds * channels[channel].Rate.Hz)]);
            channels[channel].Read((long)((at - 0.002) * channels[channel].Rate.Hz), samples);
            channels[channel].Read((long)((at - 0.01 - Seconds) * channels[channel].Rate.Hz), before);
            var behind = new BandEnergies(channels[channel].Rate).Add(samples);
            var bands = Vector256.Max(behind - new BandEnergies(channels[channel].Rate).Add(before), Vector256<float>.Zero);
            (more, all) = (more + Vector256.Sum(bands), all + Vector256.Sum(behind));
            clear |= Vector256.Sum(bands) > RisesAlone * Vector256.Sum(behind);
            for (var band = 0; band < BandEnergies.Bands; band++)
            {
                profile[channel * BandEnergies.Bands + band] = MathF.Sqrt(bands[band]);
            }
        }

        if (more < Rises * all && !clear)
        {
            return null;
        }

        var size = TensorPrimitives.Norm<float>(profile);
        TensorPrimitives.Divide(profile, Math.Max(size, float.Epsilon), profile);
        return profile;
    }

    /// <summary>What it costs to say that some hits are one element's: how unlike they are, how far from where it should be heard, and where between them, or not before them, there is a pause.</summary>
    private double Cost(Turn turn, List<float[]> profiles, double[] pauses, int first, int length)
    {
        if (length == 0)
        {
            return NotHeard;
        }

        var mean = new float[profiles[0].Length];
        for (var i = first; i < first + length; i++)
        {
            TensorPrimitives.Add(mean, profiles[i], mean);
        }

        TensorPrimitives.Divide(mean, length, mean);
        var unlike = 0.0;
        for (var i = first; i < first + length; i++)
        {
            unlike += TensorPrimitives.Distance<float>(profiles[i], mean);
        }

        var again = first == 0 ? 0 : Math.Max(0, 1 - TensorPrimitives.Distance<float>(profiles[first - 1], profiles[first]) / Unlike);
        // A mix of all tells nothing about where one belongs.
        double On(IEnumerable<int> some) => some.Where(c => c * BandEnergies.Bands <= mean.Length).Sum(c => TensorPrimitives.SumOfSquares<float>(mean.AsSpan((c - 1) * BandEnergies.Bands, BandEnergies.Bands)));
        List<int> own = [.. turn.Planned.Where(p => p.Direct && _telling.Contains(p.Channel)).Select(p => p.Channel)];
        var isElsewhere = own.Count > 0 && On(own) < 0.1 * On(_telling);
        var paused = Paused * pauses[(first + 1)..(first + length)].Sum() + Hurried * (1 - pauses[first]);
        return unlike + paused + (Twice + ((TwiceBehindPause - Twice) * pauses[first])) * again + (length == 1 ? LoneHit : 0) + (isElsewhere ? Elsewhere : 0);
    }
}
