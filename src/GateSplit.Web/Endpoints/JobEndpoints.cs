using System.Globalization;
using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using System.Text.Encodings.Web;
using System.Text.Json;
using GateSplit.Core;
using GateSplit.Data;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Antiforgery;

namespace GateSplit.Web.Endpoints;

/// <summary>Where the jobs of a session stand, pushed to its pages, and their stop buttons.</summary>
public static class JobEndpoints
{
    /// <summary>Maps /sessions/{id}/events and /jobs/{id}/stop.</summary>
    public static void MapJobs(this IEndpointRouteBuilder app)
    {
        // One stream a page, however many jobs there are: a browser has few connections for all of its pages.
        app.MapGet("/sessions/{id:long}/events", (long id, Watch<IReadOnlyList<Job>> jobs, CancellationToken cancel) =>
            TypedResults.ServerSentEvents(Events(id, jobs, cancel)));
        app.MapPost("/jobs/{id:long}/stop", async (long id, JobStore jobs, IAntiforgery antiforgery, HttpContext context) =>
        {
            if (!await antiforgery.IsRequestValidAsync(context))
            {
                return Results.BadRequest("The page is too old. Load it again.");
            }

            var job = await jobs.Find(id);
            if (job is null)
            {
                return Results.NotFound();
            }

            await jobs.RequestStop(id);
            if (job.Kind == JobKind.SessionIn)
            {
                return Results.LocalRedirect($"/?in={id}");
            }

            return Results.LocalRedirect($"/sessions/{job.SessionId}/{job.Kind switch { JobKind.Proof => "proof", JobKind.RollCall => "roll-call", JobKind.Handoff => "handoff", _ => "print" }}");
        });
    }

    /// <summary>How far it is, in words: "Printing, 42 %, 0:03 left".</summary>
    public static string Sentence(Job job)
    {
        var what = job.Kind switch { TakeKind.Print => "Printing", JobKind.Proof or JobKind.RollCall => "Listening", JobKind.Handoff => "Making the handoff", JobKind.SessionIn => "Bringing it in", _ => "Cutting" };
        return job.State switch
        {
            JobState.Queued => "Waiting for its turn",
            JobState.Running when job.StopRequested => "Stopping",
            JobState.Running => $"{what}, {job.Share * 100:0} %{(job.SecondsLeft is { } left ? $", {Words.Clock(left)} left" : "")}",
            JobState.Done => "Done",
            _ => job.Sentence,
        };
    }

    /// <summary>A bar for each track with its name.</summary>
    private static string LevelBars(string levels) => string.Concat(levels.Split('\n').Select(line =>
    {
        var parts = line.Split('\t');
        var peak = double.Parse(parts[^1], CultureInfo.InvariantCulture);
        var width = peak > 0 ? Math.Clamp(60 + 20 * Math.Log10(peak), 0, 60) : 0;
        return string.Create(
            CultureInfo.InvariantCulture,
            $"<span>{HtmlEncoder.Default.Encode(parts[0])}<svg viewBox=\"0 0 60 1\" preserveAspectRatio=\"none\"><rect class=\"meter-bar\" width=\"{width:0.0}\" height=\"1\" /></svg></span>");
    }));

    private static async IAsyncEnumerable<SseItem<string>> Events(long id, Watch<IReadOnlyList<Job>> watch, [EnumeratorCancellation] CancellationToken cancel)
    {
        var shown = new Dictionary<string, string>();
        HashSet<long>? before = null;
        await foreach (var (jobs, away) in watch.Follow(id, cancel))
        {
            var active = (jobs ?? []).Where(j => j.IsActive).ToList();
            var now = active.Select(j => j.Id).ToHashSet();
            if (!away && (now.Count == 0 || (before is not null && !now.SetEquals(before))))
            {
                // The page shows another number of jobs than there are: what came of them, and what is left.
                yield return new SseItem<string>(now.Count == 0 ? "end" : "next", "end");
                yield break;
            }

            before = away ? before : now;
            foreach (var part in away ? [new Part("status-job", "<span>The database does not answer just now; the pass goes on.</span>")] : active.SelectMany((j, i) => Parts(j, i == 0)))
            {
                if (shown.GetValueOrDefault(part.Id) != part.Html)
                {
                    shown[part.Id] = part.Html;
                    yield return new SseItem<string>(JsonSerializer.Serialize(part, JsonSerializerOptions.Web), "part");
                }
            }
        }
    }

    private static IEnumerable<Part> Parts(Job job, bool isFirst)
    {
        var line = $"<progress max=\"1\" value=\"{job.Share.ToString("0.000", CultureInfo.InvariantCulture)}\" aria-label=\"Share done\"></progress> <span>{HtmlEncoder.Default.Encode(Sentence(job))}</span>";
        yield return new Part($"job-line-{job.Id}", line);
        if (isFirst)
        {
            yield return new Part("status-job", line);
        }

        if (job.Levels.Length > 0)
        {
            yield return new Part($"job-levels-{job.Id}", LevelBars(job.Levels));
        }
    }

    /// <summary>A part of a page that is shown anew.</summary>
    /// <param name="Id">The id of its element.</param>
    /// <param name="Html">What it holds now.</param>
    private sealed record Part(string Id, string Html);
}
