using System.Collections.Immutable;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>What is known of one file of a take without asking what it should hold.</summary>
/// <param name="Levels">Its levels.</param>
/// <param name="Dropouts">How many holes and doubled buffers there are, all channels together.</param>
/// <param name="DropoutPlaces">The first of them, in order.</param>
/// <param name="Clicks">How many clicks there are, all channels together.</param>
/// <param name="ClickPlaces">The first of them, in order.</param>
/// <param name="Pair">How the two sides of a pair lie to each other.</param>
/// <param name="EndsInSound">How loud it still is where it ends, if it breaks off; null if it ends as it should.</param>
/// <param name="BeginsInSound">How loud it already is where it begins, if something was under way; null if not.</param>
public sealed record TrackScan(
    FileLevels Levels,
    long Dropouts,
    ImmutableArray<Dropout> DropoutPlaces,
    long Clicks,
    ImmutableArray<Click> ClickPlaces,
    PairState Pair,
    Decibels? EndsInSound,
    Decibels? BeginsInSound)
{
    private const int MostClicksKept = 100; // with their places
    private static readonly Decibels Gone = new(-60); // what has died away
    private static readonly Decibels LoudestFloor = new(-40); // what never falls under it is sound, not noise
    private static readonly Decibels OverFloor = new(12);

    /// <summary>True if no channel has anything in it.</summary>
    public bool IsSilent => Levels.Channels.All(c => c.Silent);

    /// <summary>The same without the steps with which what is played may begin, and without the spikes with which several notes of its own begin alike.</summary>
    /// <param name="notes">When anything is played, in seconds of the file, in order.</param>
    /// <param name="own">When what it holds is played, in order; empty where that is not known.</param>
    public TrackScan ClicksBeside(double[] notes, double[] own)
    {
        const double Before = 0.012; // s
        const double Behind = 0.045; // s: a clap begins several times
        const double Alike = 0.0015; // s: a spike lies there behind several notes
        const int Several = 3; // notes
        if (Clicks != ClickPlaces.Length || Clicks > ClickMeter.MostKept)
        {
            return this with { ClickPlaces = [.. ClickPlaces.Take(MostClicksKept)] };
        }

        // The note at which a click lies, and by how much behind it; null where it lies beside all.
        (int Note, double Behind)? At(double[] of, Click click)
        {
            var at = click.At.Seconds(Levels.Format.SampleRate);
            var note = Array.BinarySearch(of, at + Before) is >= 0 and var met ? met : ~Array.BinarySearch(of, at + Before) - 1;
            return note >= 0 && of[note] >= at - Behind ? (note, at - of[note]) : null;
        }

        var spikes = ClickPlaces.Where(c => c.Spike).Select(c => At(own, c)).OfType<(int Note, double Behind)>().ToList();
        bool Begins(Click click) => !click.Spike ? At(notes, click) is not null
            : At(own, click) is var (_, behind) && spikes.Where(s => Math.Abs(s.Behind - behind) <= Alike).Select(s => s.Note).Distinct().Take(Several).Count() == Several;
        var left = ClickPlaces.Where(c => !Begins(c)).ToList();
        return this with { Clicks = left.Count, ClickPlaces = [.. left.Take(MostClicksKept)] };
    }

    /// <summary>Reads a file once.</summary>
    /// <param name="reader">The open file.</param>
    /// <param name="progress">Told the share done, 0 to 1; may be null.</param>
    /// <param name="cancel">Stops the reading.</param>
    public static TrackScan Of(WaveReader reader, IProgress<double>? progress = null, CancellationToken cancel = default)
    {
        var channels = reader.Format.Channels;
        T[] Each<T>(Func<T> make) => [.. Enumerable.Range(0, channels).Select(_ => make())];
        var (drops, clicks, ends) = (Each(() => new DropoutMeter(reader.Format.SampleRate)), Each(() => new ClickMeter()), Each(() => new EndMeter(reader.Format.SampleRate)));
        var pair = new PairMeter();
        var levels = FileLevels.Of(reader, progress, cancel, (samples, frames) =>
        {
            for (var channel = 0; channel < channels; channel++)
            {
                var part = samples[channel].AsSpan(0, frames);
                drops[channel].Add(part);
                clicks[channel].Add(part);
                ends[channel].Add(part);
            }

            if (channels == 2)
            {
                pair.Add(samples[0].AsSpan(0, frames), samples[1].AsSpan(0, frames));
            }
        });
        foreach (var click in clicks)
        {
            click.Finish();
        }

        var floor = levels.Floors.Max() is { } quiet && quiet < LoudestFloor ? quiet : LoudestFloor;
        Decibels? Over(Decibels level) => level > Gone && level > floor + OverFloor ? level : null;
        return new(
            levels,
            drops.Sum(d => d.Count),
            [.. drops.SelectMany(d => d.Found).OrderBy(d => d.Start)],
            clicks.Sum(c => c.Count),
            [.. clicks.SelectMany(c => c.Found).OrderBy(c => c.At)],
            channels == 2 ? StateOf(pair, levels) : PairState.None,
            channels == 0 ? null : Over(ends.Max(e => e.Last)),
            channels == 0 ? null : Over(ends.Max(e => e.First)));
    }

    private static PairState StateOf(PairMeter pair, FileLevels levels) => (levels.Channels[0].Silent, levels.Channels[1].Silent) switch
    {
        (true, true) => PairState.None,
        (true, false) => PairState.LeftMissing,
        (false, true) => PairState.RightMissing,
        _ => pair.IsOneChannel ? PairState.OneChannel : pair.IsUpsideDown ? PairState.UpsideDown : PairState.Two,
    };
}
