using System.Collections.Immutable;
using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.StandIns;

/// <summary>The click on every beat, higher on the first of a bar. It is only ever heard: no file holds it.</summary>
internal sealed class Click
{
    private const double BeatHertz = 1100;
    private const double BarHertz = 1650;
    private const double DecaySeconds = 0.05;
    private const double Level = 0.25;

    private readonly ImmutableArray<(Frames Frame, bool OfBar)> _beats;
    private readonly SampleRate _sampleRate;

    private Click(ImmutableArray<(Frames, bool)> beats, SampleRate sampleRate) => (_beats, _sampleRate) = (beats, sampleRate);

    /// <summary>The count-in: so many bars like those that follow, before the first of them begins.</summary>
    /// <param name="song">The music.</param>
    /// <param name="startBar">The bar before which it is counted, from 1.</param>
    /// <param name="bars">How many.</param>
    /// <param name="sampleRate">Frames a second.</param>
    /// <returns>The click, and how many frames before the bar it begins.</returns>
    public static (Click Click, Frames Frames) CountIn(Song song, int startBar, int bars, SampleRate sampleRate)
    {
        var from = startBar - 1;
        var frames = FrameOf(song, song.Metres.BarStart(from + bars), sampleRate) - FrameOf(song, song.Metres.BarStart(from), sampleRate);
        return (new Click([.. Beats(song, from, from + bars, sampleRate).Select(b => (b.Frame - frames, b.OfBar))], sampleRate), frames);
    }

    /// <summary>A click all the way.</summary>
    public static Click Throughout(Song song, int startBar, int endBar, SampleRate sampleRate) => new([.. Beats(song, startBar - 1, endBar, sampleRate)], sampleRate);

    /// <summary>Adds the clicks of a stretch to both sides.</summary>
    public void AddTo(Frames start, Span<float> left, Span<float> right)
    {
        var length = new Frames((long)(2 * DecaySeconds * _sampleRate));
        var end = start + left.Length;
        foreach (var (frame, ofBar) in _beats.Where(b => b.Frame < end && b.Frame + length > start))
        {
            var step = (ofBar ? BarHertz : BeatHertz) / _sampleRate;
            var factor = Maths.DecayFactor(DecaySeconds, _sampleRate);
            var at = Frames.Max(frame, start);
            var level = Level * Maths.Exp2((at - frame).Count * Maths.Log2(factor));
            for (; at < Frames.Min(frame + length, end); at += 1, level *= factor)
            {
                var sample = (float)(level * Maths.SinTurns((at - frame).Count * step));
                left[(int)(at - start).Count] += sample;
                right[(int)(at - start).Count] += sample;
            }
        }
    }

    private static IEnumerable<(Frames Frame, bool OfBar)> Beats(Song song, long fromBar, long toBar, SampleRate sampleRate)
    {
        for (var bar = fromBar; bar < toBar; bar++)
        {
            var (start, end) = (song.Metres.BarStart(bar), song.Metres.BarStart(bar + 1));
            var beats = song.Metres.MetreOf(bar).Beats;
            for (var beat = 0; beat < beats; beat++)
            {
                yield return (FrameOf(song, start + new Ticks((end - start).Count * beat / beats), sampleRate), beat == 0);
            }
        }
    }

    private static Frames FrameOf(Song song, Ticks tick, SampleRate sampleRate) => song.Tempos.ToFrames(tick, sampleRate);
}
