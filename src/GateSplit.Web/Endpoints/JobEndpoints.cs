using System.Globalization;
using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using System.Text.Encodings.Web;
using GateSplit.Core;
using GateSplit.Data;
using GateSplit.Jobs;
using Microsoft.AspNetCore.Antiforgery;

namespace GateSplit.Web.Endpoints;

/// <summary>Where a job stands, pushed to the page, and its stop button.</summary>
public static class JobEndpoints
{
    private static readonly TimeSpan Interval = TimeSpan.FromMilliseconds(300);

    /// <summary>Maps /jobs/{id}/events and /jobs/{id}/stop.</summary>
    public static void MapJobs(this IEndpointRouteBuilder app)
    {
        app.MapGet("/jobs/{id:long}/events", (long id, JobStore jobs, CancellationToken cancel) =>
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
            return Results.LocalRedirect($"/sessions/{job.SessionId}/print");
        });
    }

    /// <summary>How far it is, in words: "Printing, 42 %, 0:03 left".</summary>
    public static string Sentence(Job job)
    {
        var what = job.Kind == TakeKind.Print ? "Printing" : "Cutting";
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

    private static async IAsyncEnumerable<SseItem<string>> Events(long id, JobStore jobs, [EnumeratorCancellation] CancellationToken cancel)
    {
        var last = "";
        while (!cancel.IsCancellationRequested)
        {
            Job? job = null;
            var away = false;
            try
            {
                job = await jobs.Find(id);
            }
            catch (Exception e) when (Resilient.IsOutage(e))
            {
                away = true;
            }

            if (!away && job is not { IsActive: true })
            {
                yield return new SseItem<string>("end", "end");
                yield break;
            }

            var html = away
                ? "<span>The database does not answer just now; the pass goes on.</span>"
                : $"<progress max=\"1\" value=\"{job!.Share:0.000}\" aria-label=\"Share done\"></progress> <span>{HtmlEncoder.Default.Encode(Sentence(job))}</span>";
            if (!away && job is { Levels.Length: > 0 })
            {
                yield return new SseItem<string>(LevelBars(job.Levels), "levels");
            }

            if (html != last)
            {
                yield return new SseItem<string>(html, "progress");
                last = html;
            }

            await Task.Delay(Interval, cancel).ContinueWith(_ => { }, TaskScheduler.Default);
        }
    }
}
