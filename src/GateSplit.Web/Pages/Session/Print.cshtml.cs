using System.Text.Json;
using GateSplit.Core.Checks;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Data;
using GateSplit.Jobs;
using GateSplit.Web.Forms;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;

namespace GateSplit.Web.Pages.Session;

/// <summary>Printing, bringing in, and the takes with their player.</summary>
public sealed class PrintModel(OpenSessions open, SessionStore sessions, TakeStore takes, JobStore jobs, IAudioStore store, AudioKeeper keeper, UploadRoom room, Overviews overviews, JobQueue queue, MendedTakes mended, ProofStore proofs, Waveforms waveforms)
    : EditPage(open, sessions, takes, jobs, store)
{
    private const int ClipsTold = 4;

    /// <summary>The take that is shown; the newest where none is named.</summary>
    [BindProperty(SupportsGet = true, Name = "take")]
    public int? Number { get; set; }

    /// <summary>All takes, the newest first.</summary>
    public IReadOnlyList<Take> AllTakes { get; private set; } = [];

    /// <summary>Shows, instead of one take, "chosen" for the recordings that count, or "before" for what to look at before a pass.</summary>
    [BindProperty(SupportsGet = true, Name = "show")]
    public string? View { get; set; }

    /// <summary>A track whose recordings in all takes are shown side by side; null to show one take.</summary>
    [BindProperty(SupportsGet = true, Name = "line")]
    public string? Line { get; set; }

    /// <summary>The take that is shown, or what stands for one; null if there is none.</summary>
    public Take? Shown { get; private set; }

    /// <summary>It in the player; null if there is none.</summary>
    public TakeView? Player { get; private set; }

    /// <summary>Of each track the recording that counts; null if there is no take.</summary>
    public Take? Chosen { get; private set; }

    /// <summary>The jobs that wait or run, and those of the last print that ended without a take.</summary>
    public IReadOnlyList<Job> Jobs { get; private set; } = [];

    /// <summary>True while a job waits or runs.</summary>
    public bool IsBusy => Jobs.Any(j => j.IsActive);

    /// <summary>True if a recording is the one of its track that counts.</summary>
    public bool Counts(TakeTrack track) => Chosen?.Tracks.Any(t => t.TrackId == track.TrackId && t.TakeId == track.TakeId) == true;

    /// <summary>What a take is, in words.</summary>
    public string About(Take take)
    {
        if (take.Number == 0)
        {
            return Line is null ? "of each line the recording that is handed off" : $"{Core.Words.Count(take.Tracks.Count, "take")} side by side, the newest on top";
        }

        var passes = take.Tracks.Select(t => t.Pass).Distinct().Count();
        var made = take.Kind == TakeKind.Print ? "printed" : "brought in";
        return $"{made} {take.CreatedAt.ToLocalTime():yyyy-MM-dd HH:mm}, {Core.Words.Count(take.Tracks.Count, "track")}{(take.Note.Length > 0 ? ", " + take.Note : "")}{(passes > 1 ? $", {passes} passes" : "")}";
    }

    /// <summary>In how many takes a track was recorded.</summary>
    public int TakesOf(TrackId trackId) => AllTakes.Count(t => t.Tracks.Any(r => r.TrackId == trackId));

    /// <summary>Findings that matter before recording.</summary>
    public IEnumerable<Finding> Warnings => Frame.Findings.Where(f => f.ToMend);

    /// <summary>Why no pass can run; null if one can.</summary>
    public string? Refusal { get; private set; }

    /// <summary>Free bytes on the disk.</summary>
    public Bytes FreeBytes => Store.FreeBytes;

    /// <summary>How much may be brought in.</summary>
    public UploadRoom Room => room;

    /// <summary>What is wrong with a recording: its file is gone, or was damaged when it came in.</summary>
    public IEnumerable<string> Damage(TakeTrack track) => Store.Find(track.Hash) is null
        ? ["Its file is not in the audio store any more."]
        : track.Remarks.Concat(track.Clips.Count == 0 ? [] : [ClipPlaces(track)]);

    /// <summary>Where a file clips; the longest list is cut short.</summary>
    private static string ClipPlaces(TakeTrack track)
    {
        var places = track.Clips.Take(ClipsTold).Select(c => $"{c.StartFrame.Seconds(track.SampleRate):0.000} s for {GateSplit.Core.Words.Count(c.Length.Count, "sample")}");
        return $"Clips at {string.Join(", ", places)}{(track.ClippedRuns > ClipsTold ? $" and {track.ClippedRuns - ClipsTold} more" : "")}.";
    }

    /// <summary>A print of which every file would be silent, so that it is asked for once more; null for none.</summary>
    public SilentPrint? WouldBeSilent { get; private set; }

    /// <summary>What was asked for.</summary>
    /// <param name="Passes">The passes; empty for all.</param>
    /// <param name="Tracks">The tracks; empty for all.</param>
    /// <param name="BySplit">True if the split says so; false if it is the gear, which is not set as the split says.</param>
    public sealed record SilentPrint(IReadOnlyList<int> Passes, IReadOnlyList<string> Tracks, bool BySplit);

    /// <summary>Starts passes: all of them or some, of all armed tracks or some; or goes on with a print of which a pass was lost.</summary>
    /// <param name="passes">The passes; empty for all.</param>
    /// <param name="tracks">The tracks; empty for all that are armed.</param>
    /// <param name="again">A job that ended without a take and is run again; null for a new take.</param>
    /// <param name="kind">What is recorded.</param>
    /// <param name="silent">True to print though every file would be silent.</param>
    public async Task<IActionResult> OnPostStart(int[] passes, string[] tracks, long? again, PrintKind kind = PrintKind.Lines, bool silent = false)
    {
        if (!await Show())
        {
            return NotFound();
        }

        var plan = PrintPlan.For(Session.Lines, kind);
        if ((kind == PrintKind.Lines ? Refusal : plan.Trouble) is { } refusal)
        {
            Notice = refusal;
            return Page();
        }

        var request = new PrintRequest(Session.State.Revision, kind is PrintKind.Lines or PrintKind.Outboard ? [.. tracks.Select(TrackId.Of)] : [], kind);
        var wanted = plan.Value!.ArmedTracks.Where(t => request.Tracks.Count == 0 || request.Tracks.Contains(t.Id)).Select(t => t.Pass).Distinct().Order().ToList();
        var chosen = passes.Length == 0 ? wanted : [.. wanted.Intersect(passes)];
        var files = plan.Value.ArmedTracks.Where(t => chosen.Contains(t.Pass) && (request.Tracks.Count == 0 || request.Tracks.Contains(t.Id))).ToList();
        if (kind == PrintKind.Lines && !silent && again is null && files.Count > 0 && files.TrueForAll(Session.Lines.IsSilentInRig))
        {
            WouldBeSilent = new(passes, tracks, files.TrueForAll(Session.Lines.IsSilent));
            return Page();
        }

        long? printId = null;
        if (again is { } lost && Jobs.FirstOrDefault(j => j.Id == lost && !j.IsActive) is { } job)
        {
            (request, chosen, printId) = (JsonSerializer.Deserialize<PrintRequest>(job.Request, Core.Splits.SplitJson.Options)!, [job.Pass], job.PrintId);
        }

        if (chosen.Count == 0)
        {
            Notice = "None of these tracks is recorded in these passes: choose others.";
            return Page();
        }

        return await queue.Print(Id, request, chosen, printId)
            ? RedirectToPage(new { id = Id })
            : RedirectTelling($"/sessions/{Id}/print", "A pass of this session is running already; this is it.");
    }

    /// <summary>Changes the length, count-in, tail, rate or width, or when a source is started by hand.</summary>
    public Task<IActionResult> OnPostPass(int revision) => Change(revision, () => EditForms.Read(Request.Form, Session.State.Split));

    /// <summary>Mends a finding.</summary>
    public Task<IActionResult> OnPostFix(int revision, string finding) => Change(
        revision,
        () => Frame.Findings.FirstOrDefault(f => f.Id == finding)?.Fix is { } fix ? fix : new Core.Refusal("This finding is gone already."));

    /// <summary>Lets a recording be the one of its track that counts.</summary>
    public async Task<IActionResult> OnPostChoose(long take, string track, string? back)
    {
        await Takes.Choose(Id, new TrackId(track), take);
        return back == "line" ? RedirectToPage(new { id = Id, line = track }) : RedirectToPage(new { id = Id, show = "chosen" });
    }

    /// <summary>Writes a remark beside a recording.</summary>
    public async Task<IActionResult> OnPostRemark(long take, string track, string? remark)
    {
        await Takes.Remark(Id, take, new TrackId(track), (remark ?? "").Trim() is { Length: > 200 } text ? text[..200] : (remark ?? "").Trim());
        return RedirectToPage(new { id = Id, line = track });
    }

    /// <summary>Gives the notes that sounded in a take.</summary>
    public async Task<IActionResult> OnGetNotes(long of)
    {
        return await Takes.Find(of) is { } take && take.SessionId == Id && await Takes.Notes(of) is { } notes
            ? File(notes, "audio/midi", $"take {take.Number}.mid")
            : NotFound();
    }

    /// <summary>Deletes a take with its audio.</summary>
    public async Task<IActionResult> OnPostDelete(long take) =>
        await Takes.Find(take) is { } found && found.SessionId == Id && await keeper.DeleteTake(take) is { } refusal
            ? await ShowWith(refusal)
            : RedirectToPage(new { id = Id });

    /// <summary>All recordings of a track as if they were a take; null if there are none.</summary>
    private Take? SideBySide(TrackId trackId)
    {
        var tracks = AllTakes.SelectMany(t => t.Tracks.Where(r => r.TrackId == trackId)).ToList();
        return tracks.Count == 0 ? null : new Take(0, Id, 0, TakeKind.Print, 0, "", DateTime.UtcNow, tracks);
    }

    /// <summary>A take in the player, as its mends make it.</summary>
    private async Task<TakeView> Watched(Take take)
    {
        var names = new Dictionary<long, string>();
        foreach (var id in take.Tracks.Select(t => t.TakeId).Distinct())
        {
            names[id] = MendedTracks.Name((await proofs.Mends(id)).Settled);
        }

        var mends = await mended.Of(take);
        var view = TakeView.Of(take, (mends.Value ?? MendedAudio.AsPrinted(take)).Lines, names, Session, Store, waveforms);
        return view with { Rows = [.. view.Rows.Select(r => Row(r, take))] };
    }

    /// <summary>What this page says of a track beside its waveform.</summary>
    private TakeRow Row(TakeRow row, Take take)
    {
        var track = row.Track;
        return Line is not null
            ? row with { Title = $"take {track.TakeNumber}", Muted = !Counts(track) }
            : row with
            {
                Sub = track.Remark,
                More = TakesOf(track.TrackId) is > 1 and var many
                    ? (View == "chosen" ? $"take {track.TakeNumber} of {many}" : Counts(track) ? $"counts; {many} takes" : $"another of {many} takes counts", $"?line={track.TrackId}")
                    : null,
                Muted = take.Number == 0 && Session.State.Split.Track(track.TrackId) is null,
            };
    }

    /// <inheritdoc/>
    protected override string Station => "print";

    /// <inheritdoc/>
    protected override string Address() => $"/sessions/{Id}/print{(View is null ? "" : $"?show={Uri.EscapeDataString(View)}")}";

    /// <inheritdoc/>
    protected override async Task<bool> Show()
    {
        if (!await Load(Station))
        {
            return false;
        }

        AllTakes = await Takes.Of(Id);
        Chosen = await Takes.Chosen(Id);
        Jobs = await JobStore.Current(Id);
        Shown = View == "before"
            ? null
            : View == "chosen"
            ? Chosen
            : Line is not null
                ? SideBySide(new TrackId(Line))
                : AllTakes.FirstOrDefault(t => t.Number == Number) ?? (AllTakes.Count > 0 ? AllTakes[0] : null);
        if (Shown is not null)
        {
            var tracks = new List<TakeTrack>();
            foreach (var track in Shown.Tracks)
            {
                tracks.Add(await overviews.Restored(track, HttpContext.RequestAborted));
            }

            Shown = Shown with { Tracks = tracks };
            Player = await Watched(Shown);
        }

        Refusal = new Core.StandIns.StandInRecorder(Session.Lines, Session.Song).Refusal();
        return true;
    }
}
