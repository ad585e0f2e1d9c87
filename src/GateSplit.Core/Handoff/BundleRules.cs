using GateSplit.Core.Proofing;

namespace GateSplit.Core.Handoff;

/// <summary>What a session with its takes has to be to come in, as far as bundle.json alone can tell.</summary>
internal static class BundleRules
{
    private const int MostRevisions = 5000;
    private const int MostTakes = 10_000;
    private const int MostTracks = 1024;
    private const int MostRecordings = 20_000;
    private const int MostMends = 1000;
    private const int MostReasons = 10_000;
    private const int MostCharts = 64;
    private const int MostRollCalls = 64;
    private const int MostFiles = 256;
    private const int LongestNote = 100_000;
    private const int LongestPath = 500;

    // The years that a zip can tell.
    private static readonly DateTime First = new(1980, 1, 1);
    private static readonly DateTime Last = new(2107, 1, 1);

    /// <summary>The first thing that does not fit; null if all does.</summary>
    public static Misfit? FirstMisfit(SessionBundle bundle) => Misfits.First(
        Lists(bundle)
            .Concat(Misfits.Unless(Names.Fit(bundle.Name, SessionFile.LongestName), "session.name", $"A session needs a name of 1 to {SessionFile.LongestName} characters."))
            .Concat(bundle.Revisions.SelectMany((r, i) => Of(r, bundle, $"session.revisions[{i}]")))
            .Concat(Misfits.Unless(bundle.Revisions.Any(r => r.Number == bundle.Revision), "session.revision", "There is no such revision."))
            .Concat(Misfits.Twice(bundle.Revisions, r => r.Number, i => $"session.revisions[{i}].number", n => $"Revision {n} is there twice."))
            .Concat(bundle.Takes.SelectMany((t, i) => Of(t, bundle, $"session.takes[{i}]")))
            .Concat(Misfits.Twice(bundle.Takes, t => t.Number, i => $"session.takes[{i}].number", n => $"Take {n} is there twice."))
            .Concat(Files(bundle))
            .Concat(bundle.Choices.SelectMany((c, i) => Misfits.Unless(bundle.Takes.Any(t => t.Number == c.Take && t.Tracks.Any(l => l.TrackId == c.TrackId)), $"session.choices[{i}]", "There is no such line of such a take.")))
            .Concat(Misfits.Twice(bundle.Choices, c => c.TrackId, i => $"session.choices[{i}]", t => $"Two takes are chosen for {t}."))
            .Concat(bundle.RollCalls.SelectMany((c, i) => Of(c, $"session.rollCalls[{i}]")))
            .Concat(Misfits.Twice(bundle.RollCalls, c => c.Pass, i => $"session.rollCalls[{i}]", p => $"Pass {p} has two roll calls."))
            .Concat(bundle.Charts.SelectMany((c, i) => Misfits.Unless(IsPath(c), $"session.charts[{i}]", NoPath))));

    /// <summary>True of a path that stays in the folder that it is unpacked into, on every system.</summary>
    public static bool IsPath(string? path) => Names.Fit(path, LongestPath)
        && !path!.Contains('\\', StringComparison.Ordinal) && !path.Contains(':', StringComparison.Ordinal)
        && path.Split('/').All(part => part is not ("" or "." or ".."));

    /// <summary>All files that it names, looked at only once all lists are known to have no gaps.</summary>
    private static IEnumerable<Misfit> Files(SessionBundle bundle)
    {
        var recordings = bundle.Takes.SelectMany(t => t.Tracks.Select(l => l.File)).ToList();
        var files = bundle.Revisions.Select(r => r.File).Concat(bundle.Takes.Select(t => t.Notes).OfType<string>()).Concat(recordings).Concat(bundle.Charts);
        foreach (var misfit in Misfits.Unless(recordings.Count <= MostRecordings, "session.takes", $"All takes together have at most {MostRecordings} tracks.")
            .Concat(Misfits.Twice([.. files], f => f, _ => "session", f => $"{f} stands for two things.")))
        {
            yield return misfit;
        }
    }

    private const string NoPath = "A file's path within the bundle is needed here.";

    private static IEnumerable<Misfit> Lists(SessionBundle bundle) =>
    [
        .. Misfits.OfList(bundle.Revisions, "session.revisions", MostRevisions),
        .. Misfits.OfList(bundle.Takes, "session.takes", MostTakes),
        .. Misfits.OfList(bundle.Choices, "session.choices", MostTracks),
        .. Misfits.OfList(bundle.RollCalls, "session.rollCalls", MostRollCalls),
        .. Misfits.OfList(bundle.Charts, "session.charts", MostCharts),
    ];

    private static IEnumerable<Misfit> Of(BundledRevision revision, SessionBundle bundle, string at) =>
    [
        .. Misfits.Unless(revision.Number >= 1, $"{at}.number", "Revisions are counted from 1."),

        // What a revision was made from is older, so that no way leads round.
        .. Misfits.Unless(revision.Parent is not { } parent || (parent < revision.Number && bundle.Revisions.Any(r => r.Number == parent)), $"{at}.parent", "A revision was made from an earlier one that is there too."),
        .. Misfits.Unless(revision.Steps >= 1, $"{at}.steps", "A revision stands for one edit at least."),
        .. Misfits.Unless(Names.FitSentence(revision.Edit), $"{at}.edit", $"What was done is told in at most {Names.LongestSentence} characters."),
        .. Misfits.Unless(Names.FitBlank(revision.Name), $"{at}.name", $"A name has at most {Names.Longest} characters."),
        .. Time(revision.Made, $"{at}.made"),
        .. Misfits.Unless(IsPath(revision.File), $"{at}.file", NoPath),
    ];

    private static IEnumerable<Misfit> Of(BundledTake take, SessionBundle bundle, string at)
    {
        var lists = Misfits.OfList(take.Tracks, $"{at}.tracks", MostTracks)
            .Concat(Misfits.OfList(take.Mends, $"{at}.mends", MostMends))
            .Concat(Misfits.OfList(take.Undone, $"{at}.undone", MostMends))
            .Concat(Misfits.OfList(take.Accepted, $"{at}.accepted", MostReasons))
            .ToList();
        return lists.Count > 0 ? lists :
        [
            .. Misfits.Unless(take.Number >= 1, $"{at}.number", "Takes are counted from 1."),
            .. Misfits.Unless(bundle.Revisions.Any(r => r.Number == take.Revision), $"{at}.revision", "There is no such revision."),
            .. Misfits.Unless(Names.FitSentence(take.Note, LongestNote), $"{at}.note", $"A remark has at most {LongestNote} characters."),
            .. Time(take.Made, $"{at}.made"),
            .. Misfits.Unless(take.Notes is null || IsPath(take.Notes), $"{at}.notes", NoPath),
            .. Misfits.Unless(!take.Tracks.IsEmpty, $"{at}.tracks", "A take has at least one track."),
            .. take.Tracks.SelectMany((t, i) => Of(t, $"{at}.tracks[{i}]")),
            .. Misfits.Unless(take.Tracks.Zip(take.Tracks.Skip(1)).All(next => next.First.Position < next.Second.Position), $"{at}.tracks", "The tracks stand in the order of their places."),
            .. Misfits.Twice(take.Tracks, t => t.TrackId, i => $"{at}.tracks[{i}].trackId", t => $"Track {t} is there twice."),
            .. Misfits.Unless(take.OnTrial >= 0 && take.OnTrial <= take.Mends.Length, $"{at}.onTrial", "No more mends can be on trial than there are."),
            .. take.Accepted.SelectMany((a, i) => Misfits.Unless(a.Finding.Length > 0 && Names.FitSentence(a.Finding) && Names.FitSentence(a.Why), $"{at}.accepted[{i}]", $"A finding and a reason of at most {Names.LongestSentence} characters are needed.")),
            .. Misfits.Twice(take.Accepted, a => a.Finding, i => $"{at}.accepted[{i}]", _ => "It is meant so twice."),
        ];
    }

    private static IEnumerable<Misfit> Of(BundledTrack track, string at) =>
    [
        .. Misfits.Unless(track.Position >= 1, $"{at}.position", "Places are counted from 1."),
        .. Misfits.Unless(track.Pass is >= 1 and <= Splits.SplitRules.MostPasses, $"{at}.pass", $"Passes are counted from 1 to {Splits.SplitRules.MostPasses}."),
        .. Misfits.Unless(track.TrackId.Number >= 1, $"{at}.trackId", "A track has an id such as t1."),
        .. Misfits.Unless(Names.Fit(track.Name), $"{at}.name", $"A name of 1 to {Names.Longest} characters is needed."),
        .. Misfits.Unless(Names.FitSentence(track.Elements, LongestNote) && Names.FitSentence(track.Source, LongestNote) && Names.FitSentence(track.Remark, LongestNote), at, $"A text has at most {LongestNote} characters."),
        .. Misfits.Unless(IsPath(track.File), $"{at}.file", NoPath),
    ];

    private static IEnumerable<Misfit> Of(BundledRollCall call, string at) =>
    [
        .. Misfits.OfList(call.Files, $"{at}.files", MostFiles),
        .. Time(call.Made, $"{at}.made"),
        .. Misfits.Unless(call.Files.IsDefault || call.Files.All(f => Names.FitSentence(f)), $"{at}.files", "These are no names."),
        .. Misfits.Unless(call.Pass == call.Reading.Call.Pass && RollCallRules.Hold(call.Reading), $"{at}.reading", "This is no roll call that can have been read."),
    ];

    private static IEnumerable<Misfit> Time(DateTime time, string at) => Misfits.Unless(time.Kind == DateTimeKind.Utc && time >= First && time < Last, at, "A time in UTC is needed here, such as 2026-11-28T16:10:00Z.");
}
