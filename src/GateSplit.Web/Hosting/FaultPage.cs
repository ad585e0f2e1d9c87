using System.Text.Encodings.Web;
using GateSplit.Data;
using GateSplit.Jobs;

namespace GateSplit.Web.Hosting;

/// <summary>
/// When a page cannot be made: a sentence instead of a fault. An outage of the database tries again by itself; what cannot be read is told
/// with its place; anything else gets a number under which the log has all of it.
/// </summary>
public sealed class FaultPage(RequestDelegate next, ILogger<FaultPage> log)
{
    private const string Outage = "The database does not answer just now. Nothing is lost; this page tries again by itself every few seconds.";

    /// <summary>Runs the rest and catches what it throws.</summary>
    public async Task InvokeAsync(HttpContext context)
    {
        try
        {
            await next(context);
        }
        catch (Exception e) when (Resilient.IsOutage(e) && !context.Response.HasStarted)
        {
            log.LogWarning("The database does not answer: {Message}", e.Message);
            var again = context.Request.Method == HttpMethods.Get ? "<meta http-equiv=\"refresh\" content=\"3\">" : "";
            await Tell(context, StatusCodes.Status503ServiceUnavailable, Outage, "Try now", context.Request.Path, again);
        }
        catch (UnreadableException e) when (!context.Response.HasStarted)
        {
            log.LogError("{Sentence}", e.Message);
            await Tell(context, StatusCodes.Status500InternalServerError, $"{e.Message} Nothing was changed; all else goes on.", "To the sessions", "/");
        }
        catch (Exception e) when (e is not OperationCanceledException && !context.Response.HasStarted)
        {
            var number = Guid.NewGuid().ToString("N")[..8];
            log.LogError(e, "Fault {Fault} at {Method} {Path}", number, context.Request.Method, context.Request.Path);
            await Tell(
                context,
                StatusCodes.Status500InternalServerError,
                $"Something went wrong here that should not. What you had kept is as it was. The log has it under the number {number}.",
                "To the sessions",
                "/");
        }
    }

    private static async Task Tell(HttpContext context, int status, string sentence, string link, string address, string head = "")
    {
        context.Response.Clear();
        await new SecurityHeaders(_ => Task.CompletedTask).InvokeAsync(context);
        context.Response.StatusCode = status;
        context.Response.ContentType = "text/html; charset=utf-8";
        if (status == StatusCodes.Status503ServiceUnavailable)
        {
            context.Response.Headers.RetryAfter = "3";
        }

        await context.Response.WriteAsync(
            $"""
            <!doctype html><html lang="en"><head><meta charset="utf-8">{head}<title>Gate Split</title>
            <link rel="stylesheet" href="/css/site.css"></head>
            <body class="alone"><main><h1>Gate Split</h1><p id="sentence">{HtmlEncoder.Default.Encode(sentence)}</p>
            <p><a href="{HtmlEncoder.Default.Encode(address)}">{link}</a></p></main></body></html>
            """);
    }
}
