using System.Collections.Immutable;
using GateSplit.Core;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Data;

namespace GateSplit.Web.Forms;

/// <summary>Mends that somebody asks for by hand.</summary>
/// <param name="fields">The form.</param>
/// <param name="take">The take.</param>
/// <param name="session">Its session.</param>
/// <param name="proof">What is known of it as its mends make it now; null where it was not looked at since.</param>
public sealed class MendForms(FormFields fields, Take take, OpenSession session, TakeProof? proof)
{
    /// <summary>All tracks, where a form asks which.</summary>
    public const string All = "all";

    private const int MostBars = 100_000;
    private const string OfGroup = "group:";
    private const string NotKnown = "Prove the take first: how it lies and how loud it is must be known for that.";

    /// <summary>Reads the mend of a form.</summary>
    /// <returns>Or a sentence where the form says none.</returns>
    public Result<Mend> Read()
    {
        var mend = fields.Text("mend") switch
        {
            "move" => Move(),
            "notes" => proof?.FromNotes is { } time ? new MoveTake(time.Offset, 0) : new Refusal(proof is null ? NotKnown : "The notes do not tell where this take lies."),
            "gain" => Of().Length == 0 ? NoTrack : new ChangeGain(Of(), fields.Level("value", "gain")),
            "peak" => ToTarget(GainToTarget.Peak),
            "loudness" => ToTarget(GainToTarget.Loudness),
            "polarity" => new TurnPolarity(fields.Track),
            "polarity-right" => new TurnPolarity(fields.Track, RightOnly: true),
            "sides" => new ExchangeSides(fields.Track),
            "mono-left" => new MakeMono(fields.Track, MonoOf.Left),
            "mono-right" => new MakeMono(fields.Track, MonoOf.Right),
            "mono-mean" => new MakeMono(fields.Track, MonoOf.Mean),
            "exchange" => new ExchangeNames(fields.Track, new TrackId(fields.Text("other"))),
            "trim" => Trim(),
            _ => (Result<Mend>)new Refusal("There is no such mend."),
        };
        return fields.Trouble is { } trouble ? new Refusal(trouble) : mend;
    }

    private static Result<Mend> NoTrack => new Refusal("This take has no such tracks.");

    private Result<Mend> Move()
    {
        var value = fields.Number("value", "move") * (fields.Text("way") == "later" ? -1 : 1);
        var seconds = fields.Text("unit") == "samples" ? value / take.Tracks[0].SampleRate.Hz : value / 1000;
        return fields.Text("of") == All ? new MoveTake(seconds, 0) : new MoveTrack(new TrackId(fields.Text("of")), seconds);
    }

    private Result<Mend> ToTarget(Func<TakeProof, ImmutableArray<TrackId>, Decibels, Result<ChangeGain>> gain)
    {
        if (proof is null)
        {
            return new Refusal(NotKnown);
        }

        var found = gain(proof, Of(), fields.Level("value", "level"));
        return found.Ok ? found.Value : new Refusal(found.Trouble);
    }

    private Result<Mend> Trim()
    {
        var (from, to) = (fields.Whole("from", "first bar"), fields.Whole("to", "last bar"));
        var (tail, fade) = (fields.Number("tail", "tail"), fields.Number("fade", "fade") / 1000);
        if (from < 1 || to < from || to > MostBars)
        {
            return new Refusal("A take is trimmed from a bar to one that is not before it.");
        }

        double Begin(int bar) => session.Song.Tempos.ToFrames(session.Song.Metres.BarStart(bar - 1), take.Tracks[0].SampleRate).Seconds(take.Tracks[0].SampleRate);
        return new Trim(Begin(from), Begin(to + 1) + tail, fade);
    }

    /// <summary>The tracks that a form names: all, those of a group, or one.</summary>
    private ImmutableArray<TrackId> Of()
    {
        var of = fields.Text("of");
        var groups = session.State.Split;
        return
        [
            .. from track in take.Tracks
               where of == All || track.TrackId.Value == of
                   || (of.StartsWith(OfGroup, StringComparison.Ordinal) && groups.Track(track.TrackId) is { } line && (line.GroupId?.Value == of[OfGroup.Length..] || line.LevelGroups.Any(g => g.Value == of[OfGroup.Length..])))
               select track.TrackId,
        ];
    }

    /// <summary>What a form for several tracks offers: all, each group that has tracks of the take, each track.</summary>
    /// <param name="take">The take.</param>
    /// <param name="split">Its split.</param>
    public static IEnumerable<(string Value, string Name)> Choices(Take take, Split split) =>
    [
        (All, "all tracks"),
        .. split.TrackGroups.Where(g => take.Tracks.Any(t => split.Track(t.TrackId) is { } line && (line.GroupId == g.Id || line.LevelGroups.Contains(g.Id)))).Select(g => (OfGroup + g.Id.Value, g.Name)),
        .. take.Tracks.Select(t => (t.TrackId.Value, t.Name)),
    ];
}
