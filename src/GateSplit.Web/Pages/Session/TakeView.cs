using GateSplit.Core.Drawing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Data;
using GateSplit.Web.Sessions;

namespace GateSplit.Web.Pages.Session;

/// <summary>A take in the player: its tracks under each other, with bars.</summary>
/// <param name="Take">The take, or what stands for one.</param>
/// <param name="Rows">Its tracks.</param>
/// <param name="Frames">The length of the longest.</param>
/// <param name="Bars">Where the bars begin.</param>
/// <param name="IsMended">True if any of them is not heard as it was printed.</param>
/// <param name="OnTrial">True if a mend is on trial, so that the take is compared with what it is without it.</param>
public sealed record TakeView(Take Take, IReadOnlyList<TakeRow> Rows, Frames Frames, IReadOnlyList<Frames> Bars, bool IsMended, bool OnTrial)
{
    /// <summary>Points across a waveform before anybody zooms.</summary>
    public const int Columns = 1120;

    /// <summary>Looks at a take.</summary>
    /// <param name="take">The take, or what stands for one.</param>
    /// <param name="lines">Its tracks as their mends make them.</param>
    /// <param name="mends">What names the mends of a take.</param>
    /// <param name="session">Its session.</param>
    /// <param name="store">The audio store.</param>
    /// <param name="waveforms">The waveforms.</param>
    /// <param name="marks">More places in a track that something is said of.</param>
    /// <param name="untried">What the tracks are without the mends on trial, and what names those mends; null where nothing is on trial.</param>
    public static TakeView Of(
        Take take,
        IReadOnlyList<MendedLine> lines,
        IReadOnlyDictionary<long, string> mends,
        OpenSession session,
        IAudioStore store,
        Waveforms waveforms,
        Func<TakeTrack, IEnumerable<TakeMark>>? marks = null,
        (IReadOnlyList<MendedLine> Lines, string Mends)? untried = null)
    {
        var frames = lines.Concat(untried?.Lines ?? []).Max(l => Frames.Max(l.Frames, l.Track.Frames));
        var rows = lines.Select(line => Row(line, mends.GetValueOrDefault(line.Track.TakeId, ""), frames, session, store, waveforms, marks)).ToList();
        if (untried is { } before)
        {
            rows = [.. rows.Zip(before.Lines, (row, line) => row with { Before = Mended(line, before.Mends) })];
        }

        return new(take, rows, frames, [.. BarFrames(session, lines[0].Track.SampleRate).TakeWhile(at => at <= frames)], rows.Exists(r => (r.Mended ?? r.Before) is not null), untried is not null);
    }

    private static TakeRow Row(MendedLine line, string mends, Frames frames, OpenSession session, IAudioStore store, Waveforms waveforms, Func<TakeTrack, IEnumerable<TakeMark>>? marks)
    {
        var track = line.Track;
        var mended = Mended(line, mends);
        using var open = waveforms.Open(line);
        var length = open?.Wave.Frames ?? default;
        var clips = track.Clips.Select(c => new TakeMark(c.StartFrame, "clip", $"clips for {Core.Words.Count(c.Length.Count, "sample")}"));
        return new(
            line,
            mended,
            null,
            OffsetOf(track, store),
            open is null || length == 0 ? "" : WaveformOutline.Fill(open.Wave, 0, length.Count, Columns),
            (double)length.Count / Math.Max(1, frames.Count),
            [.. mended is null ? clips : [], .. marks?.Invoke(track) ?? []],
            session.State.Split.Track(track.TrackId)?.Pan ?? Pan.Centre,
            session.State.Split.Track(track.TrackId)?.LevelDb ?? Decibels.Unity);
    }

    /// <summary>Where a track is read as its mends make it; null if that is as it was printed.</summary>
    private static TakeRow.Source? Mended(MendedLine line, string mends)
    {
        var track = line.Track;
        return line.IsAsPrinted && line.Printed.TrackId == track.TrackId
            ? null
            : TakeRow.Read(MendedTracks.Address(track.TakeId, track.TrackId.Value, mends), Waveforms.Name(track.TakeId, track.TrackId.Value, mends), line.Format, line.Frames, WaveStream.DataOffset(line.Format, line.Frames));
    }

    /// <summary>The frames at which the bars begin.</summary>
    private static IEnumerable<Frames> BarFrames(OpenSession session, SampleRate rate) =>
        Enumerable.Range(0, session.State.Split.Pass.LengthBars + 1).Select(bar => session.Song.Tempos.ToFrames(session.Song.Metres.BarStart(bar), rate));

    /// <summary>Where the samples of a track's printed file begin.</summary>
    private static Bytes OffsetOf(TakeTrack track, IAudioStore store)
    {
        if (store.Find(track.Hash) is not { } path || WaveReader.Open(path) is not { Ok: true, Value: { } file })
        {
            return 0;
        }

        using (file)
        {
            return file.DataOffset;
        }
    }
}
