using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Views;

namespace GateSplit.Core.Planning;

/// <summary>How long a pass is and how much it writes.</summary>
/// <param name="CountInFrames">Heard before the recording starts.</param>
/// <param name="BodyFrames">From the first bar to the end of the last.</param>
/// <param name="TailFrames">Recorded after it.</param>
/// <param name="SampleRate">Frames a second.</param>
/// <param name="Bytes">Of samples in all files together.</param>
public sealed record PassTimes(Frames CountInFrames, Frames BodyFrames, Frames TailFrames, SampleRate SampleRate, Bytes Bytes)
{
    private const double ShortestTailSeconds = 0.5;

    /// <summary>Frames of each file.</summary>
    public Frames Frames => BodyFrames + TailFrames;

    /// <summary>Seconds of each file.</summary>
    public double Seconds => Frames.Seconds(SampleRate);

    /// <summary>Seconds the pass plays, with the count-in.</summary>
    public double PlayedSeconds => (CountInFrames + SettleFrames + Frames - StartFrame).Seconds(SampleRate);

    /// <summary>The frame at which the sources are started.</summary>
    public Frames StartFrame { get; init; }

    /// <summary>Frames for which a loop goes round before the recording starts.</summary>
    public Frames SettleFrames { get; init; }

    /// <summary>How many passes there are.</summary>
    public int Passes { get; init; } = 1;

    /// <summary>Seconds all passes play, each with its count-in.</summary>
    public double AllSeconds => Passes * PlayedSeconds;

    /// <summary>Bytes that are written in a second of the fullest pass.</summary>
    public Bytes BytesPerSecond { get; init; }

    /// <summary>Works them out.</summary>
    /// <param name="view">The split; its armed tracks are recorded.</param>
    /// <param name="song">Its music.</param>
    public static PassTimes Of(SplitView view, Song song)
    {
        var pass = view.Split.Pass;
        var rate = pass.SampleRate;
        var start = song.Tempos.ToFrames(song.Metres.BarStart(pass.StartBar - 1), rate);
        var countIn = song.Tempos.ToFrames(song.Metres.BarStart(pass.StartBar - 1 + pass.CountInBars), rate) - start;
        var body = song.Tempos.ToFrames(song.Metres.BarStart(pass.LengthBars), rate);
        var tail = new Frames((long)Math.Ceiling((pass.TailSeconds ?? LongestDecay(view)) * rate));
        var channels = view.ArmedTracks.Sum(t => (int)t.Width);
        var mono = new AudioFormat(1, rate, pass.Format);
        return new PassTimes(countIn, body, tail, rate, mono.Bytes(body + tail) * channels)
        {
            Passes = view.Split.Passes,
            StartFrame = start,
            SettleFrames = pass.Looped ? (body - start) * pass.SettleLoops : 0,
            BytesPerSecond = view.ArmedTracks.GroupBy(t => t.Pass).Select(g => mono.Bytes(rate.Hz) * g.Sum(t => (int)t.Width)).DefaultIfEmpty().Max(),
        };
    }

    /// <summary>The longest decay that reaches an armed track, through a return too.</summary>
    private static double LongestDecay(SplitView view) => view.SoundingElements
        .Where(e => view.Signal.Reaching(e.Ref).Any(c => view.Split.Track(c.TrackId)!.Armed))
        .Select(e => view.RingSeconds(e.Ref))
        .Append(ShortestTailSeconds)
        .Max();
}
